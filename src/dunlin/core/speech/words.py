"""Words as they were spoken."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

from dunlin.core.text.joints import bare_word
from dunlin.core.timecode import clock_ms

__all__ = ["Word", "ends_sentence", "in_order", "linked_ms", "split_moment", "split_offset"]

_TIME_LINK = re.compile(r"\[(?:(\d{1,2}):)?(\d{1,2}):(\d{2})(?:\.(\d{1,3}))?\]")
_SENTENCE_END = re.compile(r"[.!?…。！？]$")


@dataclass(frozen=True)
class Word:
    """A word from `start_ms` to `end_ms`; `confidence` from 0, a guess, to 1, certain."""

    text: str
    start_ms: int
    end_ms: int
    confidence: float = 1.0
    speaker: str | None = None
    begins: bool = False
    """Whether a paragraph of the transcript begins with it."""
    guessed: bool = False
    """Whether its time was shared out among neighbours, and not heard."""
    italic: bool = False
    bold: bool = False
    underline: bool = False
    left_out: bool = False
    """Whether captions leave it out, while the transcript keeps it."""


def ends_sentence(word: Word) -> bool:
    """Whether a sentence ends with it."""
    return bool(_SENTENCE_END.search(word.text))


def linked_ms(text: str) -> int | None:
    """The time that a word points to, as `[01:02.5]` does, in milliseconds; None for what is spoken."""
    if not (link := _TIME_LINK.fullmatch(text)):
        return None
    hours, minutes, seconds, part = link.groups()
    return clock_ms(hours, minutes, seconds, part)


def in_order(words: Iterable[Word]) -> list[Word]:
    """The words with times that never run backwards: each ends where the next may start."""
    ordered: list[Word] = []
    at = 0
    for word in words:
        start = max(word.start_ms, at)
        at = max(word.end_ms, start)
        ordered.append(replace(word, start_ms=start, end_ms=at))
    return ordered


def split_moment(text: str, offset: int, in_ms: int, out_ms: int, words: Sequence[Word]) -> int:
    """The time at which a caption's text, read aloud, passes a character.

    The text's words are matched with the spoken ones; between the nearest matched words on both
    sides the time is shared out by characters.

    :param offset: character of `text` at which it is split
    :param words: the words spoken from `in_ms` to `out_ms`
    :returns: milliseconds, strictly between `in_ms` and `out_ms` where there is room
    """
    tokens, starts, at = text.split(), [], 0
    for token in tokens:
        at = text.index(token, at)
        starts.append(at)
        at += len(token)
    before, after = (0, in_ms), (len(text), out_ms)
    matcher = SequenceMatcher(
        None,
        [bare_word(token) for token in tokens],
        [bare_word(word.text) for word in words],
        False,
    )
    for block in matcher.get_matching_blocks():
        for index in range(block.size):
            word, start = words[block.b + index], starts[block.a + index]
            end = start + len(tokens[block.a + index])
            if end <= offset and end >= before[0]:
                before = (end, word.end_ms)
            elif start >= offset and start < after[0]:
                after = (start, word.start_ms)
    (left, left_ms), (right, right_ms) = before, after
    part = (offset - left) / (right - left) if right > left else 0.5
    moment = round(left_ms + (right_ms - left_ms) * part)
    # Between two spoken words the second caption comes in with its voice.
    if right_ms != out_ms and not text[offset:right].strip():
        moment = right_ms
    return min(max(moment, in_ms + 1), out_ms - 1)


def split_offset(
    text: str, at_ms: int, in_ms: int, out_ms: int, words: Sequence[Word]
) -> int | None:
    """The place between two words of a caption that is spoken nearest to a time.

    :returns: character of `text`, or None when it is a single word
    """
    places = [m.start() for m in re.finditer(r"\s+", text.rstrip()) if m.start()]
    return min(
        places,
        key=lambda place: abs(split_moment(text, place, in_ms, out_ms, words) - at_ms),
        default=None,
    )
