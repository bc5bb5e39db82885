"""A transcript that is edited: every word keeps its time, or gets one from those around it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from itertools import groupby, pairwise

from dunlin.core.speech.words import Word, ends_sentence, in_order
from dunlin.core.text.joints import bare_word

__all__ = ["Written", "compared", "in_paragraphs", "paragraphs", "timed"]

_PAUSE_MS = 900
# A recogniser that hears no pauses still gives paragraphs that can be read.
_MOST_WORDS = 90

# Quick speech; a word that has less room takes some of its neighbour's.
_LEAST_MS_PER_CHARACTER = 30
# Beyond this many pairs of words nobody edited a passage, but put another in its place.
_MOST_PAIRS = 1_000_000


@dataclass(frozen=True)
class Written:
    """A word as it stands in the text: with the time of the word it was, or without one."""

    text: str
    start_ms: int | None = None
    end_ms: int | None = None
    confidence: float = 1.0
    speaker: str | None = None
    begins: bool = False
    guessed: bool = False
    """Whether the time it has was not heard."""
    italic: bool = False
    bold: bool = False
    underline: bool = False
    left_out: bool = False


def in_paragraphs(words: Sequence[Word], before: Word | None = None) -> list[Word]:
    """The words, with a paragraph begun after each pause, and in long speech at the end of a sentence.

    :param before: the word that comes before them
    """
    found: list[Word] = []
    count = 0
    for word in words:
        last = found[-1] if found else before
        full = count >= _MOST_WORDS and last is not None and ends_sentence(last)
        begins = last is None or word.start_ms - last.end_ms >= _PAUSE_MS or full
        count = 1 if begins else count + 1
        found.append(replace(word, begins=begins))
    return found


def paragraphs(words: Sequence[Word]) -> list[Sequence[Word]]:
    """The words by paragraphs; the first begins one, whether it says so or not."""
    begins = [index for index, word in enumerate(words) if word.begins or index == 0]
    return [words[a:b] for a, b in pairwise([*begins, len(words)])]


def compared(was: Sequence[Word], now: Sequence[Word]) -> list[tuple[str, str]]:
    """Two hearings of one passage side by side: stretches as they were and as they are now, the same
    where both say the same; empty on the side that does not have them."""
    matcher = SequenceMatcher(
        None, [bare_word(w.text) for w in was], [bare_word(w.text) for w in now], autojunk=False
    )
    pieces: list[tuple[str, str]] = []
    for kind, a, b, c, d in matcher.get_opcodes():
        old, new = ([w.text for w in side] for side in (was[a:b], now[c:d]))
        if kind != "equal":
            pieces.append((" ".join(old), " ".join(new)))
            continue
        for _, run in groupby(zip(old, new, strict=True), lambda pair: pair[0] == pair[1]):
            before, after = zip(*run, strict=True)
            pieces.append((" ".join(before), " ".join(after)))
    return pieces


def timed(written: Sequence[Written], old: Sequence[Word], from_ms: int, to_ms: int) -> list[Word]:
    """Words with times for a passage of a transcript that was written anew.

    Words that have a time keep it. The others are matched with the words that stood between the same
    neighbours, so that the fewest are put in or left out (dynamic programming), and take their times.
    Words between two matches share out, by characters, the time of those in whose place they stand;
    where they stand in no word's place, the time between their neighbours.

    :param old: the words that stood there
    :param from_ms: the end of what is spoken before
    :param to_ms: the start of what is spoken after
    :returns: one word for each, in order, none beginning before the one before it ends
    """
    times = [_known(word) for word in written]
    for first, after in _unknown_runs(times):
        left = times[first - 1][1] if first else from_ms  # type: ignore[index]
        right = times[after][0] if after < len(times) else to_ms  # type: ignore[index]
        between = [word for word in old if word.start_ms >= left and word.end_ms <= right]
        times[first:after] = _taken([word.text for word in written[first:after]], between)
    _share_doubles(written, times)
    for first, after in _unknown_runs(times):
        _share_out(written, times, first, after, from_ms, to_ms)
    return in_order(
        Word(
            word.text, start, end, word.confidence, word.speaker, word.begins, guessed,
            word.italic, word.bold, word.underline, word.left_out,
        )
        for word, (start, end, guessed) in zip(
            written, (time or (0, 0, True) for time in times), strict=True
        )
    )  # fmt: skip


_Time = tuple[int, int, bool]
"""Start, end, and whether they are shared out and not heard."""


def _known(word: Written) -> _Time | None:
    if word.start_ms is None or word.end_ms is None:
        return None
    return word.start_ms, max(word.end_ms, word.start_ms), word.guessed


def _unknown_runs(times: Sequence[_Time | None]) -> list[tuple[int, int]]:
    """First index, and index after the last, of each run of words without a time."""
    runs: list[tuple[int, int]] = []
    for index, time in enumerate(times):
        if time is not None:
            continue
        if runs and runs[-1][1] == index:
            runs[-1] = (runs[-1][0], index + 1)
        else:
            runs.append((index, index + 1))
    return runs


def _taken(texts: Sequence[str], old: Sequence[Word]) -> list[_Time | None]:
    """Times of the texts, taken from the old words; None for what stands in no word's place."""
    times: list[_Time | None] = []
    at = (0, 0)
    for new, was in [*_matches(texts, old), (len(texts), len(old))]:
        put, gone = texts[at[0] : new], old[at[1] : was]
        if len(put) == len(gone):
            times += [(word.start_ms, word.end_ms, word.guessed) for word in gone]
        elif gone:
            times += _shares(put, gone[0].start_ms, gone[-1].end_ms)
        else:
            times += [None] * len(put)
        if was < len(old):
            times.append((old[was].start_ms, old[was].end_ms, old[was].guessed))
        at = (new + 1, was + 1)
    return times


def _matches(texts: Sequence[str], old: Sequence[Word]) -> list[tuple[int, int]]:
    """Indices of texts and of old words that say the same: as many as can be, in order (the longest
    common subsequence)."""
    if len(texts) * len(old) > _MOST_PAIRS:
        return []
    new, was = [bare_word(text) for text in texts], [bare_word(word.text) for word in old]
    rows = [[0] * (len(was) + 1)]
    for text in new:
        above, row = rows[-1], [0]
        for j, other in enumerate(was):
            row.append(above[j] + 1 if text == other else max(above[j + 1], row[-1]))
        rows.append(row)
    matches = []
    i, j = len(new), len(was)
    while i and j:
        if new[i - 1] == was[j - 1]:
            i, j = i - 1, j - 1
            matches.append((i, j))
        elif rows[i - 1][j] >= rows[i][j - 1]:
            i -= 1
        else:
            j -= 1
    return matches[::-1]


def _share_doubles(written: Sequence[Written], times: list[_Time | None]) -> None:
    """Parts of a word that was parted share out its time."""
    first = 0
    while first < len(times):
        after = first + 1
        while after < len(times) and times[first] is not None and times[after] == times[first]:
            after += 1
        if after - first > 1:
            start, end, _ = times[first] or (0, 0, True)
            times[first:after] = _shares([word.text for word in written[first:after]], start, end)
        first = after


def _share_out(
    written: Sequence[Written], times: list[_Time | None],
    first: int, after: int, from_ms: int, to_ms: int,
) -> None:  # fmt: skip
    """Gives a run of words the time between its neighbours, and of theirs where that is too little."""
    start = (times[first - 1] or (0, from_ms, True))[1] if first else from_ms
    end = (times[after] or (to_ms, 0, True))[0] if after < len(times) else to_ms
    least = _LEAST_MS_PER_CHARACTER * sum(len(word.text) for word in written[first:after])
    if end - start < least and first:
        first -= 1
        start = (times[first] or (start, 0, True))[0]
    elif end - start < least and after < len(times):
        end = (times[after] or (0, end, True))[1]
        after += 1
    times[first:after] = _shares([word.text for word in written[first:after]], start, end)


def _shares(texts: Sequence[str], start: int, end: int) -> list[_Time]:
    """A stretch of time in parts as long as their texts."""
    whole = sum(len(text) for text in texts)
    edges, at = [start], 0
    for text in texts:
        at += len(text)
        edges.append(start + round(max(end - start, 0) * at / max(whole, 1)))
    return [(start, end, True) for start, end in pairwise(edges)]
