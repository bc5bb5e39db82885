"""A script laid on the sound: its words take their times from those that were heard."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

from dunlin.core.captions import Caption
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch, nearest_edge
from dunlin.core.text.joints import bare_word

__all__ = ["DOUBTFUL", "Fitted", "fitted", "on_onsets", "script_on_sound"]

DOUBTFUL = 0.5
"""A caption less sure than this wants to be heard."""

# How sure a word is that stands where other words were heard, and where none were.
_OTHERWISE_HEARD, _NOT_HEARD = 0.4, 0.0
_SHORT_WORD = 4
# Speech that begins this near a word is that word; a consonant may be heard before it is seen.
_ONSET_NEAR_MS = 140
# A caption stays a little after its last word, for the eye to leave it.
_LINGER_MS = 120
_LEAST_MS = 500
_USUAL_CHARACTERS_A_SECOND = 15


@dataclass(frozen=True)
class Fitted:
    """A caption at its place, and how sure that is, from 0 to 1."""

    caption: Caption
    sure: float


def script_on_sound(
    tokens: Sequence[str], heard: Sequence[Word], speech: Sequence[Stretch]
) -> list[Word]:
    """The words of a script with the times of the heard words that they are, or stand among.

    What was not heard shares the speech between its neighbours by its characters.

    :param tokens: the script's words in order
    :param speech: where somebody speaks
    :returns: a word for each token; `confidence` is 1 where it was heard so, 0 where nothing was
    """
    matcher = SequenceMatcher(
        None, [bare_word(token) for token in tokens], [bare_word(w.text) for w in heard], False
    )
    placed: list[Word] = []
    for tag, first, last, heard_first, heard_last in matcher.get_opcodes():
        run, there = tokens[first:last], heard[heard_first:heard_last]
        if tag == "equal":
            # A short word by itself, such as an "and", may well be another one.
            chance = len(run) == 1 and len(bare_word(run[0])) <= _SHORT_WORD and len(tokens) > 1
            placed += [
                Word(token, word.start_ms, word.end_ms, _OTHERWISE_HEARD if chance else 1.0)
                for token, word in zip(run, there, strict=True)
            ]
        elif run and there:
            room = [Stretch(there[0].start_ms, max(there[-1].end_ms, there[0].start_ms + 1))]
            placed += _shared_out(run, room, _OTHERWISE_HEARD)
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


def on_onsets(words: Sequence[Word], speech: Sequence[Stretch]) -> list[Word]:
    """Words that begin after a pause, set to the onset of speech that is near."""
    result: list[Word] = []
    for word in words:
        near = nearest_edge(speech, "start_ms", word.start_ms)
        before = result[-1].end_ms if result else 0
        if near is not None and abs(near - word.start_ms) <= _ONSET_NEAR_MS and near >= before:
            word = replace(word, start_ms=near, end_ms=max(word.end_ms, near + 1))
        result.append(word)
    return result


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
        out_ms = max(own[-1].end_ms + _LINGER_MS, in_ms + _LEAST_MS)
        if following is not None:
            out_ms = min(out_ms, following - least_gap_ms)
        out_ms = max(out_ms, own[-1].end_ms if following is None else in_ms + 1, in_ms + 1)
        sure = sum(word.confidence for word in own) / len(own)
        result.append(Fitted(replace(caption, in_ms=in_ms, out_ms=out_ms), round(sure, 2)))
    return result
