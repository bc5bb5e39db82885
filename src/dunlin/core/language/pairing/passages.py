"""Passages of two texts, and which say the same."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median

from dunlin.core.language.pairing.costs import Costs, Standing
from dunlin.core.language.pairing.grid import Step, best_way, grid_of, sureness_of
from dunlin.core.language.pairing.signs import Signs, signs_of

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
    """From 0 to 1: how much better this is than any other way to pair them; 0 for what is alone."""

    @property
    def is_doubtful(self) -> bool:
        """Whether a person had better look at it."""
        return self.sureness < _DOUBTFUL or not self.sources or not self.targets


_DOUBTFUL = 0.86
"""Of made-up scripts nine in ten pairs that are wrong are less sure, and one in eighty that are right."""
_TIMES, _TOGETHER, _DICE = 2, 2, 0.5
"""How often words are learned from what was paired; in how many pairs two stand for each other at the least, and how surely."""
_BAND, _BAND_PART, _NEAR = 60, 0.15, 16
"""How far off the straight way through both it may go: so many passages, or this part of the text, whatever is more; and how far
off a way that was found."""


def paired(
    sources: Sequence[Passage], targets: Sequence[Passage], language: str, target_language: str
) -> list[Paired]:
    """Pairs of passages in their order; each is in one.

    :param language: BCP 47 tag of the source's; of the other one `target_language`
    """
    ours = [signs_of(one.text, one.in_ms, one.out_ms, language) for one in sources]
    theirs = [signs_of(one.text, one.in_ms, one.out_ms, target_language) for one in targets]
    # Of lines in the middle, as those that only one side has may be many, or long.
    ratio = (
        median(s.length for s in theirs) / median(s.length for s in ours) if ours and theirs else 1
    )
    n, m = len(ours), len(theirs)
    width = max(_BAND, round(_BAND_PART * max(n, m)))
    along = [round(i * m / n) if n else 0 for i in range(n + 1)]
    grid = grid_of(Costs(ours, theirs, ratio, {}), n, m, along, width)
    for _ in range(_TIMES):
        way = best_way(grid)
        costs = Costs(ours, theirs, ratio, _standing(way, ours, theirs))
        # Not far from the way that was found: that costs a part of the time.
        grid = grid_of(costs, n, m, _along(way, n), _NEAR, keep=True)
    way = best_way(grid)
    return [
        Paired(tuple(range(i - a, i)), tuple(range(j - b, j)), sureness)
        for (i, j, a, b), sureness in zip(way, sureness_of(grid, way), strict=True)
    ]


def _along(way: Iterable[Step], n: int) -> list[int]:
    """How many passages of the translation come before each one of the source, and before its end."""
    along, at = [0] * (n + 1), 0
    for i, j, a, _ in way:
        at = max(at, j)
        for source in range(i - a, i):
            along[source + 1] = at
    return along


def _standing(way: Iterable[Step], ours: Sequence[Signs], theirs: Sequence[Signs]) -> Standing:
    """Which words stand for which, of passages that were paired."""
    mine, yours, both = Counter[str](), Counter[str](), Counter[tuple[str, str]]()
    for i, j, a, b in way:
        if not a or not b:
            continue
        here = frozenset[str]().union(*(one.words for one in ours[i - a : i]))
        there = frozenset[str]().union(*(one.words for one in theirs[j - b : j]))
        mine.update(here)
        yours.update(there)
        both.update((one, other) for one in here for other in there)
    found: dict[str, set[str]] = {}
    for (one, other), count in both.items():
        if count >= _TOGETHER and 2 * count / (mine[one] + yours[other]) >= _DICE:
            found.setdefault(one, set()).add(other)
    return {one: frozenset(others) for one, others in found.items()}
