"""A film in small pictures, kept beside it: what lies behind captions."""

from pathlib import Path

import numpy as np

from dunlin.core.styles.contrast import BACKDROP_STEP_MS, Backdrop

__all__ = ["BACKDROP_FILE", "BACKDROP_FILTER", "backdrop_in"]

_WIDTH, _HEIGHT = 32, 18
BACKDROP_FILE = "backdrop.rgb"
"""Where they are kept beside the film, one after the other, three bytes a pixel."""

BACKDROP_FILTER = (
    f"fps={1000 / BACKDROP_STEP_MS:g},scale={_WIDTH}:{_HEIGHT}:flags=area,format=rgb24"
)
"""What makes them of a film's picture."""


def backdrop_in(folder: Path) -> Backdrop | None:
    """Those kept in a folder; None while there are none."""
    file = folder / BACKDROP_FILE
    if not file.is_file():
        return None
    size = _WIDTH * _HEIGHT * 3
    count = file.stat().st_size // size
    if not count:
        return None
    bytes_ = np.memmap(file, np.uint8, "r", shape=(count * size,))
    return Backdrop(bytes_.reshape(count, _HEIGHT, _WIDTH, 3))
