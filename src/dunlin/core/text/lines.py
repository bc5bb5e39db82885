"""Words into lines: balanced, and without parting words that belong together."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import accumulate, pairwise
from operator import add

from dunlin.core.text.joints import joint_cost
from dunlin.core.text.measure import characters
from dunlin.core.text.words import between, joined_words

__all__ = ["Breaks", "Extents", "best_breaks", "break_lines", "extents_of", "lines_at"]

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


def break_lines(
    words: Sequence[str], width: int, most: int, language: str = "en", *, wide_as_two: bool = False
) -> list[str]:
    """Breaks words into the fewest lines that hold them, at the best places.

    :param words: as `words_of` gives them
    :param width: greatest characters in a line
    :param most: greatest number of lines; exceeded only when no breaks keep to the width
    :param wide_as_two: count wide characters twice
    """
    if not words:
        return []
    extents = extents_of(words, wide_as_two=wide_as_two)
    costs = [joint_cost(left, right, language) for left, right in pairwise(words)]
    breaks = best_breaks(extents, costs, width, most)
    return lines_at(words, breaks)


@dataclass(frozen=True)
class Extents:
    """Words in a row on one long line, in characters: `starts` is where each begins, and where another
    would begin after the last; `gaps` is what stands after each, which a line that ends there has not."""

    starts: list[int]
    gaps: list[int]

    @classmethod
    def of(cls, lengths: Iterable[int], gaps: Iterable[int]) -> "Extents":
        """Those of words of these lengths, with so much between one and the next."""
        after = [*gaps, 0]
        return cls([0, *accumulate(map(add, lengths, after))], after)

    def part(self, start: int, end: int) -> "Extents":
        """Those of the words from `start` to before `end`."""
        return Extents(self.starts[start : end + 1], self.gaps[start:end])

    def length(self, start: int, end: int) -> int:
        """Characters of a line of the words from `start` to before `end`."""
        return self.starts[end] - self.gaps[end - 1] - self.starts[start]


def extents_of(words: Sequence[str], *, wide_as_two: bool = False) -> Extents:
    """How long words are, and the spaces between them, by `characters`."""
    gaps = (
        characters(f"{left[len(left.rstrip()) :]}{between(left, right)}", wide_as_two=wide_as_two)
        for left, right in pairwise(words)
    )
    lengths = (characters(word.rstrip(), wide_as_two=wide_as_two) for word in words)
    return Extents.of(lengths, gaps)


def lines_at(words: Sequence[str], breaks: Breaks) -> list[str]:
    """The words as lines that end at these breaks."""
    ends = [*(index + 1 for index in breaks.after), len(words)]
    return [joined_words(words[start:end]) for start, end in pairwise([0, *ends])]


def best_breaks(extents: Extents, costs: Sequence[float], width: int, most: int) -> Breaks:
    """The best line ends for words of these lengths.

    The cost is the sum of the costs of the joints where lines end, plus the squared difference of
    each line from the mean length, as a part of `width`.

    :param costs: cost of a break after each word but the last
    """
    starts, gaps = extents.starts, extents.gaps
    total = extents.length(0, len(gaps))
    if total <= width:
        return Breaks((), 0.0, True)
    for count in range(2, most + 1):
        mean = (total - count + 1) / count
        if best := _breaks_into(starts, gaps, costs, width, mean, count, 0):
            return Breaks(best[1], best[0], True)
    return _filled(extents, width)


def _breaks_into(
    starts: list[int],
    gaps: list[int],
    costs: Sequence[float],
    width: int,
    mean: float,
    count: int,
    start: int,
) -> tuple[float, tuple[int, ...]] | None:
    """Cheapest way to put the words from `start` on into `count` lines, or None."""
    if count == 1:
        length = starts[-1] - gaps[-1] - starts[start]
        return (_IMBALANCE * ((length - mean) / width) ** 2, ()) if length <= width else None
    best = None
    for last in range(start, len(gaps) - 1):
        length = starts[last + 1] - gaps[last] - starts[start]
        if length > width:
            break
        if rest := _breaks_into(starts, gaps, costs, width, mean, count - 1, last + 1):
            uneven = _IMBALANCE * ((length - mean) / width) ** 2 + _TOP_HEAVY * (length > mean)
            cost = costs[last] + uneven + rest[0]
            if best is None or cost < best[0]:
                best = (cost, (last, *rest[1]))
    return best


def _filled(extents: Extents, width: int) -> Breaks:
    """Lines filled from the top, as many as it takes."""
    after, start = [], 0
    for index in range(1, len(extents.gaps)):
        if extents.length(start, index + 1) > width:
            after.append(index - 1)
            start = index
    excess = (extents.starts[-1] - extents.starts[0]) / width
    return Breaks(tuple(after), 1000 * excess, False)
