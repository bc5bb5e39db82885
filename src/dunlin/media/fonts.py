"""The fonts that captions are drawn with, in the browser and in the burn."""

from pathlib import Path

__all__ = ["FONTS"]

FONTS = Path(__file__).parent.parent / "fonts"
