"""A text paired with its translation, passage by passage: by their order, their lengths, and what is the same in both.

Passages are compared by their lengths as in W. A. Gale and K. W. Church, "A Program for Aligning Sentences in Bilingual
Corpora", Computational Linguistics 19 (1993), 75–102, and by numbers, names, end marks and times beside these. The way through
both that costs least is found by dynamic programming. What was paired surely tells which words mostly stand for which
(Dice's measure), and with these it is gone again.
"""

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import erfc, exp, inf, log, sqrt
from statistics import median

from dunlin.core.text.numbers import numbers_in
from dunlin.core.text.words import words_to_compare

__all__ = ["Paired", "Passage", "paired"]


@dataclass(frozen=True)
class Passage:
    """A line or a caption of a text."""

    text: str
    in_ms: int | None = None
    """When it is shown, where that is known of both texts."""
    out_ms: int | None = None


@dataclass(frozen=True)
class Paired:
    """Passages that say the same, by their places in both texts; on one side there may be none."""

    sources: tuple[int, ...]
    targets: tuple[int, ...]
    sureness: float
    """From 0 to 1: how much better this is than to leave them apart."""

    @property
    def is_doubtful(self) -> bool:
        """Whether a person had better look at it."""
        return self.sureness < _DOUBTFUL or not self.sources or not self.targets


_WAYS = {
    (1, 1): 0.85, (1, 0): 0.02, (0, 1): 0.02, (2, 1): 0.05, (1, 2): 0.05, (2, 2): 0.01,
}  # fmt: skip
"""How often so many passages of one text are so many of the other: as in Gale and Church, table 5, but that captions leave
out, join and part more than minutes of a parliament do."""
_SPREAD = 6.8
"""Variance of the length of a translation, a character of the source (Gale and Church, 2.2)."""
_DOUBTFUL = 0.35
_SAME, _OTHER = 3.5, 2.0
"""What a number or a name that is in both is worth, and what one costs that is in one alone; in natural logarithms, as all."""
_END, _APART_MS, _MOST_APART = 0.7, 1500, 12.0
_ALONE, _NEAR = 1.0, 16
_TIMES, _TOGETHER, _DICE = 2, 2, 0.5
"""How often words are learned from what was paired; in how many pairs two stand for each other at the least, and how surely."""
_STANDS, _LACKS, _MOST_SAID = 2.0, 1.2, 12.0
_BAND, _BAND_PART = 60, 0.15
"""How far off the straight way through both it may go: so many passages, or this part of the text, whatever is more."""

_NAME = re.compile(r"(?<![.!?…]\s)(?<!^)\b[^\W\d_][\w'’-]+", re.MULTILINE)
_ENDS = re.compile(r"([.!?…])[\"'”’»)]*$")


@dataclass(frozen=True)
class _Signs:
    """What is compared of a passage."""

    length: int
    numbers: frozenset[str]
    names: frozenset[str]
    end: str
    in_ms: int | None
    out_ms: int | None
    words: frozenset[str] = frozenset()


Standing = Mapping[str, frozenset[str]]
"""Words of the other language that mostly stand where one of ours does."""


def paired(
    sources: Sequence[Passage], targets: Sequence[Passage], language: str, target_language: str
) -> list[Paired]:
    """Pairs of passages in their order; each is in one.

    :param language: BCP 47 tag of the source's; of the other one `target_language`
    """
    ours = [_signs_of(one, language) for one in sources]
    theirs = [_signs_of(one, target_language) for one in targets]
    # Of lines in the middle, as those that only one side has may be many, or long.
    ratio = (
        median(s.length for s in theirs) / median(s.length for s in ours) if ours and theirs else 1
    )
    n, m = len(ours), len(theirs)
    width = max(_BAND, round(_BAND_PART * max(n, m)))
    straight = [round(i * m / n) if n else 0 for i in range(n + 1)]
    found = _best_way(ours, theirs, ratio, {}, straight, width)
    for _ in range(_TIMES):
        # Not far from the way that was found: that costs a part of the time.
        standing = _standing(found, ours, theirs)
        found = _best_way(ours, theirs, ratio, standing, _way_of(found, n), _NEAR)
    return found


def _way_of(pairs: Iterable[Paired], n: int) -> list[int]:
    """How many passages of the translation come before each one of the source, and before its end."""
    way, at = [0] * (n + 1), 0
    for pair in pairs:
        at = max([at, *(target + 1 for target in pair.targets)])
        for source in pair.sources:
            way[source + 1] = at
    return way


def _standing(
    pairs: Iterable[Paired], ours: Sequence[_Signs], theirs: Sequence[_Signs]
) -> Standing:
    """Which words stand for which, of passages that were paired."""
    mine, yours, both = Counter[str](), Counter[str](), Counter[tuple[str, str]]()
    for pair in pairs:
        if not pair.sources or not pair.targets:
            continue
        here = frozenset[str]().union(*(ours[at].words for at in pair.sources))
        there = frozenset[str]().union(*(theirs[at].words for at in pair.targets))
        mine.update(here)
        yours.update(there)
        both.update((one, other) for one in here for other in there)
    found: dict[str, set[str]] = {}
    for (one, other), count in both.items():
        if count >= _TOGETHER and 2 * count / (mine[one] + yours[other]) >= _DICE:
            found.setdefault(one, set()).add(other)
    return {one: frozenset(others) for one, others in found.items()}


def _best_way(
    ours: Sequence[_Signs],
    theirs: Sequence[_Signs],
    ratio: float,
    standing: Standing,
    along: Sequence[int],
    width: int,
) -> list[Paired]:
    """The way through both that costs least, of those that keep near to a way.

    :param along: how many passages of the translation come before each one of the source
    :param width: by how many passages it may be off that
    """
    n, m = len(ours), len(theirs)
    best: list[dict[int, tuple[float, tuple[int, int]]]] = [{} for _ in range(n + 1)]
    best[0][0] = (0.0, (0, 0))
    for i in range(n + 1):
        # Where many of the translation stand between two of the source, all of these belong to the way.
        low = max(along[max(i - 1, 0)] - width, 0)
        high = min((along[i + 1] if i < n else m) + width, m)
        for j in range(low, high + 1):
            cost, way = inf, (0, 0)
            for a, b in _WAYS:
                before = best[i - a].get(j - b) if i >= a and j >= b else None
                if before is None:
                    continue
                now = before[0] + _cost(ours[i - a : i], theirs[j - b : j], ratio, standing)
                if now < cost:
                    cost, way = now, (a, b)
            if cost < inf:
                best[i][j] = (cost, way)
    return list(reversed(list(_way_back(best, ours, theirs, ratio, standing))))


def _way_back(
    best: list[dict[int, tuple[float, tuple[int, int]]]],
    ours: Sequence[_Signs],
    theirs: Sequence[_Signs],
    ratio: float,
    standing: Standing,
) -> Iterator[Paired]:
    i, j = len(ours), len(theirs)
    while i or j:
        a, b = best[i][j][1]
        together = _cost(ours[i - a : i], theirs[j - b : j], ratio, standing)
        apart = sum(_cost([one], [], ratio, standing) for one in ours[i - a : i])
        apart += sum(_cost([], [one], ratio, standing) for one in theirs[j - b : j])
        sureness = 1 - exp(min(together - apart, 0) / 4) if a and b else 0.0
        i, j = i - a, j - b
        yield Paired(tuple(range(i, i + a)), tuple(range(j, j + b)), sureness)


def _signs_of(passage: Passage, language: str) -> _Signs:
    text = " ".join(passage.text.split())
    end = _ENDS.search(text)
    return _Signs(
        max(len(text), 1),
        frozenset(str(number.value.normalize()) for number in numbers_in(text, language)),
        frozenset(word for word in _NAME.findall(text) if word[0].isupper()),
        end[1] if end else "",
        passage.in_ms,
        passage.out_ms,
        frozenset(words_to_compare(text)),
    )


def _cost(
    ours: Sequence[_Signs], theirs: Sequence[_Signs], ratio: float, standing: Standing
) -> float:
    """What it costs to take passages for the same; less is likelier."""
    cost = -log(_WAYS[len(ours), len(theirs)])
    if not ours or not theirs:
        # What is alone could have been of any length; what it says is missing on the other side.
        alone = [*ours, *theirs]
        return cost + sum(_OTHER * 0.5 * len(one.numbers) + _ALONE for one in alone)
    length, other = sum(s.length for s in ours), sum(s.length for s in theirs)
    off = (other - length * ratio) / sqrt(max(length * ratio, other) * _SPREAD)
    cost -= log(max(erfc(abs(off) / sqrt(2)), 1e-12))
    for kind in ("numbers", "names"):
        mine = frozenset[str]().union(*(getattr(s, kind) for s in ours))
        yours = frozenset[str]().union(*(getattr(s, kind) for s in theirs))
        cost -= _SAME * min(len(mine & yours), 2)
        # Names change with their language; numbers do not.
        if kind == "numbers":
            cost += _OTHER * min(len(mine ^ yours), 2)
    if (ours[-1].end in "?!…" and ours[-1].end) or (theirs[-1].end in "?!…" and theirs[-1].end):
        cost += _END if ours[-1].end != theirs[-1].end else -_END
    if standing:
        there = frozenset[str]().union(*(s.words for s in theirs))
        known = [standing[word] for s in ours for word in s.words if word in standing]
        said = sum(not words.isdisjoint(there) for words in known)
        cost -= min(_STANDS * said, _MOST_SAID) - min(_LACKS * (len(known) - said), _MOST_SAID)
    return cost + _apart(ours, theirs)


def _apart(ours: Sequence[_Signs], theirs: Sequence[_Signs]) -> float:
    """What it costs that passages are shown at other times."""
    ins = ours[0].in_ms, theirs[0].in_ms
    outs = ours[-1].out_ms, theirs[-1].out_ms
    off = sum(
        abs(one - other) for one, other in (ins, outs) if one is not None and other is not None
    )
    return min(off / _APART_MS, _MOST_APART)
