"""How far off times are that the engines find, on voices that they were not tried out on."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import jiwer
import numpy as np

from dunlin.core.captions import Caption, spans_of
from dunlin.core.speech import SPEECH_RATE, Word
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.speech.languages import longest
from dunlin.core.text.joints import bare_word
from dunlin.engines import engine_called
from dunlin.engines.aligning import aligner_for, words_on_sound
from dunlin.engines.fitting import fit_to_speech, words_for_script
from dunlin.engines.languages import passages_by_language
from dunlin.settings import Settings
from tests.stories import STORIES, STORY
from tests.voices import ENGLISH_VOICES, Reading, Under, over, read_aloud

__all__ = ["FILMS", "Errors", "fit_errors", "language_told", "word_errors", "words_wrong"]

FILMS = ("awb", "rms", "slt", "es", "es+f2", "it", "it+f2", "fi", "de", "pl")
"""Voices of ten films in six languages."""

_BLOCK = 30 * 16_000
_SENTENCE_ENDS = ".?!।"


@dataclass(frozen=True)
class Errors:
    """Milliseconds by which captions or words are late, one for each."""

    ins: tuple[int, ...]
    outs: tuple[int, ...]
    begins_sentence: tuple[bool, ...]


@cache
def _reading(voice: str, sentences: int | None) -> Reading:
    # Heard as often as it is measured, but read once.
    story = STORY if voice in ENGLISH_VOICES else STORIES[_language(voice)]
    return read_aloud(story[:sentences], voice, seed=len(voice))


def _language(voice: str) -> str:
    return "en" if voice in ENGLISH_VOICES else voice.split("+")[0]


def fit_errors(
    voice: str, under: Under, decibels: float = 15, sentences: int | None = None
) -> Errors:
    """A script fitted to a voice, in captions that end at a mark or after nine words."""
    reading = _reading(voice, sentences)
    sound = over(reading, under, decibels)
    captions, first, last = _captions(reading)
    folders = Settings().model_folders
    engine = engine_called("whisper", folders)
    language = _language(voice)
    heard = words_for_script(
        engine,
        language,
        [word.text for word in reading.words],
        lambda model: list(engine.recognise([sound], language, model, quick=True)),
    )
    speech = speech_stretches(levels([sound]))
    aligner = aligner_for(language, folders)
    # An out is where the voice ends and a little after it; the next caption may cut that short.
    found = fit_to_speech(captions, heard, speech, _blocks(sound), aligner, 0)
    return Errors(
        tuple(
            one.caption.in_ms - reading.words[at].start_ms
            for one, at in zip(found, first, strict=True)
        ),
        tuple(
            one.caption.out_ms - reading.words[at].end_ms
            for one, at in zip(found, last, strict=True)
        ),
        tuple(at in reading.first for at in first),
    )


def words_wrong(model: str, under: Under, decibels: float = 15) -> float:
    """The share of words that a model gets wrong, over all English voices, in per cent."""
    engine = engine_called("whisper", Settings().model_folders)
    wrong, count = 0.0, 0
    for voice in ENGLISH_VOICES:
        reading = _reading(voice, None)
        heard = engine.recognise([over(reading, under, decibels)], "en", model)
        said = " ".join(bare_word(word.text) for word in reading.words)
        understood = " ".join(bare_word(word.text) for word in heard)
        wrong += jiwer.wer(said, understood) * len(reading.words)
        count += len(reading.words)
    return 100 * wrong / count


def language_told(voice: str) -> tuple[str, str, str]:
    """The language of a film, that which the bare engine tells of its first half minute, and that which
    is told by windows."""
    engine = engine_called("whisper", Settings().model_folders)
    sound = over(_reading(voice, None), "nothing")
    chances = engine.language_chances(sound[: 30 * SPEECH_RATE]) or {}
    passages = passages_by_language(
        engine,
        speech_stretches(levels([sound])),
        lambda window: sound[window.start_ms * 16 : window.end_ms * 16],
    )
    return _language(voice), max(chances, key=chances.__getitem__), longest(passages).language


def word_errors(voice: str, sentences: int | None = None) -> Errors:
    """The words of a voice whose recognised times are off by as much as a recogniser's are: each begins
    when the one before it is half over, at random."""
    reading = _reading(voice, sentences)
    sound = over(reading, "nothing")
    random = np.random.default_rng(5)
    rough, before = list[Word](), 0
    for word in reading.words:
        start = max(word.start_ms - int(random.uniform(0, 250)), before)
        before = start + 1
        rough.append(Word(word.text, start, max(word.end_ms, start + 1), 0.0))
    aligner = aligner_for(_language(voice), Settings().model_folders)
    placed = words_on_sound(rough, _blocks(sound), aligner, 0, lambda word: False)
    pairs = list(zip(placed, reading.words, strict=True))
    return Errors(
        tuple(found.start_ms - true.start_ms for found, true in pairs),
        tuple(found.end_ms - true.end_ms for found, true in pairs),
        tuple(at in reading.first for at in range(len(pairs))),
    )


def _captions(reading: Reading) -> tuple[list[Caption], list[int], list[int]]:
    """Captions, and the indices of their first and last words."""
    captions, first, last, held = [], [], [], list[Word]()
    for at, word in enumerate(reading.words):
        held.append(word)
        if word.text[-1] in _SENTENCE_ENDS + "," or len(held) == 9:
            text = " ".join(one.text for one in held)
            captions.append(Caption(f"c{len(captions)}", 0, 1, spans_of(text)))
            first.append(at - len(held) + 1)
            last.append(at)
            held = []
    return captions, first, last


def _blocks(sound: np.ndarray) -> Sequence[np.ndarray]:
    return [sound[at : at + _BLOCK] for at in range(0, len(sound), _BLOCK)]
