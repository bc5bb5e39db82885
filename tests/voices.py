"""Texts read aloud by synthesisers, with the times of their words: flite's English voices and espeak-ng's
robotic ones of other languages."""

import ctypes
import re
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache
from multiprocessing import get_context
from typing import Any, Literal

import numpy as np
import numpy.typing as npt
from scipy.signal import resample_poly

from demo.voices import speak
from dunlin.core.speech import SPEECH_RATE, Word
from tests.stories import STORY

__all__ = [
    "ENGLISH_VOICES",
    "Conversation",
    "Reading",
    "Under",
    "conversation",
    "music",
    "over",
    "read_aloud",
]

ENGLISH_VOICES = ("awb", "kal16", "rms", "slt")
"""flite's: a Scot, a man of an old kind of synthesis, and the two of the demo film."""

Under = Literal["nothing", "noise", "music"]
_Samples = npt.NDArray[np.int16]


@dataclass(frozen=True)
class Reading:
    """Sound at `SPEECH_RATE`, and its words; `first` are the indices of words that begin a sentence."""

    sound: _Samples
    words: tuple[Word, ...]
    first: frozenset[int]


def read_aloud(sentences: Sequence[str], voice: str, seed: int = 1) -> Reading:
    """Sentences with pauses between them.

    :param voice: one of `ENGLISH_VOICES`, or a language for espeak-ng, also with one of its variants, as in
        `es+f2`
    """
    random = np.random.default_rng(seed)
    pieces: list[_Samples] = []
    words: list[Word] = []
    first, length = set(), 0
    for sound, spoken in _spoken(sentences, voice):
        pause = int(
            random.choice([random.uniform(0.25, 0.7), random.uniform(0.7, 2.5)]) * SPEECH_RATE
        )
        pieces.append(np.zeros(pause, np.int16))
        length += pause
        first.add(len(words))
        start = length * 1000 // SPEECH_RATE
        words += [replace(w, start_ms=w.start_ms + start, end_ms=w.end_ms + start) for w in spoken]
        pieces.append(sound)
        length += len(sound)
    pieces.append(np.zeros(SPEECH_RATE, np.int16))
    return Reading(np.concatenate(pieces), tuple(words), frozenset(first))


@dataclass(frozen=True)
class Conversation:
    """Sound at `SPEECH_RATE`, its words, and the index of the voice that says each."""

    sound: _Samples
    words: tuple[Word, ...]
    who: tuple[int, ...]


def conversation(voices: Sequence[str], seed: int, *, short: bool, turns: int = 24) -> Conversation:
    """What several people say in turn, whole sentences or a few words at a time, none twice."""
    random = np.random.default_rng(seed)
    said = [*STORY]
    if short:
        said = [
            " ".join(tokens[at : at + random.integers(2, 6)]).rstrip(",") + "."
            for tokens in (sentence.rstrip(".?").split() for sentence in STORY)
            for at in range(0, len(tokens) - 3, 4)
        ]
    random.shuffle(said)
    pieces: list[_Samples] = []
    words: list[Word] = []
    who: list[int] = []
    length, speaker = 0, 0
    for text in said[:turns]:
        if random.random() < 0.75:
            speaker = (speaker + int(random.integers(1, len(voices)))) % len(voices)
        sound, spoken = _flite(text, voices[speaker])
        pause = int(random.uniform(0.15, 0.8) * SPEECH_RATE)
        start = (length + pause) * 1000 // SPEECH_RATE
        words += [replace(w, start_ms=w.start_ms + start, end_ms=w.end_ms + start) for w in spoken]
        who += [speaker] * len(spoken)
        pieces += [np.zeros(pause, np.int16), sound]
        length += pause + len(sound)
    made = np.concatenate(pieces) + random.normal(0, 6, length)
    return Conversation(made.astype(np.int16), tuple(words), tuple(who))


def over(reading: Reading, under: Under, decibels: float = 15, seed: int = 1) -> _Samples:
    """The sound with something under it that is quieter than the voice by so many decibels."""
    random = np.random.default_rng(seed)
    speech = reading.sound.astype(np.float64)
    loud = np.sqrt((speech[np.abs(speech) > 50] ** 2).mean())
    total = len(speech)
    if under == "nothing":
        beneath = random.normal(0, 6, total)
    else:
        beneath = random.normal(0, 1, total) if under == "noise" else music(random, total)
        beneath *= loud * 10 ** (-decibels / 20) / np.sqrt((beneath**2).mean())
    return (speech + beneath).clip(-32768, 32767).astype(np.int16)


def music(random: np.random.Generator, total: int) -> npt.NDArray[np.float64]:
    """Chords of three tones, struck twice a second, in so many samples."""
    time = np.arange(total) / SPEECH_RATE
    music = np.zeros(total)
    for bar in range(0, total, SPEECH_RATE // 2):
        part = slice(bar, bar + SPEECH_RATE // 2)
        for tone in 220 * 2 ** (random.choice([0, 3, 4, 7, 9, 12], 3) / 12):
            fading = np.exp(-3 * (time[part] - time[bar]))
            music[part] += np.sin(2 * np.pi * tone * time[part]) * fading
    return music


def _spoken(sentences: Sequence[str], voice: str) -> list[tuple[_Samples, list[Word]]]:
    """The sound of each sentence, and its words; the same at each call."""
    if voice in ENGLISH_VOICES:
        return [_flite(sentence, voice) for sentence in sentences]
    # What espeak-ng says goes by all that it said before in its process.
    with ProcessPoolExecutor(1, get_context("spawn")) as one:
        return list(one.map(_espeak, sentences, [voice] * len(sentences)))


def _flite(text: str, voice: str) -> tuple[_Samples, list[Word]]:
    said = speak(text, voice)
    assert said.rate == SPEECH_RATE
    words = [Word(w.text, round(w.start * 1000), round(w.end * 1000)) for w in said.words]
    return (said.samples * 32767).astype(np.int16), words


class _Event(ctypes.Structure):
    _fields_ = [
        ("type", ctypes.c_int),
        ("unique_identifier", ctypes.c_uint),
        ("text_position", ctypes.c_int),
        ("length", ctypes.c_int),
        ("audio_position", ctypes.c_int),
        ("sample", ctypes.c_int),
        ("user_data", ctypes.c_void_p),
        ("name", ctypes.c_char * 8),
    ]


_WORD, _PHONEME, _LIST_TERMINATED = 1, 7, 0
_SYNCHRONOUS, _PHONEME_EVENTS, _UTF_8 = 2, 1, 1
_Callback = ctypes.CFUNCTYPE(
    ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.POINTER(_Event)
)


@cache
def _espeak_library() -> tuple[Any, int]:
    library = ctypes.CDLL("libespeak-ng.so.1")
    rate = library.espeak_Initialize(_SYNCHRONOUS, 0, None, _PHONEME_EVENTS)
    library.espeak_SetParameter(1, 140, 0)
    return library, rate


def _espeak(text: str, language: str) -> tuple[_Samples, list[Word]]:
    library, rate = _espeak_library()
    samples: list[_Samples] = []
    events: list[tuple[int, int, int, bytes]] = []

    @_Callback
    def take(wave: Any, count: int, told: Any) -> int:
        if wave and count:
            samples.append(np.ctypeslib.as_array(wave, (count,)).copy())
        at = 0
        while (event := told[at]).type != _LIST_TERMINATED:
            events.append((event.type, event.sample, event.text_position, event.name))
            at += 1
        return 0

    library.espeak_SetSynthCallback(take)
    assert library.espeak_SetVoiceByName(language.encode()) == 0, language
    encoded = text.encode()
    library.espeak_Synth(encoded, len(encoded) + 1, 0, 1, 0, _UTF_8, None, None)
    sound = np.concatenate(samples)
    words = []
    for token, start, until in _starts(text, events, len(sound)):
        # Sounds begin at their events; a word lasts until the pause or the word behind it.
        rests = [at for kind, at, _, name in events
                 if kind == _PHONEME and start < at <= until and name[:1] in (b"", b"_")]  # fmt: skip
        end = rests[0] if rests else until
        words.append(Word(token, start * 1000 // rate, end * 1000 // rate))
    return resample_poly(sound, SPEECH_RATE, rate).clip(-32768, 32767).astype(np.int16), words


def _starts(
    text: str, events: Sequence[tuple[int, int, int, bytes]], length: int
) -> list[tuple[str, int, int]]:
    """Each written word with the sample at which it begins and that at which the next one does."""
    found = []
    for match in re.finditer(r"\S+", text):
        # Positions count characters from 1; some words are spoken as several.
        there = [at for kind, at, position, _ in events
                 if kind == _WORD and match.start() < position <= match.end()]  # fmt: skip
        assert there, (text, match.group())
        found.append((match.group(), there[0]))
    ends = [at for _, at in found[1:]] + [length]
    return [(token, at, end) for (token, at), end in zip(found, ends, strict=True)]
