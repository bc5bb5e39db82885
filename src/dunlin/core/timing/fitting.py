"""A script laid on the sound: its words take their times from those that were heard."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from itertools import chain

from dunlin.core.captions import Caption
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.text.joints import bare_word
from dunlin.core.text.words import is_unspaced, words_to_compare

__all__ = [
    "DOUBTFUL",
    "OTHERWISE_HEARD",
    "Fitted",
    "fitted",
    "is_another_text",
    "script_on_sound",
    "script_tokens",
    "share_heard",
]

DOUBTFUL = 0.5
"""A caption less sure than this wants to be heard."""

# How sure a word is that stands where other words were heard, and where none were.
OTHERWISE_HEARD, _NOT_HEARD = 0.4, 0.0
_SHORT_WORD = 4
# Of two texts that have nothing to do with each other so many words are alike by chance.
_ENOUGH_WORDS, _LEAST_HEARD = 20, 0.1
_LEAST_MS = 500
_USUAL_CHARACTERS_A_SECOND = 15


@dataclass(frozen=True)
class Fitted:
    """A caption at its place, and how sure that is, from 0 to 1."""

    caption: Caption
    sure: float


def script_tokens(captions: Iterable[Caption]) -> list[str]:
    """The words of a script in order, as `script_on_sound` and `fitted` count them."""
    return [token for caption in captions for token in caption.text.split()]


def script_on_sound(
    tokens: Sequence[str], heard: Sequence[Word], speech: Sequence[Stretch]
) -> list[Word]:
    """The words of a script with the times of the heard words that they are, or stand among.

    What was not heard shares the speech between its neighbours by its characters.

    :param tokens: the script's words in order
    :param speech: where somebody speaks
    :returns: a word for each token; `confidence` is 1 where it was heard so, 0 where nothing was
    """
    units = [_units(token) for token in tokens]
    parts = _parts_on_sound(
        list(chain.from_iterable(units)),
        [part for word in heard for part in _parts_of(word)],
        speech,
    )
    placed, at = [], 0
    for token, own_units in zip(tokens, units, strict=True):
        own = parts[at : at + len(own_units)]
        at += len(own)
        sure = sum(part.confidence for part in own) / len(own)
        placed.append(Word(token, own[0].start_ms, own[-1].end_ms, sure))
    return placed


def is_another_text(tokens: Sequence[str], heard: Sequence[Word]) -> bool:
    """Whether so little of a script was heard that something else is spoken, or another language.

    :param tokens: the script's words in order
    """
    if min(len(tokens), len(heard)) < _ENOUGH_WORDS:
        return False
    return share_heard(tokens, heard) < _LEAST_HEARD


def share_heard(tokens: Sequence[str], heard: Sequence[Word]) -> float:
    """How many of a script's words were heard as they stand, from 0 to 1.

    :param tokens: the script's words in order
    """
    placed = script_on_sound(tokens, heard, ())
    return sum(word.confidence == 1 for word in placed) / max(len(placed), 1)


def _units(token: str) -> list[str]:
    """What of a token is compared: all of it, or its characters, where a script has no spaces."""
    parts = words_to_compare(token) if is_unspaced(token) else [bare_word(token)]
    return parts or [token]


def _parts_of(word: Word) -> Iterable[Word]:
    """What was heard, in units that share its time."""
    units = _units(word.text)
    length = word.end_ms - word.start_ms
    for number, unit in enumerate(units):
        first, last = (word.start_ms + length * n // len(units) for n in (number, number + 1))
        yield Word(unit, first, last)


def _parts_on_sound(
    units: Sequence[str], heard: Sequence[Word], speech: Sequence[Stretch]
) -> list[Word]:
    matcher = SequenceMatcher(None, units, [word.text for word in heard], False)
    placed: list[Word] = []
    for tag, first, last, heard_first, heard_last in matcher.get_opcodes():
        run, there = units[first:last], heard[heard_first:heard_last]
        if tag == "equal":
            # A short word by itself, such as an "and", may well be another one.
            chance = len(run) == 1 and len(run[0]) <= _SHORT_WORD and len(units) > 1
            placed += [
                Word(unit, word.start_ms, word.end_ms, OTHERWISE_HEARD if chance else 1.0)
                for unit, word in zip(run, there, strict=True)
            ]
        elif run and there:
            room = [Stretch(there[0].start_ms, max(there[-1].end_ms, there[0].start_ms + 1))]
            placed += _shared_out(run, room, OTHERWISE_HEARD)
        elif run:
            start = placed[-1].end_ms if placed else 0
            end = heard[heard_first].start_ms if heard_first < len(heard) else None
            placed += _shared_out(run, _room(start, end, speech, run), _NOT_HEARD)
    return placed


def _room(
    start: int, end: int | None, speech: Sequence[Stretch], run: Sequence[str]
) -> list[Stretch]:
    """Speech between two times, or the time itself where there is none."""
    last = end if end is not None else max([start + 1, *(s.end_ms for s in speech)])
    inside = [
        Stretch(max(s.start_ms, start), min(s.end_ms, last))
        for s in speech
        if s.end_ms > start and s.start_ms < last
    ]
    if inside:
        return inside
    wanted = round(1000 * sum(len(t) + 1 for t in run) / _USUAL_CHARACTERS_A_SECOND)
    return [Stretch(start, start + wanted if end is None else max(last, start + 1))]


def _shared_out(run: Sequence[str], room: Sequence[Stretch], confidence: float) -> list[Word]:
    """Words one after the other over stretches of time, each as long as its characters."""
    total = sum(stretch.end_ms - stretch.start_ms for stretch in room)
    weights = [len(token) + 1 for token in run]
    words, done = [], 0
    for token, weight in zip(run, weights, strict=True):
        first, last = (total * part / sum(weights) for part in (done, done + weight))
        start = _moment(room, first, at_start=True)
        end = max(_moment(room, last, at_start=False), start + 1)
        words.append(Word(token, start, end, confidence))
        done += weight
    return words


def _moment(room: Sequence[Stretch], after_ms: float, *, at_start: bool) -> int:
    """The time at which so much of the stretches has passed; of two, where the next one begins."""
    for stretch in room:
        length = stretch.end_ms - stretch.start_ms
        if after_ms < length or (not at_start and after_ms <= length):
            return round(stretch.start_ms + after_ms)
        after_ms -= length
    return room[-1].end_ms


def fitted(captions: Sequence[Caption], words: Sequence[Word], least_gap_ms: int) -> list[Fitted]:
    """Captions from the first to the last of their words, with the gap between them.

    :param captions: in the order of the script
    :param words: one for each word of their text, in order
    """
    spans, at = [], 0
    for caption in captions:
        count = len(caption.text.split())
        own = words[at : at + count]
        at += count
        spans.append((caption, own))
    result: list[Fitted] = []
    for index, (caption, own) in enumerate(spans):
        if not own:
            continue
        in_ms = max(own[0].start_ms, result[-1].caption.in_ms + 1 if result else 0)
        following = next((later[0].start_ms for _, later in spans[index + 1 :] if later), None)
        out_ms = max(own[-1].end_ms, in_ms + _LEAST_MS)
        if following is not None:
            out_ms = min(out_ms, following - least_gap_ms)
        out_ms = max(out_ms, own[-1].end_ms if following is None else in_ms + 1, in_ms + 1)
        sure = sum(word.confidence for word in own) / len(own)
        result.append(Fitted(replace(caption, in_ms=in_ms, out_ms=out_ms), round(sure, 2)))
    return result
