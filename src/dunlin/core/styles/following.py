"""What is marked in the picture, frame by frame: how paths that were seen meet, and what they make of a caption's time."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import cos, radians, sin

from dunlin.core.captions.bounds import FARTHEST
from dunlin.core.captions.look import Moment

__all__ = [
    "Mark",
    "Path",
    "Seen",
    "Stood",
    "joined",
    "moments_along",
    "on_the_way",
    "seen_at",
    "stands_at",
]


@dataclass(frozen=True)
class Mark:
    """A box around something in the picture, as a hand has put it at a frame."""

    frame: int
    x: float
    """Its middle, in parts of the picture's width and height, as `y`, `width` and `height` are."""
    y: float
    width: float
    height: float
    turn: float = 0
    """Degrees clockwise."""


@dataclass(frozen=True)
class Seen:
    """Where what was marked is at a frame."""

    frame: int
    x: float
    """The middle of the box, in parts of the picture's width and height."""
    y: float
    scale: float
    """How large it is against the earliest mark."""
    turn: float
    """Degrees clockwise, as the picture has it."""
    sure: float
    """Which part of what could be told apart in the mark is found again here, from 0 to 1."""


@dataclass(frozen=True)
class Path:
    """Where what was marked is from its first frame to its last, each of them once."""

    width: float
    """Of the box where `scale` is 1, in parts of the picture's width, and of its height."""
    height: float
    seen: tuple[Seen, ...]


@dataclass(frozen=True)
class Stood:
    """How a caption stands on what is followed: all that the path changes."""

    x: float
    y: float
    size: float
    turn: float


def joined(marks: Sequence[Mark], found: Mapping[int, Sequence[Seen]]) -> Path:
    """One path of what was seen from each mark, forth and back.

    At a mark it is where the hand has put it. Between two, it goes over from what is seen from the one to what is seen from
    the other; where only one of them sees it, that one counts; and where neither does, it goes in even steps.

    :param marks: in the order of their frames; sizes are told against the first
    :param found: what was seen from a mark, by its frame, in the order of frames, with the mark's own among them; from one
        mark at most to the next
    """
    first = marks[0]
    seen: list[Seen] = []
    for mark, after in pairwise(marks):
        from_first = {each.frame: each for each in found[mark.frame] if each.frame >= mark.frame}
        from_second = {each.frame: each for each in found[after.frame] if each.frame <= after.frame}
        seen += _between(mark, after, from_first, from_second)
    before = [each for each in found[first.frame] if each.frame < first.frame]
    behind = [each for each in found[marks[-1].frame] if each.frame >= marks[-1].frame]
    return Path(first.width, first.height, (*before, *seen, *behind))


def _between(
    first: Mark, last: Mark, from_first: Mapping[int, Seen], from_last: Mapping[int, Seen]
) -> list[Seen]:
    count = last.frame - first.frame
    start, end = from_first[first.frame], from_last[last.frame]
    path = []
    for frame in range(first.frame, last.frame):
        part = (frame - first.frame) / count
        one, other = from_first.get(frame), from_last.get(frame)
        if one and other:
            path.append(on_the_way(one, other, part, frame))
        else:
            path.append(one or other or replace(on_the_way(start, end, part, frame), sure=0.0))
    return path


def on_the_way(one: Seen, other: Seen, part: float, frame: int) -> Seen:
    """What lies so far on the way from one to another, by the short turn."""

    def mixed(before: float, after: float) -> float:
        return before + (after - before) * part

    around = (other.turn - one.turn + 180) % 360 - 180
    return Seen(
        frame,
        mixed(one.x, other.x),
        mixed(one.y, other.y),
        mixed(one.scale, other.scale),
        one.turn + around * part,
        mixed(one.sure, other.sure),
    )


def seen_at(path: Path, frame: int) -> Seen:
    """Where it is at a frame; before the first as there, behind the last as there."""
    first = path.seen[0].frame
    return path.seen[min(max(frame - first, 0), len(path.seen) - 1)]


def stands_at(stood: Stood, then: Seen, now: Seen, ratio: float) -> Stood:
    """How what stood on it then stands now: moved, turned and grown about the middle of what is followed.

    :param ratio: of the picture, its width as a part of its height
    """
    scale, turned = now.scale / then.scale, now.turn - then.turn
    across, down = (stood.x - then.x) * ratio, stood.y - then.y
    c, s = cos(radians(turned)) * scale, sin(radians(turned)) * scale
    return Stood(
        now.x + (across * c - down * s) / ratio,
        now.y + across * s + down * c,
        stood.size * scale,
        stood.turn + turned,
    )


def moments_along(
    path: Path,
    stood: Stood,
    at_frame: int,
    ratio: float,
    ms_of: Callable[[int], int],
    within: float,
    length_ms: int,
) -> tuple[Moment, ...]:
    """The moments that keep a caption where it stands on what is followed.

    Only as many as are needed: between two of them, in even steps, it is nowhere farther off than `within`.

    :param at_frame: the frame at which it stands as `stood` says
    :param ms_of: when a frame is, from the caption's in; those outside of its time are left out
    :param within: a part of the picture's height
    """
    then = seen_at(path, at_frame)
    every = [
        (at_ms, stands_at(stood, then, each, ratio))
        for each in path.seen
        if 0 <= (at_ms := ms_of(each.frame)) < length_ms
    ]
    return tuple(
        Moment(at_ms, x=_near(now.x), y=_near(now.y), size=_sized(now.size), turn=_half(now.turn))
        for at_ms, now in _thinned(every, ratio, within)
    )


def _near(share: float) -> float:
    return min(max(share, -FARTHEST), FARTHEST)


def _sized(size: float) -> float:
    return min(max(size, 0.001), 2.0)


def _half(degrees: float) -> float:
    """The same angle from -180 to 180."""
    return (degrees + 180) % 360 - 180


def _thinned(
    every: Sequence[tuple[int, Stood]], ratio: float, within: float
) -> list[tuple[int, Stood]]:
    """By Douglas and Peucker (Cartographica 10, 1973), over time: the farthest off is kept, until none is too far."""
    kept = {0, len(every) - 1}
    open_: list[tuple[int, int]] = [(0, len(every) - 1)]
    while open_:
        first, last = open_.pop()
        if last - first < 2:
            continue
        off, farthest = max(
            (_off(every[first], every[last], every[n], ratio), n) for n in range(first + 1, last)
        )
        if off > within:
            kept.add(farthest)
            open_ += [(first, farthest), (farthest, last)]
    if kept == {0, len(every) - 1} and _off(every[0], every[0], every[-1], ratio) <= within:
        kept = {0}
    return [every[n] for n in sorted(kept)] if every else []


def _off(
    first: tuple[int, Stood], last: tuple[int, Stood], at: tuple[int, Stood], ratio: float
) -> float:
    """How far it is off at a time, at the end of letters that are ten times as long as high."""
    (start_ms, one), (end_ms, other), (at_ms, there) = first, last, at
    part = (at_ms - start_ms) / max(end_ms - start_ms, 1)
    x = one.x + (other.x - one.x) * part - there.x
    y = one.y + (other.y - one.y) * part - there.y
    size = one.size + (other.size - one.size) * part - there.size
    turn = one.turn + (other.turn - one.turn) * part - there.turn
    reach = _REACH * there.size
    return max(abs(x) * ratio, abs(y)) + _REACH * abs(size) + radians(abs(turn)) * reach


_REACH = 5
"""Letters reach so many times their height to either side of their point: so far out, turns and sizes are told."""
