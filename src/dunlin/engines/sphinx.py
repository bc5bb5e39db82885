"""PocketSphinx: ships its own English model, and works when nothing else is there."""

import math
from collections.abc import Iterable, Iterator

from pocketsphinx import Decoder, Endpointer

from dunlin.core.messages import message
from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.engines.recogniser import EngineError, Model, Sound

__all__ = ["Sphinx"]

_FRAME_MS = 10
# Words and states that are followed at once: half the time for nine tenths of the right words.
_QUICK = {"maxwpf": 5, "maxhmmpf": 3000}
_CARRIED = Model("en-us", ("en",))


class Sphinx:
    """Recognises English, utterance by utterance."""

    name = "pocketsphinx"
    title = "PocketSphinx"

    def models(self) -> list[Model]:
        return [_CARRIED]

    def taken(
        self,
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Model:
        if not _CARRIED.knows(language) or model not in (None, _CARRIED.name):
            raise EngineError(
                message(
                    "engines.only-english",
                    engine="PocketSphinx",
                    language=language,
                    model=_CARRIED.name,
                )
            )
        return _CARRIED

    def recognise(
        self,
        sound: Iterable[Sound],
        language: str,
        model: str | None = None,
        *,
        quick: bool = False,
        as_english: bool = False,
    ) -> Iterator[Word]:
        self.taken(language, model)
        bounds = _QUICK if quick else {}
        decoder = Decoder(samprate=SPEECH_RATE, loglevel="FATAL", **bounds)
        for start_seconds, speech in _utterances(sound):
            yield from _words(decoder, speech, start_seconds)

    def language_chances(self, sound: Sound, model: str | None = None) -> None:
        return None


def _utterances(sound: Iterable[Sound]) -> Iterator[tuple[float, bytes]]:
    """Stretches in which somebody speaks: their start in seconds, and their samples."""
    endpointer = Endpointer(sample_rate=SPEECH_RATE)
    size = endpointer.frame_bytes
    waiting, spoken = b"", b""
    for block in sound:
        waiting += block.tobytes()
        whole = len(waiting) // size * size
        for at in range(0, whole, size):
            speech = endpointer.process(waiting[at : at + size])
            if speech is None:
                continue
            spoken += speech
            if not endpointer.in_speech:
                yield endpointer.speech_start, spoken
                spoken = b""
        waiting = waiting[whole:]
    # The endpointer wants a sample at least, even at the end of nothing.
    last = endpointer.end_stream(waiting or bytes(2))
    if spoken or last:
        yield endpointer.speech_start, spoken + (last or b"")


def _words(decoder: Decoder, speech: bytes, start_seconds: float) -> Iterator[Word]:
    """Words of one utterance. PocketSphinx writes no capitals and no marks."""
    decoder.start_utt()
    decoder.process_raw(speech, full_utt=True)
    decoder.end_utt()
    start_ms = round(start_seconds * 1000)
    logarithms = decoder.get_logmath()
    for segment in decoder.seg():
        text = segment.word.split("(")[0]
        if text.startswith(("<", "[", "+")):
            continue
        sure = logarithms.exp(segment.prob)
        yield Word(
            "I" + text[1:] if text == "i" or text.startswith("i'") else text,
            start_ms + segment.start_frame * _FRAME_MS,
            start_ms + (segment.end_frame + 1) * _FRAME_MS,
            0.0 if math.isnan(sure) else min(max(sure, 0.0), 1.0),
        )
