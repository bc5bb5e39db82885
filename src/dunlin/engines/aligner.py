"""Word times sharpened by PocketSphinx's forced alignment."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace
from typing import TypeAlias

import numpy as np
from num2words import num2words
from pocketsphinx import Decoder

from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.text.joints import bare_word
from dunlin.engines.recogniser import Sound

__all__ = ["aligns", "phrases", "sharpened", "sharpened_along"]

_FRAME_MS = 10
_PAUSE_MS, _LONGEST_MS, _MARGIN_MS = 250, 12_000, 300
# A recogniser's times are seldom off by more: beyond, the aligner has lost the thread.
_FARTHEST_MS = 700
# Words may be found so much later than they were thought to be.
_READ_AHEAD_MS = 1000

# How English letters mostly sound, for words that are in no dictionary. Longest first.
_SOUNDS = {
    "tch": "CH", "sch": "SH", "igh": "AY", "ch": "CH", "sh": "SH", "th": "TH", "ph": "F", "ck": "K",
    "ng": "NG", "qu": "K W", "ee": "IY", "ea": "IY", "oo": "UW", "ou": "AW", "ow": "OW", "oi": "OY",
    "ai": "EY", "ay": "EY", "au": "AO", "ar": "AA R", "er": "ER", "or": "AO R", "ll": "L", "ss": "S",
    "tt": "T", "nn": "N", "mm": "M", "pp": "P", "rr": "R", "ff": "F", "a": "AE", "b": "B", "c": "K",
    "d": "D", "e": "EH", "f": "F", "g": "G", "h": "HH", "i": "IH", "j": "JH", "k": "K", "l": "L",
    "m": "M", "n": "N", "o": "AA", "p": "P", "r": "R", "s": "S", "t": "T", "u": "AH", "v": "V",
    "w": "W", "x": "K S", "y": "IY", "z": "Z",
}  # fmt: skip


Known: TypeAlias = Callable[[Word], bool]


def _all_known(word: Word) -> bool:
    return True


def aligns(language: str) -> bool:
    """True when the aligner knows the language's sounds."""
    return language.split("-")[0].lower() == "en"


def phrases(words: Sequence[Word], known: Known = _all_known) -> Iterator[list[Word]]:
    """Runs of words without a pause between them, none very long.

    A run ends only between two words whose places are known, so that those between them can be looked
    for in all the sound there is.
    """
    phrase: list[Word] = []
    for word in words:
        if phrase and known(phrase[-1]) and known(word) and (
            word.start_ms - phrase[-1].end_ms >= _PAUSE_MS
            or word.end_ms - phrase[0].start_ms > _LONGEST_MS
        ):  # fmt: skip
            yield phrase
            phrase = []
        phrase.append(word)
    if phrase:
        yield phrase


def sharpened(
    words: Sequence[Word], sound: Sound, sound_start_ms: int = 0, known: Known = _all_known
) -> list[Word]:
    """The words with times from forced alignment; a word it cannot place keeps its own.

    :param sound: the samples that hold the words
    :param sound_start_ms: time of the first sample
    :param known: whether a word's place is known but for a few tenths of a second
    """
    return sharpened_along(words, [sound], sound_start_ms, known)


def sharpened_along(
    words: Sequence[Word],
    blocks: Iterable[Sound],
    sound_start_ms: int = 0,
    known: Known = _all_known,
) -> list[Word]:
    """As `sharpened`, with the sound in blocks that follow each other: only what the next words may be in
    is held in memory.

    :param blocks: samples; all of them are taken, so whoever gives them sees how far it is
    """
    decoder = Decoder(samprate=SPEECH_RATE, loglevel="FATAL", lm=None)
    result: list[Word] = []
    waiting = list(phrases(words, known))[::-1]
    held, start_ms = np.empty(0, np.int16), sound_start_ms
    for block in blocks:
        held = np.concatenate((held, block)) if len(held) else block
        end_ms = start_ms + len(held) * 1000 // SPEECH_RATE
        ready = []
        while waiting and waiting[-1][-1].end_ms + _READ_AHEAD_MS < end_ms:
            ready.append(waiting.pop())
        _sharpen(decoder, ready, held, start_ms, known, result)
        # What comes next begins with the phrase that did not end in this block.
        keep_ms = waiting[-1][0].start_ms - _READ_AHEAD_MS if waiting else end_ms
        gone = max(0, min(keep_ms, end_ms) - start_ms)
        held, start_ms = held[gone * SPEECH_RATE // 1000 :], start_ms + gone
    _sharpen(decoder, waiting[::-1], held, start_ms, known, result)
    return result


def _sharpen(
    decoder: Decoder,
    ready: Sequence[list[Word]],
    sound: Sound,
    sound_start_ms: int,
    known: Known,
    result: list[Word],
) -> None:
    """Puts the words of phrases behind the result, with times from the sound."""
    for phrase in ready:
        start = max(phrase[0].start_ms - _MARGIN_MS, sound_start_ms)
        if result:
            start = max(start, min(result[-1].end_ms, phrase[0].start_ms))
        first, last = (
            (ms - sound_start_ms) * SPEECH_RATE // 1000
            for ms in (start, phrase[-1].end_ms + _MARGIN_MS)
        )
        result += _placed(decoder, phrase, sound[max(first, 0) : max(last, 0)], start, known)


def _placed(
    decoder: Decoder, phrase: list[Word], speech: Sound, start_ms: int, known: Known
) -> list[Word]:
    spoken = [_spoken(decoder, word.text) for word in phrase]
    if not any(spoken) or len(speech) < SPEECH_RATE // 10:
        return phrase
    decoder.set_align_text(" ".join(token for tokens in spoken for token in tokens))
    decoder.start_utt()
    decoder.process_raw(speech.tobytes(), full_utt=True)
    decoder.end_utt()
    if decoder.hyp() is None:
        return phrase
    times = [
        (start_ms + s.start_frame * _FRAME_MS, start_ms + (s.end_frame + 1) * _FRAME_MS)
        for s in decoder.seg()
        if not s.word.startswith(("<", "[", "+"))
    ]
    if len(times) != sum(len(tokens) for tokens in spoken):
        return phrase
    placed, at = [], 0
    for word, tokens in zip(phrase, spoken, strict=True):
        span = times[at : at + len(tokens)]
        at += len(tokens)
        if span and (not known(word) or abs(span[0][0] - word.start_ms) <= _FARTHEST_MS):
            placed.append(replace(word, start_ms=span[0][0], end_ms=span[-1][1]))
        else:
            placed.append(word)
    return placed


def _spoken(decoder: Decoder, text: str) -> list[str]:
    """What is said for a written word, in words that the decoder's dictionary has."""
    bare = bare_word(text).replace("’", "'")
    if bare.isdecimal() and len(bare) < 10:
        # Four digits are mostly years in speech.
        kind = "year" if len(bare) == 4 else "cardinal"
        bare = num2words(int(bare), to=kind)
    tokens = bare.replace("-", " ").replace(",", "").split()
    for token in tokens:
        if decoder.lookup_word(token) is None:
            sounds = _letters_to_sounds(token)
            if not sounds:
                return []
            decoder.add_word(token, sounds)
    return tokens


def _letters_to_sounds(word: str) -> str:
    sounds, at = [], 0
    while at < len(word):
        for length in (3, 2, 1):
            if sound := _SOUNDS.get(word[at : at + length]):
                # A closing e is silent.
                if not (word[at:] == "e" and at > 1):
                    sounds.append(sound)
                at += length
                break
        else:
            at += 1
    return " ".join(sounds)
