"""An upright window over a film that is wider: which part of its picture is kept."""

import re
from dataclasses import dataclass

from dunlin.core.messages import BadInput, message
from dunlin.core.styles.picture import Script

__all__ = ["Part", "Window", "part_of", "window_called"]

_CALLED = re.compile(r"(\d{1,2}):(\d{1,2})(?:@(\d*\.?\d+))?")
_MOST = 4
"""How many times as tall as wide, or as wide as tall, a window may be."""


@dataclass(frozen=True)
class Window:
    """A window of a shape, as large as the picture lets it be; its middle stands at `x` and `y`, parts of the picture's width
    and height, as far as the picture reaches."""

    across: int
    down: int
    x: float = 0.5
    y: float = 0.5


@dataclass(frozen=True)
class Part:
    """A part of a picture in whole pixels, even ones, as films are coded."""

    left: int
    top: int
    width: int
    height: int


def window_called(text: str) -> Window:
    """A window as `9:16` or `9:16@0.4` says it: its shape, and where across the picture its middle is.

    :raises BadInput: when it says none
    """
    match = _CALLED.fullmatch(text)
    x = float(match[3] or 0.5) if match else -1.0
    if not match or not (int(match[1]) and int(match[2])) or not 0 <= x <= 1:
        raise BadInput(message("cli.no-window", text=text))
    across, down = int(match[1]), int(match[2])
    if not 1 / _MOST <= across / down <= _MOST:
        raise BadInput(message("cli.no-window", text=text))
    return Window(across, down, x)


def part_of(window: Window, picture: Script) -> Part:
    """The part of a picture that a window keeps, which never leaves it."""
    width = min(picture.width, picture.height * window.across // window.down) // 2 * 2
    height = min(picture.height, picture.width * window.down // window.across) // 2 * 2
    left = min(max(round(window.x * picture.width - width / 2), 0), picture.width - width)
    top = min(max(round(window.y * picture.height - height / 2), 0), picture.height - height)
    return Part(left // 2 * 2, top // 2 * 2, max(width, 2), max(height, 2))
