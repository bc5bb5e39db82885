"""The picture that captions are laid out on."""

from dataclasses import dataclass

__all__ = ["Script", "base_size"]


@dataclass(frozen=True)
class Script:
    """Picture size in pixels the script is laid out on."""

    width: int
    height: int


def base_size(picture: Script) -> float:
    """Pixels that sizes of a style are parts of."""
    # On upright pictures lines are short; the size goes by the width there, or words would not fit.
    return min(picture.height, picture.width * 1.25)
