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
# Aligners are seldom off by more. In a longer pause something else may sound, such as a bell: there the end
# of the one word and the beginning of the other are looked for apart, each as near as this.
_FARTHEST_MS = 1000
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
        ends_ms, begins_ms = _edges(before, word, smooth, start_ms)
        if begins_ms is not None and begins_ms < word.end_ms - _LEAST_WORD_MS:
            word = replace(word, start_ms=begins_ms)
        if before and ends_ms is not None and ends_ms > before.start_ms + _LEAST_WORD_MS:
            result[-1] = replace(before, end_ms=ends_ms)
        result.append(word)
    return result[:-1]


def _edges(
    before: Word | None, word: Word, clear: npt.NDArray[np.float64], start_ms: int
) -> tuple[int | None, int | None]:
    """When the voice ends after the one word, and when it begins with the other; None where it goes on."""
    if before is None:
        pause = _pause(word.start_ms - _BEFORE_FIRST_MS, word.end_ms, clear, start_ms)
        return None, pause and pause[1]
    from_ms = before.start_ms + min((before.end_ms - before.start_ms) // 2, _INTO_MS)
    if word.start_ms - before.end_ms <= 2 * _FARTHEST_MS:
        return _pause(from_ms, word.end_ms, clear, start_ms) or (None, None)
    behind = _pause(from_ms, before.end_ms + _FARTHEST_MS, clear, start_ms)
    ahead = _pause(word.start_ms - _FARTHEST_MS, word.end_ms, clear, start_ms)
    return behind and behind[0], ahead and ahead[1]


def _pause(
    from_ms: int, to_ms: int, clear: npt.NDArray[np.float64], start_ms: int
) -> tuple[int, int] | None:
    """When the voice ends and begins again in a part of the sound; None where it goes on.

    It is the part in which the sum of what is missing to the threshold is greatest.
    """
    first = max(from_ms - start_ms, 0) // STEP_MS
    last = min((to_ms - start_ms) // STEP_MS, len(clear))
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
