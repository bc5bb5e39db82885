"""A window over a film's picture: which part of it is kept, and where that is from time to time."""

import re
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from dunlin.core.messages import BadInput, message
from dunlin.core.styles.picture import Script
from dunlin.core.versions.model import Version, WindowMoment

__all__ = [
    "Way",
    "needs_shape",
    "picture_of",
    "place_at",
    "version_called",
    "ways_across",
    "window_size",
]

_CALLED = re.compile(r"(\d{1,2}:\d{1,2})(?:@(\d*\.?\d+))?")
_MOST = 4
"""How many times as tall as wide, or as wide as tall, a picture may be."""


def version_called(text: str) -> Version:
    """A window as `9:16` or `9:16@0.4` says it: its shape, and where across the film's picture its middle is.

    :raises BadInput: when it says none
    """
    match = _CALLED.fullmatch(text)
    x = float(match[2] or 0.5) if match else -1.0
    if not match or _sides(match[1]) is None or not 0 <= x <= 1:
        raise BadInput(message("cli.no-window", text=text))
    return Version(name=match[1], shape=match[1], moments=(WindowMoment(0, x),))


def _sides(shape: str) -> tuple[int, int] | None:
    across, down = map(int, shape.split(":"))
    return (across, down) if across and down and 1 / _MOST <= across / down <= _MOST else None


def needs_shape(version: Version) -> None:
    """:raises BadInput: when no picture can have the shape of a version"""
    if version.shape is not None and _sides(version.shape) is None:
        raise BadInput(message("versions.no-shape", shape=version.shape))


def window_size(version: Version, film: Script) -> Script:
    """The part of the film's picture that a version's window keeps, in whole pixels, even ones, as films are coded."""
    sides = _sides(version.shape) if version.shape else None
    if sides is None:
        return Script(film.width // 2 * 2, film.height // 2 * 2)
    across, down = sides
    width = min(film.width, film.height * across // down) // 2 * 2
    height = min(film.height, film.width * down // across) // 2 * 2
    return Script(max(width, 2), max(height, 2))


def picture_of(version: Version, film: Script) -> Script:
    """The picture that a version's captions are laid out on."""
    if not version.whole or version.shape is None:
        return window_size(version, film)
    across, down = _sides(version.shape) or (film.width, film.height)
    # As many pixels as the longer side of the film has, so that nothing of it is lost.
    longer = max(film.width, film.height)
    if across < down:
        return Script(longer * across // down // 2 * 2, longer // 2 * 2)
    return Script(longer // 2 * 2, longer * down // across // 2 * 2)


def place_at(moments: Sequence[WindowMoment], at_ms: float) -> tuple[float, float]:
    """Where the middle of a window is at a time, in parts of the film's picture.

    On its way it begins and ends slowly: of the part p of the time, 3p² − 2p³ of the way is done.
    """
    after = bisect_right([moment.at_ms for moment in moments], at_ms)
    here = moments[max(after - 1, 0)] if moments else WindowMoment(0)
    there = moments[after] if 0 < after < len(moments) else here
    if there.comes == "cut" or there is here:
        return here.x, here.y
    part = (at_ms - here.at_ms) / (there.at_ms - here.at_ms)
    eased = part * part * (3 - 2 * part)
    return here.x + (there.x - here.x) * eased, here.y + (there.y - here.y) * eased


@dataclass(frozen=True)
class Way:
    """How a coordinate of a window goes from a time on: from a value to another, or staying."""

    from_ms: int
    to_ms: int | None
    """None while it stays."""
    value: float
    to: float


def ways_across(moments: Sequence[WindowMoment], down: bool = False) -> list[Way]:
    """How the window goes across the film's picture, or down it, piece by piece in the order of time."""
    if not moments:
        return [Way(0, None, 0.5, 0.5)]
    ways = []
    for moment, following in zip(moments, [*moments[1:], None], strict=True):
        value = moment.y if down else moment.x
        to = value
        if following and following.comes == "glide":
            to = following.y if down else following.x
        ways.append(
            Way(moment.at_ms, following.at_ms if following and to != value else None, value, to)
        )
    return ways
