"""Words parted into captions of a few at a time."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from dunlin.core.making.segmentation import segmented
from dunlin.core.short.model import AMOUNTS, Rhythm
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word
from dunlin.core.text.joints import joint_cost, sentence_ends
from dunlin.core.timecode import FrameRate

__all__ = ["Heard", "parted"]

BREATH_MS = 280
"""A pause that is one to the ear: silences of closed consonants end below 250 ms (Goldman-Eisler 1968)."""
_LONG_PAUSE_MS = 450
_EACH, _ALONE, _SENTENCE_INSIDE = 30.0, 55.0, 90.0
_PAUSE_INSIDE_PER_MS = 0.25
_TOO_FAST_MS, _TOO_FAST = 200, 40.0
"""What is on the screen for less than this is not seen as words."""
_NEVER = 1e9


@dataclass(frozen=True)
class Heard:
    """A word to be shown, as far as its place among captions depends on it."""

    text: str
    start_ms: int
    end_ms: int
    width: float
    """Pixels that it takes at its widest."""
    boundary: str | None = None
    speaker: str | None = None


def parted(
    words: Sequence[Heard],
    rhythm: Rhythm,
    room: float,
    space: float,
    language: str,
    spec: tuple[Spec, FrameRate],
) -> list[tuple[int, int]]:
    """Parts words into captions at the least cost: in few captions that end where phrases and breaths do, without a word
    that stands alone.

    No caption has words of two speakers, one that must begin another, or more than is shown at once; one that shall not
    begin a caption does so only where the one before would be too full.

    :param words: in order
    :param room: pixels that a line may take
    :param space: pixels between two words
    :param spec: the spec that captions are kept within where the rhythm goes by one, and the film's frame rate
    :returns: for each caption the number of its first word, and of the one after its last
    """
    if not words:
        return []
    if rhythm.by == "spec":
        return _within_spec(words, language, spec)
    amount = AMOUNTS[-1] if rhythm.by == "breath" else AMOUNTS[rhythm.amount - 1]
    most_words = amount.words or len(words)
    most_width = room * amount.lines
    pauses = [after.start_ms - before.end_ms for before, after in pairwise(words)]
    joints = [joint_cost(a.text, b.text, language) for a, b in pairwise(words)]
    ends = [sentence_ends(word.text, language) for word in words]
    longest = BREATH_MS if rhythm.by == "breath" else None

    def cost(first: int, after: int) -> float:
        found = _EACH
        if after < len(words):
            found += joints[after - 1] * (1 - min(max(pauses[after - 1], 0), 600) / 600)
            if words[after].boundary == "join":
                found += _NEVER / 1000
        if after - first == 1 and most_words > 2:
            found += _ALONE
        until = words[after].start_ms if after < len(words) else words[after - 1].end_ms
        if until - words[first].start_ms < _TOO_FAST_MS:
            found += _TOO_FAST
        return found

    def inside(first: int, after: int) -> float:
        """What the last joint inside a caption costs."""
        at = after - 2
        if longest is not None and pauses[at] >= longest:
            return _NEVER
        found = max(pauses[at] - BREATH_MS, 0) * _PAUSE_INSIDE_PER_MS
        if pauses[at] > _LONG_PAUSE_MS:
            found += _SENTENCE_INSIDE
        return found + (_SENTENCE_INSIDE if ends[at] else 0)

    def may_share(first: int, after: int) -> bool:
        word = words[after - 1]
        if word.boundary == "break" or word.speaker != words[first].speaker:
            return False
        width = sum(w.width for w in words[first:after]) + space * (after - first - 1)
        return after - first <= most_words and width <= most_width

    return _cheapest(len(words), cost, inside, may_share)


def _cheapest(
    count: int,
    cost: Callable[[int, int], float],
    inside: Callable[[int, int], float],
    may_share: Callable[[int, int], bool],
) -> list[tuple[int, int]]:
    best, next_of = [0.0] * (count + 1), [0] * (count + 1)
    for first in range(count - 1, -1, -1):
        within, best[first] = 0.0, float("inf")
        for after in range(first + 1, count + 1):
            if after > first + 1:
                if not may_share(first, after):
                    break
                within += inside(first, after)
                if within >= _NEVER:
                    break
            total = within + cost(first, after) + best[after]
            if total < best[first]:
                best[first], next_of[first] = total, after
    found, at = [], 0
    while at < count:
        found.append((at, next_of[at]))
        at = next_of[at]
    return found


def _within_spec(
    words: Sequence[Heard], language: str, spec: tuple[Spec, FrameRate]
) -> list[tuple[int, int]]:
    """As captions within a spec's limits are cut, each stretch between two breaks by itself."""
    breaks = [n for n, word in enumerate(words) if word.boundary == "break" and n]
    found = []
    for begin, end in pairwise([0, *breaks, len(words)]):
        own = [Word(w.text, w.start_ms, w.end_ms, speaker=w.speaker) for w in words[begin:end]]
        found += [
            (begin + cut.first, begin + cut.last + 1) for cut in segmented(own, *spec, language)
        ]
    return found
