"""Words into lines: balanced, and without parting words that belong together."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise

from dunlin.core.text.joints import joint_cost
from dunlin.core.text.measure import characters

__all__ = ["Breaks", "best_breaks", "break_lines", "lines_at"]

# A line off the mean by the whole width costs as much as four breaks inside phrases.
_IMBALANCE = 300.0
# A long line above a short one: the eye comes from the picture, and leaves from the lower line.
_TOP_HEAVY = 4.0


@dataclass(frozen=True)
class Breaks:
    """Where lines end: `after` holds indices of their last words, but for the last line's."""

    after: tuple[int, ...]
    cost: float
    fits: bool


def break_lines(words: Sequence[str], width: int, most: int, language: str = "en") -> list[str]:
    """Breaks words into the fewest lines that hold them, at the best places.

    :param width: greatest characters in a line
    :param most: greatest number of lines; exceeded only when no breaks keep to the width
    """
    lengths = [characters(word) for word in words]
    costs = [joint_cost(left, right, language) for left, right in pairwise(words)]
    breaks = best_breaks(lengths, costs, width, most)
    return lines_at(words, breaks)


def lines_at(words: Sequence[str], breaks: Breaks) -> list[str]:
    """The words as lines that end at these breaks."""
    ends = [*(index + 1 for index in breaks.after), len(words)]
    return [" ".join(words[start:end]) for start, end in pairwise([0, *ends])]


def best_breaks(lengths: Sequence[int], costs: Sequence[float], width: int, most: int) -> Breaks:
    """The best line ends for words of these lengths.

    The cost is the sum of the costs of the joints where lines end, plus the squared difference of
    each line from the mean length, as a part of `width`.

    :param lengths: characters of each word
    :param costs: cost of a break after each word but the last
    """
    ends = [0, *accumulate(length + 1 for length in lengths)]
    total = ends[-1] - 1
    if total <= width:
        return Breaks((), 0.0, True)
    for count in range(2, most + 1):
        mean = (total - count + 1) / count
        if best := _breaks_into(ends, costs, width, mean, count, 0):
            return Breaks(best[1], best[0], True)
    return _filled(ends, width)


def _breaks_into(
    ends: list[int], costs: Sequence[float], width: int, mean: float, count: int, start: int
) -> tuple[float, tuple[int, ...]] | None:
    """Cheapest way to put the words from `start` on into `count` lines, or None."""
    if count == 1:
        length = ends[-1] - ends[start] - 1
        return (_IMBALANCE * ((length - mean) / width) ** 2, ()) if length <= width else None
    best = None
    for last in range(start, len(ends) - 2):
        length = ends[last + 1] - ends[start] - 1
        if length > width:
            break
        if rest := _breaks_into(ends, costs, width, mean, count - 1, last + 1):
            uneven = _IMBALANCE * ((length - mean) / width) ** 2 + _TOP_HEAVY * (length > mean)
            cost = costs[last] + uneven + rest[0]
            if best is None or cost < best[0]:
                best = (cost, (last, *rest[1]))
    return best


def _filled(ends: list[int], width: int) -> Breaks:
    """Lines filled from the top, as many as it takes."""
    after, start = [], 0
    for index in range(1, len(ends) - 1):
        if ends[index + 1] - ends[start] - 1 > width:
            after.append(index - 1)
            start = index
    excess = ends[-1] / width
    return Breaks(tuple(after), 1000 * excess, False)
