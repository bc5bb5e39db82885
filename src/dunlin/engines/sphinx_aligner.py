"""English words placed by PocketSphinx's forced alignment."""

from collections.abc import Sequence

from num2words import num2words
from pocketsphinx import Decoder

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.text.joints import bare_word
from dunlin.engines.aligning import Span
from dunlin.engines.recogniser import Sound

__all__ = ["SphinxAligner"]

_FRAME_MS = 10

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


class SphinxAligner:
    """Knows the sounds of English, phrase by phrase."""

    pause_ms, least_ms, longest_ms, most_ms = 250, 0, 12_000, None
    is_sharper = True

    def __init__(self) -> None:
        self._decoder = Decoder(samprate=SPEECH_RATE, loglevel="FATAL", lm=None)

    def places(self, texts: Sequence[str], sound: Sound) -> list[Span | None]:
        decoder = self._decoder
        nowhere: list[Span | None] = [None] * len(texts)
        spoken = [_spoken(decoder, text) for text in texts]
        if not any(spoken):
            return nowhere
        decoder.set_align_text(" ".join(token for tokens in spoken for token in tokens))
        decoder.start_utt()
        decoder.process_raw(sound.tobytes(), full_utt=True)
        decoder.end_utt()
        if decoder.hyp() is None:
            return nowhere
        times = [
            (segment.start_frame * _FRAME_MS, (segment.end_frame + 1) * _FRAME_MS)
            for segment in decoder.seg()
            if not segment.word.startswith(("<", "[", "+"))
        ]
        if len(times) != sum(map(len, spoken)):
            return nowhere
        found: list[Span | None] = []
        at = 0
        for tokens in spoken:
            span = times[at : at + len(tokens)]
            at += len(tokens)
            found.append((span[0][0], span[-1][1]) if span else None)
        return found


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
