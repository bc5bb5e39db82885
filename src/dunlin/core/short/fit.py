"""Words that would run out of what a viewer sees: broken, parted or made smaller, as their look says."""

from collections.abc import Sequence
from dataclasses import dataclass

from dunlin.core.short.model import Fit

__all__ = ["Fitted", "Widths", "fitted", "halved"]


@dataclass(frozen=True)
class Widths:
    """What words take and may take, in pixels."""

    words: tuple[float, ...]
    """Of each at its widest."""
    space: float
    room: float
    """Of a line."""
    below: float = 1.0
    """Size of the second line, as a part of that of the first."""

    def line(self, first: int, after: int, size: float = 1.0) -> float:
        return size * (sum(self.words[first:after]) + self.space * (after - first - 1))


@dataclass(frozen=True)
class Fitted:
    """A caption that fits: its words from `first` to before `after`, in lines that end before these words, so large."""

    first: int
    after: int
    breaks: tuple[int, ...] = ()
    size: float = 1.0


def fitted(
    widths: Widths, joints: Sequence[float], fit: Fit, first: int, after: int, lines: int
) -> list[Fitted]:
    """One caption, or several, that say these words within their room.

    What the look wants is done in its order: the caption is parted, broken into two lines, or its letters become smaller,
    never below their bound. A single word that is too wide even so is as small as it has to be.

    :param joints: how bad it is to part words after each, as `joint_cost` tells
    :param lines: how many lines are wanted at the most
    """
    whole = _in_lines(widths, joints, first, after, lines)
    if whole:
        return [whole]
    for mend in fit.order:
        if mend == "two-lines" and lines < 2:
            if found := _in_lines(widths, joints, first, after, 2):
                return [found]
        elif mend == "smaller":
            for count in dict.fromkeys((lines, 2) if "two-lines" in fit.order else (lines,)):
                found = _smaller(widths, joints, first, after, count)
                if found and found.size >= fit.smallest:
                    return [found]
        elif mend == "fewer-words" and after - first > 1:
            middle = _middle(widths, joints, first, after)
            return [
                part
                for begin, end in ((first, middle), (middle, after))
                for part in fitted(widths, joints, fit, begin, end, lines)
            ]
    return [_smaller(widths, joints, first, after, max(lines, 2))]


def halved(widths: Widths, joints: Sequence[float], first: int, after: int) -> Fitted:
    """The words in two lines, broken where that is best, and as small as they have to be; one alone stays in one line."""
    if after - first < 2:
        return _smaller(widths, joints, first, after, 1)
    at = _middle(widths, joints, first, after)
    width = max(widths.line(first, at), widths.line(at, after, widths.below))
    return Fitted(first, after, (at,), min(widths.room / width, 1.0))


def _in_lines(
    widths: Widths,
    joints: Sequence[float],
    first: int,
    after: int,
    lines: int,
    room: float | None = None,
) -> Fitted | None:
    """The words in one line if they fit, else in two, broken where that is best; None where they fit in neither."""
    room = room or widths.room
    if widths.below == 1 and widths.line(first, after) <= room:
        return Fitted(first, after)
    if lines > 1:
        ways = [
            (joints[at - 1] + abs(_uneven(widths, first, at, after)) * _UNEVEN, at)
            for at in range(first + 1, after)
            if widths.line(first, at) <= room and widths.line(at, after, widths.below) <= room
        ]
        if ways:
            return Fitted(first, after, (min(ways)[1],))
    if widths.line(first, after) <= room:
        return Fitted(first, after)
    return None


_UNEVEN = 120.0
"""What a line costs that is empty beside a full one: more than parting a phrase."""


def _uneven(widths: Widths, first: int, at: int, after: int) -> float:
    above, below = widths.line(first, at), widths.line(at, after, widths.below)
    return (above - below) / max(above, below, 1)


def _smaller(widths: Widths, joints: Sequence[float], first: int, after: int, lines: int) -> Fitted:
    """The words in as many lines, as small as they have to be."""
    ways = [(widths.line(first, after), ())] + [
        (max(widths.line(first, at), widths.line(at, after, widths.below)), (at,))
        for at in range(first + 1, after)
        if lines > 1
    ]
    width, breaks = min(ways, key=lambda way: way[0])
    return Fitted(first, after, breaks, min(widths.room / width, 1.0) if width else 1.0)


def _middle(widths: Widths, joints: Sequence[float], first: int, after: int) -> int:
    """Where a caption is best parted in two."""
    return min(
        range(first + 1, after),
        key=lambda at: joints[at - 1] + abs(_uneven(widths, first, at, after)) * _UNEVEN,
    )
