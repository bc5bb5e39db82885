"""The filled grounds behind captions, as outlines."""

from collections.abc import Sequence
from itertools import pairwise
from math import hypot

from dunlin.core.styles.layout import Layout, Line
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script, base_size

__all__ = ["Outline", "ground_outlines", "path_of"]

Point = tuple[float, float]
Outline = tuple[Point, ...]
"""Corners of a polygon in pixels of the picture, clockwise."""

_ROUND = 0.5523
"""How far the handles of a quarter circle reach, as a part of its radius (Riškus 2006)."""
_TEARS, _TEAR = 9, 0.06
"""Steps of a torn end, and how far it reaches out, as a part of the strip's height."""
_GOLDEN = 0.618034
_LEAST = 0.01
"""Pixels; corners that are nearer to each other are one."""


def ground_outlines(layout: Layout, style: Style, picture: Script) -> list[Outline]:
    """What is filled behind a caption: one outline around all of it, or around its lines.

    Lines that follow each other share one outline, so that a half-transparent ground is nowhere laid over itself.
    """
    padding = style.background_padding * base_size(picture)
    if style.background_shape != "lines":
        left, top, right, bottom = layout.box
        box = (left - padding, top - padding, right + padding, bottom + padding)
        return [_torn(*box) if style.background_shape == "torn" else _rectangle(*box)]
    return [_around(run, padding) for run in _runs(layout.lines, padding)]


def _rectangle(left: float, top: float, right: float, bottom: float) -> Outline:
    return ((left, top), (right, top), (right, bottom), (left, bottom))


def _torn(left: float, top: float, right: float, bottom: float) -> Outline:
    """A strip of paper whose ends are torn: the same for a strip of the same height, so that it never moves."""
    height = bottom - top
    steps = range(_TEARS + 1)
    rightward = [(right + _TEAR * height * _bite(n), top + height * n / _TEARS) for n in steps]
    leftward = [
        (left - _TEAR * height * _bite(n + 5), top + height * n / _TEARS) for n in reversed(steps)
    ]
    return (*rightward, *leftward)


def _bite(n: int) -> float:
    """How far a tear reaches out at a step, from -1 to 1: uneven to the eye, the same each time (the fractional parts of
    multiples of the golden ratio are spread evenly, Knuth, TAOCP 3, 6.4)."""
    return 2 * (n * _GOLDEN % 1) - 1


def _runs(lines: Sequence[Line], padding: float) -> list[list[Line]]:
    """Lines in runs whose grounds touch: an empty line, or much room between two, parts them."""
    runs: list[list[Line]] = []
    for line in lines:
        if not line.width:
            runs.append([])
        elif (
            runs
            and runs[-1]
            and line.top - (runs[-1][-1].top + runs[-1][-1].height) < 2 * padding + _LEAST
        ):
            runs[-1].append(line)
        else:
            runs.append([line])
    return [run for run in runs if run]


def _around(lines: Sequence[Line], padding: float) -> Outline:
    """A staircase around lines: each as wide as it is, parted midway between them."""
    between = [(a.top + a.height + b.top) / 2 for a, b in pairwise(lines)]
    edges = [lines[0].top - padding, *between, lines[-1].top + lines[-1].height + padding]
    right: list[Point] = []
    left: list[Point] = []
    for line, (top, bottom) in zip(lines, pairwise(edges), strict=True):
        right += [(line.left + line.width + padding, y) for y in (top, bottom)]
        left += [(line.left - padding, y) for y in (top, bottom)]
    return _without_doubles((*right, *reversed(left)))


def _without_doubles(points: Sequence[Point]) -> Outline:
    """Corners without those that stand on the one before, or on the way to the next."""
    kept: list[Point] = []
    for n, point in enumerate(points):
        before = kept[-1] if kept else points[-1]
        after = points[(n + 1) % len(points)]
        (ax, ay), (bx, by) = (
            (point[0] - before[0], point[1] - before[1]),
            (after[0] - point[0], after[1] - point[1]),
        )
        if hypot(ax, ay) > _LEAST and abs(ax * by - ay * bx) > _LEAST**2:
            kept.append(point)
    return tuple(kept)


def path_of(outline: Outline, radius: float, scale: float) -> str:
    """An outline with rounded corners in the words of a render script: m, l and b with whole numbers.

    :param radius: of the corners, in pixels; no more than half of the shorter side at a corner
    :param scale: units of the path to a pixel
    """
    words: list[str] = []

    def put(word: str, *points: Point) -> None:
        words.append(
            " ".join([word, *(f"{round(x * scale)} {round(y * scale)}" for x, y in points)])
        )

    count = len(outline)
    for n, corner in enumerate(outline):
        before, after = outline[n - 1], outline[(n + 1) % count]
        reach = min(radius, _distance(before, corner) / 2, _distance(corner, after) / 2)
        if reach <= _LEAST:
            put("l" if words else "m", corner)
            continue
        put("l" if words else "m", _towards(corner, before, reach))
        handles = [_towards(corner, other, reach * (1 - _ROUND)) for other in (before, after)]
        put("b", *handles, _towards(corner, after, reach))
    return " ".join(words)


def _distance(a: Point, b: Point) -> float:
    return hypot(b[0] - a[0], b[1] - a[1])


def _towards(start: Point, end: Point, by: float) -> Point:
    part = by / _distance(start, end)
    return (start[0] + (end[0] - start[0]) * part, start[1] + (end[1] - start[1]) * part)
