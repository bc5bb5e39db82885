"""Speech with known word times, from Debian's flite.

flite is driven as a shared library because its command line writes the sound but not the times:
the utterance it leaves behind says, for every word, where its first sound starts and its last ends.
"""

import ctypes
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

__all__ = ["SpokenWord", "Utterance", "speak"]


@dataclass(frozen=True)
class SpokenWord:
    """One word as spoken: `start` and `end` in seconds from the start of its utterance."""

    text: str
    start: float
    end: float


@dataclass(frozen=True)
class Utterance:
    """Mono samples, shape (n,), between -1 and 1, at `rate`, and the words in them."""

    samples: npt.NDArray[np.float32]
    rate: int
    words: tuple[SpokenWord, ...]


class _Wave(ctypes.Structure):
    _fields_ = [
        ("type", ctypes.c_char_p),
        ("sample_rate", ctypes.c_int),
        ("num_samples", ctypes.c_int),
        ("num_channels", ctypes.c_int),
        ("samples", ctypes.POINTER(ctypes.c_short)),
    ]


@cache
def _library() -> ctypes.CDLL:
    for name in ("libflite_usenglish.so.1", "libflite_cmulex.so.1"):
        ctypes.CDLL(name, mode=ctypes.RTLD_GLOBAL)
    flite = ctypes.CDLL("libflite.so.1", mode=ctypes.RTLD_GLOBAL)
    pointer, text = ctypes.c_void_p, ctypes.c_char_p
    for name, result, arguments in (
        ("flite_synth_text", pointer, [text, pointer]),
        ("utt_wave", ctypes.POINTER(_Wave), [pointer]),
        ("utt_relation", pointer, [pointer, text]),
        ("relation_head", pointer, [pointer]),
        ("item_next", pointer, [pointer]),
        ("item_parent", pointer, [pointer]),
        ("item_as", pointer, [pointer, text]),
        ("ffeature_string", text, [pointer, text]),
        ("ffeature_float", ctypes.c_float, [pointer, text]),
        ("feat_set_float", None, [pointer, text, ctypes.c_float]),
        ("delete_utterance", None, [pointer]),
    ):
        function = getattr(flite, name)
        function.restype, function.argtypes = result, arguments
    flite.flite_init()
    return flite


class _Voice(ctypes.Structure):
    _fields_ = [("name", ctypes.c_char_p), ("features", ctypes.c_void_p)]


# The male voice drawls; both are brought to the pace of people telling a story.
_STRETCH = {"slt": 1.08, "rms": 0.92}


@cache
def _voice(name: str) -> int:
    flite = _library()
    library = ctypes.CDLL(f"libflite_cmu_us_{name}.so.1")
    register = getattr(library, f"register_cmu_us_{name}")
    register.restype, register.argtypes = ctypes.POINTER(_Voice), [ctypes.c_char_p]
    voice = register(None)
    flite.feat_set_float(voice.contents.features, b"duration_stretch", _STRETCH.get(name, 1.0))
    return int(ctypes.addressof(voice.contents))


def _token_times(flite: ctypes.CDLL, utterance: int) -> list[tuple[float, float]]:
    """Start and end in seconds of each written token, in order."""
    times: dict[int, tuple[float, float]] = {}
    previous_end = 0.0
    segment = flite.relation_head(flite.utt_relation(utterance, b"Segment"))
    while segment:
        end = flite.ffeature_float(segment, b"end")
        in_word = flite.item_as(segment, b"SylStructure")
        if in_word and flite.ffeature_string(segment, b"name") != b"pau":
            word = flite.item_parent(flite.item_parent(in_word))
            token = flite.item_parent(flite.item_as(word, b"Token"))
            start = times[token][0] if token in times else previous_end
            times[token] = (start, end)
        previous_end = end
        segment = flite.item_next(segment)
    return list(times.values())


def speak(text: str, voice: str) -> Utterance:
    """Say a line.

    :param text: words separated by spaces; marks stay attached to their word
    :param voice: one of flite's, such as `slt` or `rms`, both 16 kHz
    :raises ValueError: when the synthesiser reads the line as another number of words
    """
    flite = _library()
    utterance = flite.flite_synth_text(text.encode(), _voice(voice))
    wave = flite.utt_wave(utterance).contents
    samples = np.ctypeslib.as_array(wave.samples, (wave.num_samples,)).astype(np.float32) / 32768
    times = _token_times(flite, utterance)
    rate = wave.sample_rate
    flite.delete_utterance(utterance)
    written = text.split()
    if len(written) != len(times):
        raise ValueError(f"{len(written)} words written, {len(times)} spoken: {text}")
    words = (SpokenWord(word, *span) for word, span in zip(written, times, strict=True))
    return Utterance(samples, rate, tuple(words))
