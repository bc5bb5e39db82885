"""What it costs to take passages for the same, in natural logarithms; less is likelier."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Mapping, Sequence
from math import log
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from dunlin.core.language.pairing.signs import STRONG_ENDS, Signs, joined

__all__ = ["WAYS", "Costs", "Floats", "Standing", "Way"]

Floats: TypeAlias = npt.NDArray[np.float64]
Way: TypeAlias = tuple[int, int]
"""So many passages of the source are so many of the translation."""
Standing: TypeAlias = Mapping[str, frozenset[str]]
"""Words of the other language that mostly stand where one of ours does."""

WAYS: Mapping[Way, float] = {
    (1, 1): 0.85, (1, 0): 0.02, (0, 1): 0.02, (2, 1): 0.05, (1, 2): 0.05, (2, 2): 0.01,
}  # fmt: skip
"""How often so many passages of one text are so many of the other: as in Gale and Church, table 5, but that captions leave
out, join and part more than minutes of a parliament do."""
_SPREAD = 6.8
"""Variance of the length of a translation, a character of the source (Gale and Church, 2.2)."""
_SAME, _OTHER = 3.5, 2.0
"""What a number or a name that is in both is worth, and what one costs that is in one alone."""
_END, _APART_MS, _MOST_APART = 0.7, 1500, 12.0
_ALONE = 1.0
_STANDS, _LACKS, _MOST_SAID = 2.0, 1.2, 12.0
_LEAST_CHANCE = 1e-12


class _Side:
    """The passages of the translation, or each with the one before it, as arrays: the one at `j` ends before `j`."""

    def __init__(self, signs: Sequence[Signs], many: int) -> None:
        none = [Signs(1, frozenset(), frozenset(), "", None, None)] * many
        self.signs = [*none, *(joined(signs[j - many : j]) for j in range(many, len(signs) + 1))]
        self.length = np.array([one.length for one in self.signs], float)
        self.numbers = np.array([len(one.numbers) for one in self.signs])
        self.ends = np.array([one.end for one in self.signs])
        self.is_strong = np.array([bool(one.end) and one.end in STRONG_ENDS for one in self.signs])
        self.ins = _times(one.in_ms for one in self.signs)
        self.outs = _times(one.out_ms for one in self.signs)
        self.by_number = _places(one.numbers for one in self.signs)
        self.by_name = _places(one.names for one in self.signs)
        self.by_word = _places(one.words for one in self.signs)


def _times(times: Iterable[int | None]) -> Floats:
    return np.array([np.nan if ms is None else ms for ms in times], float)


def _places(sets: Iterable[frozenset[str]]) -> dict[str, list[int]]:
    """In which passages each thing is, in their order."""
    found: dict[str, list[int]] = {}
    for at, things in enumerate(sets):
        for thing in things:
            found.setdefault(thing, []).append(at)
    return found


class Costs:
    """The costs of all ways in which passages of two texts may be the same."""

    def __init__(
        self, ours: Sequence[Signs], theirs: Sequence[Signs], ratio: float, standing: Standing
    ) -> None:
        """:param ratio: characters of the translation for one of the source"""
        self._ours, self._ratio, self._standing = ours, ratio, standing
        self._sides = {many: _Side(theirs, many) for many in (1, 2) if len(theirs) >= many}

    def of_source_alone(self, i: int) -> float:
        """That what ends before `i` is not translated. What it says is missing on the other side."""
        return -log(WAYS[1, 0]) + _ALONE + 0.5 * _OTHER * len(self._ours[i - 1].numbers)

    def of_targets_alone(self, low: int, high: int) -> Floats:
        """That what ends before each place translates nothing, from `low` to `high`."""
        numbers = self._sides[1].numbers[low : high + 1]
        return np.asarray(-log(WAYS[0, 1]) + _ALONE + 0.5 * _OTHER * numbers)

    def together(self, i: int, way: Way, low: int, high: int) -> Floats:
        """That the passages before `i` are those before each place from `low` to `high`."""
        # A start that pairs nothing does not wait for it.
        from scipy.special import erfc

        side = self._sides.get(way[1])
        if side is None:
            return np.full(high - low + 1, np.inf)
        one = joined(self._ours[i - way[0] : i])
        span = slice(low, high + 1)
        length, wanted = side.length[span], one.length * self._ratio
        off = (length - wanted) / np.sqrt(np.maximum(wanted, length) * _SPREAD)
        cost = -log(WAYS[way]) - np.log(np.maximum(erfc(np.abs(off) / np.sqrt(2)), _LEAST_CHANCE))
        cost += self._of_numbers(one, side, low, high)
        for at, count in _counted(one.names, side.by_name, low, high).items():
            cost[at] -= _SAME * min(count, 2)
        strong = side.is_strong[span] | (bool(one.end) and one.end in STRONG_ENDS)
        cost += np.where(strong, np.where(side.ends[span] == one.end, -_END, _END), 0)
        if self._standing:
            cost += self._of_words(one, side, low, high)
        cost += _apart(one, side, span)
        cost[: max(way[1] - low, 0)] = np.inf
        return np.asarray(cost)

    def _of_numbers(self, one: Signs, side: _Side, low: int, high: int) -> Floats:
        apart = len(one.numbers) + side.numbers[low : high + 1]
        same = _counted(one.numbers, side.by_number, low, high)
        cost = np.zeros(len(apart))
        for at, count in same.items():
            apart[at] -= 2 * count
            cost[at] -= _SAME * min(count, 2)
        # Names change with their language; numbers do not.
        return np.asarray(cost + _OTHER * np.minimum(apart, 2))

    def _of_words(self, one: Signs, side: _Side, low: int, high: int) -> Floats:
        known = [self._standing[word] for word in one.words if word in self._standing]
        said = np.zeros(high - low + 1)
        for words in known:
            there = {at for word in words for at in _within(side.by_word.get(word), low, high)}
            said[list(there)] += 1
        lacking = len(known) - said
        return np.asarray(
            np.minimum(_LACKS * lacking, _MOST_SAID) - np.minimum(_STANDS * said, _MOST_SAID)
        )


def _counted(
    things: Iterable[str], places: Mapping[str, Sequence[int]], low: int, high: int
) -> dict[int, int]:
    """How many of some things are in each passage between two places, counted from the first."""
    found: dict[int, int] = {}
    for thing in things:
        for at in _within(places.get(thing), low, high):
            found[at] = found.get(at, 0) + 1
    return found


def _within(places: Sequence[int] | None, low: int, high: int) -> Iterator[int]:
    if not places:
        return
    for n in range(bisect_left(places, low), len(places)):
        if places[n] > high:
            return
        yield places[n] - low


def _apart(one: Signs, side: _Side, span: slice) -> Floats | float:
    """What it costs that passages are shown at other times."""
    if one.in_ms is None and one.out_ms is None:
        return 0.0
    off = np.zeros(span.stop - span.start)
    for ms, times in ((one.in_ms, side.ins), (one.out_ms, side.outs)):
        if ms is not None:
            off += np.nan_to_num(np.abs(times[span] - ms))
    return np.asarray(np.minimum(off / _APART_MS, _MOST_APART))
