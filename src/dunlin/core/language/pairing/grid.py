"""The cheapest way through two texts, of those that keep near to one, and how much dearer every other is."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, inf
from typing import TypeAlias

import numpy as np
import numpy.typing as npt

from dunlin.core.language.pairing.costs import WAYS, Costs, Floats, Way

__all__ = ["Grid", "Step", "best_way", "grid_of", "sureness_of"]

Step: TypeAlias = tuple[int, int, int, int]
"""How many passages of both texts come before its end, and how many of each are in it."""

_NUMBERED: Sequence[Way] = tuple(WAYS)


@dataclass(frozen=True)
class Grid:
    """Rows by how many passages of the source come before a place, each with the places of the translation from `low` on."""

    low: Sequence[int]
    best: Sequence[Floats]
    """What it costs to come to a place."""
    came: Sequence[npt.NDArray[np.int8]]
    """By which of the ways it is come to at that cost."""
    costs: Sequence[dict[Way, Floats]]
    """Of the steps that end at a place; none where they are not kept."""


def grid_of(
    costs: Costs, n: int, m: int, along: Sequence[int], width: int, *, keep: bool = False
) -> Grid:
    """The ways through texts of `n` and `m` passages.

    :param along: how many passages of the translation come before each one of the source, and before its end
    :param width: by how many passages a way may be off that
    :param keep: whether the costs of all steps are kept
    """

    lows, best, came, kept = (
        list[int](),
        list[Floats](),
        list[npt.NDArray[np.int8]](),
        list[dict[Way, Floats]](),
    )
    for i in range(n + 1):
        # Where many of the translation stand between two of the source, all of these belong to the way.
        low = max(along[max(i - 1, 0)] - width, 0)
        high = min((along[i + 1] if i < n else m) + width, m)
        steps: dict[Way, Floats] = {}
        row = np.full(high - low + 1, np.inf)
        ways = np.zeros(len(row), np.int8)
        if i == 0:
            row[0] = 0.0
        for number, way in enumerate(_NUMBERED):
            a, b = way
            if a == 0 or i < a:
                continue
            if b:
                steps[way] = costs.together(i, way, low, high)
            else:
                steps[way] = np.full(len(row), costs.of_source_alone(i))
            total = _places(best[i - a], lows[i - a], low - b, len(row)) + steps[way]
            better = total < row
            row[better], ways[better] = total[better], number
        if m:
            alone = costs.of_targets_alone(low, high)
            steps[0, 1] = alone
            row, ways = _with_alone(row, ways, alone)
        lows.append(low)
        best.append(row)
        came.append(ways)
        kept.append(steps if keep else {})
    return Grid(lows, best, came, kept)


def _with_alone(
    row: Floats, ways: npt.NDArray[np.int8], alone: Floats
) -> tuple[Floats, npt.NDArray[np.int8]]:
    """A row with the ways that stay on it, where one passage of the translation after the other is alone."""
    behind = np.concatenate(([0.0], np.cumsum(alone[1:])))
    reached = behind + np.minimum.accumulate(row - behind)
    is_alone = reached < row - 1e-9
    return np.where(is_alone, reached, row), np.where(
        is_alone, _NUMBERED.index((0, 1)), ways
    ).astype(np.int8)


def _places(row: Floats, low: int, start: int, count: int) -> Floats:
    """The values of a row from a place on; infinite where it has none."""
    found = np.full(count, np.inf)
    first, last = max(start, low), min(start + count, low + len(row))
    if first < last:
        found[first - start : last - start] = row[first - low : last - low]
    return found


def best_way(grid: Grid) -> list[Step]:
    """The way through both that costs least."""
    i = len(grid.best) - 1
    j = grid.low[i] + len(grid.best[i]) - 1
    way: list[Step] = []
    while i or j:
        a, b = _NUMBERED[grid.came[i][j - grid.low[i]]]
        way.append((i, j, a, b))
        i, j = i - a, j - b
    return way[::-1]


def sureness_of(grid: Grid, way: Sequence[Step]) -> list[float]:
    """How sure each step is, from 0 to 1: by how much more the cheapest way costs that pairs its passages otherwise.

    :param grid: with its costs
    """
    rest = _rest(grid)
    least = float(rest[0][0]) if rest else 0.0
    through = [
        {
            step: _places(
                grid.best[i - step[0]], grid.low[i - step[0]], grid.low[i] - step[1], len(costs)
            )
            + costs
            + rest[i]
            for step, costs in steps.items()
        }
        for i, steps in enumerate(grid.costs)
    ]
    found = []
    for i, j, a, b in way:
        if not a or not b:
            found.append(0.0)
            continue
        other = inf
        for source in range(i - a, i):
            for x in range(source + 1, min(source + 3, len(through))):
                for (c, d), totals in through[x].items():
                    if x - c > source or not c:
                        continue
                    values = totals
                    if (x, c, d) == (i, a, b):
                        values = np.delete(totals, j - grid.low[i])
                    other = min(other, float(values.min(initial=inf)))
        found.append(1 - exp(min(least - other, 0.0)))
    return found


def _rest(grid: Grid) -> list[Floats]:
    """What it costs from each place to the end of both."""
    rest = [np.full(len(row), np.inf) for row in grid.best]
    rest[-1][-1] = 0.0
    for i in range(len(rest) - 1, -1, -1):
        low = grid.low[i]
        for a, b in WAYS:
            if not a or i + a >= len(rest) or (a, b) not in grid.costs[i + a]:
                continue
            step = rest[i + a] + grid.costs[i + a][a, b]
            rest[i] = np.minimum(rest[i], _places(step, grid.low[i + a], low + b, len(rest[i])))
        if (0, 1) in grid.costs[i]:
            behind = np.concatenate(([0.0], np.cumsum(grid.costs[i][0, 1][1:])))
            ahead = np.minimum.accumulate((rest[i] + behind)[::-1])[::-1]
            rest[i] = np.minimum(rest[i], ahead - behind)
    return rest
