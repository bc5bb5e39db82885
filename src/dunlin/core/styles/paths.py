"""Outlines as SVG has them, and as the render script does: windows that captions are seen through."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, TypeAlias

__all__ = [
    "Segment",
    "bounds_of",
    "drawn_path",
    "filling_path",
    "outline_of_drawing",
    "segments_of",
]

Point: TypeAlias = tuple[float, float]

_PIECE = re.compile(r"([MLQCZ])([^MLQCZ]*)")
_POINTS = {"M": 1, "L": 1, "Q": 2, "C": 3, "Z": 0}


@dataclass(frozen=True)
class Segment:
    """A piece of an outline: where it begins, a straight line, a curve with one handle or two, or the way back."""

    kind: Literal["M", "L", "Q", "C", "Z"]
    points: tuple[Point, ...]


@lru_cache(64)
def segments_of(data: str) -> tuple[Segment, ...]:
    """The pieces of path data (SVG 2, 9.3) of absolute moves, lines and curves, as `bounds.PathData` holds it."""
    found = []
    for match in _PIECE.finditer(data):
        kind: Literal["M", "L", "Q", "C", "Z"] = match[1]  # type: ignore[assignment]
        numbers = [float(number) for number in match[2].replace(",", " ").split()]
        points = tuple(zip(numbers[::2], numbers[1::2], strict=False))
        if len(points) != _POINTS[kind]:
            continue
        found.append(Segment(kind, points))
    return tuple(found)


def bounds_of(data: str) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what the points of an outline take, handles among them."""
    points = [point for segment in segments_of(data) for point in segment.points]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return min(xs), min(ys), max(xs), max(ys)


# What moves is drawn frame by frame, and nearly always in the same size.
@lru_cache(64)
def filling_path(data: str, width: float, height: float, scale: float) -> str:
    """The same as `drawn_path`, moved and stretched so that it fills a box from 0, 0.

    :param width: of the box, in pixels
    """
    left, top, right, bottom = bounds_of(data)
    across, down = width / max(right - left, _THIN), height / max(bottom - top, _THIN)
    moved = [
        Segment(segment.kind, tuple((x - left, y - top) for x, y in segment.points))
        for segment in segments_of(data)
    ]
    return " ".join(_words(moved, across * scale, down * scale))


_THIN = 1e-6
"""What is not even so wide is a line, and stays one."""


def drawn_path(data: str, across: float, down: float, scale: float) -> str:
    """Path data in the words of a render script: m, l and b with whole numbers.

    :param across: pixels that one of the path is horizontally
    :param down: the same vertically
    :param scale: units of the script's path to a pixel
    """
    return " ".join(_words(segments_of(data), across * scale, down * scale))


def _words(segments: Iterable[Segment], across: float, down: float) -> Iterator[str]:
    def put(*points: Point) -> str:
        return " ".join(f"{round(x * across)} {round(y * down)}" for x, y in points)

    at: Point = (0.0, 0.0)
    for segment in segments:
        if segment.kind == "Z":
            # The script closes each outline by itself.
            continue
        if segment.kind == "Q":
            handle, end = segment.points
            yield f"b {put(_towards(at, handle), _towards(end, handle), end)}"
        else:
            yield f"{ {'M': 'm', 'L': 'l', 'C': 'b'}[segment.kind] } {put(*segment.points)}"
        at = segment.points[-1]


def _towards(end: Point, handle: Point) -> Point:
    """The handle of a cubic curve that goes as a quadratic one does: two thirds of the way to its handle."""
    return (end[0] + (handle[0] - end[0]) * 2 / 3, end[1] + (handle[1] - end[1]) * 2 / 3)


_DRAWN = re.compile(r"([a-z])([^a-z]*)")
_DRAWS = {"m": ("M", 1), "n": ("M", 1), "l": ("L", 1), "b": ("C", 3)}


def outline_of_drawing(drawing: str, width: float, height: float) -> str | None:
    """Path data of what a render script draws, in parts of a box; None of one that is no outline, or has splines.

    :param width: of the box, in the drawing's units
    """
    pieces = []
    for match in _DRAWN.finditer(drawing):
        if match[1] not in _DRAWS:
            return None
        letter, count = _DRAWS[match[1]]
        try:
            numbers = [float(number) for number in match[2].split()]
        except ValueError:
            return None
        points = list(zip(numbers[::2], numbers[1::2], strict=False))
        if not all(abs(x) <= 10 * width and abs(y) <= 10 * height for x, y in points):
            return None
        for at in range(0, len(points) - len(points) % count, count):
            said = " ".join(
                f"{_plain(x / width)} {_plain(y / height)}" for x, y in points[at : at + count]
            )
            pieces.append(f"{letter}{said}")
    return "".join(pieces) + "Z" if pieces and pieces[0][0] == "M" else None


def _plain(number: float) -> str:
    """Without an exponent, and no longer than a hundredth of a pixel needs."""
    return f"{number:.6f}".rstrip("0").rstrip(".")
