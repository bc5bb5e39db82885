"""Words drawn to where the voice begins and ends, wherever there is a pause between two."""

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import Word
from dunlin.core.speech.activity import STEP_MS

__all__ = ["on_the_voice"]

# Shorter ones are the closures of consonants.
_SHORTEST_PAUSE_MS = 80
# The pause between two words is looked for from within the one, at most so far, to the end of the other.
_INTO_MS, _BEFORE_FIRST_MS, _BEHIND_LAST_MS = 200, 3000, 1000
_AROUND_MS = 3000
_LOW, _HIGH = 8, 85
_LEAST_DB = 2.0
# The voice is there from so far up between what lies beneath and a voice that is plain: where both are far
# apart from nearly a third, where they are close to each other (noise) as soon as it shows, since quiet
# first sounds hardly do. Tried out on held-out voices (tests/timing/test_held_out.py).
_SHARE_A_DB, _MOST_SHARE = 0.015, 0.3
_LEAST_WORD_MS = 20


def on_the_voice(
    words: Sequence[Word], clear: npt.NDArray[np.float32], start_ms: int = 0
) -> list[Word]:
    """Words that come in with the voice after a pause, and go out with it before one.

    What aligners place by their models of speech begins too early in a pause and ends too late in the next,
    most of all in noise; between words without a pause their times stand.

    :param words: in order
    :param clear: how far a voice stands out, as `clearness` tells it; shape (n,), one for each `STEP_MS`
    :param start_ms: the time of the first
    """
    smooth = np.convolve(np.pad(clear, 1, mode="edge"), np.full(3, 1 / 3), "valid")
    result: list[Word] = []
    if not words:
        return result
    end_ms = words[-1].end_ms
    # Behind the last word there is a pause, too, or whatever was not written down.
    for word in (*words, Word("", end_ms, end_ms + _BEHIND_LAST_MS)):
        before = result[-1] if result else None
        if pause := _pause(before, word, smooth, start_ms):
            ends, begins = pause
            if begins < word.end_ms - _LEAST_WORD_MS:
                word = replace(word, start_ms=begins)
            if before and ends > before.start_ms + _LEAST_WORD_MS:
                result[-1] = replace(before, end_ms=ends)
        result.append(word)
    return result[:-1]


def _pause(
    before: Word | None, word: Word, clear: npt.NDArray[np.float64], start_ms: int
) -> tuple[int, int] | None:
    """When the voice ends and begins again between two words; None where it goes on.

    It is the part in which the sum of what is missing to the threshold is greatest.
    """
    if before:
        from_ms = before.start_ms + min((before.end_ms - before.start_ms) // 2, _INTO_MS)
    else:
        from_ms = word.start_ms - _BEFORE_FIRST_MS
    first = max(from_ms - start_ms, 0) // STEP_MS
    last = min((word.end_ms - start_ms) // STEP_MS, len(clear))
    if (last - first) * STEP_MS < _SHORTEST_PAUSE_MS:
        return None
    around = _AROUND_MS // STEP_MS
    low, high = np.percentile(clear[max(first - around, 0) : last + around], (_LOW, _HIGH))
    apart = high - low
    if apart < _LEAST_DB:
        return None
    above = min(_SHARE_A_DB * apart, _MOST_SHARE) * apart
    # A loud moment weighs no more than a few quiet ones.
    missing = (low + above - clear[first:last]).clip(-apart / 2, above)
    sums = np.concatenate(([0.0], np.cumsum(missing)))
    end = int(np.argmax(sums - np.minimum.accumulate(sums)))
    begin = int(np.argmin(sums[: end + 1]))
    if (end - begin) * STEP_MS < _SHORTEST_PAUSE_MS:
        return None
    return start_ms + (first + begin) * STEP_MS, start_ms + (first + end) * STEP_MS
