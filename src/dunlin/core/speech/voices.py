"""A first guess of who speaks, from the sound of the voices."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import STEP_MS
from dunlin.core.speech.spectrum import AROUND, spectrum
from dunlin.core.speech.words import Word, ends_sentence

__all__ = ["MOST_VOICES", "Guess", "passages", "sounds", "voice_of", "voices"]

MOST_VOICES = 9

# The first one tells how loud it is, and those behind the twelfth more about the words than about the
# voice (Davis and Mermelstein, IEEE Transactions on Acoustics, Speech, and Signal Processing, 1980).
_CEPSTRA = slice(1, 13)
# Nobody answers sooner, and one who goes on does so at a breath.
_PAUSE_MS = 300
# Of a passage, only what is spoken: steps within this of its loudest ones.
_QUIET = 0.25
_LEAST_STEPS = 25
# Voices from a low man's to a high child's.
_LOWEST_HZ, _HIGHEST_HZ = 60, 400
_PITCH_WINDOW = SPEECH_RATE // 25
_VOICED, _NEARLY = 0.5, 0.85
# How far apart two voices are: cepstra and octaves in parts that weigh alike on the demo film's two, on
# which the least silhouette of two voices was tried out too. Groups of one voice have about 0.3.
_CEPSTRA_WEIGH, _OCTAVES_WEIGH = 4.0, 3.0
_LEAST_APART = 0.45


@dataclass(frozen=True)
class Guess:
    """Who speaks a passage: the number of a voice, 0 for the one heard first, and how sure that is,
    from 0, as near to another voice or not heard at all, to 1."""

    voice: int
    sure: float


def passages(words: Sequence[Word]) -> list[tuple[int, int]]:
    """Where another voice may begin: after a pause, and after a sentence.

    :returns: for each passage the index of its first word, and of the one after its last
    """
    firsts = [
        index
        for index, word in enumerate(words)
        if index == 0
        or word.start_ms - words[index - 1].end_ms >= _PAUSE_MS
        or ends_sentence(words[index - 1])
    ]
    return list(pairwise([*firsts, len(words)]))


def sounds(
    blocks: Iterable[npt.NDArray[np.int16]], stretches: Sequence[tuple[int, int]]
) -> Iterator[npt.NDArray[np.int16]]:
    """The sound of each stretch; no more of the film is held than the longest one needs.

    :param blocks: the film's sound from its beginning, one channel, `SPEECH_RATE` a second
    :param stretches: starts and ends in milliseconds, in order
    """
    coming = iter(blocks)
    held, held_from = np.empty(0, np.int16), 0
    for start_ms, end_ms in stretches:
        first, after = (ms * SPEECH_RATE // 1000 for ms in (start_ms, end_ms))
        while held_from + len(held) < after and (block := next(coming, None)) is not None:
            kept = held[max(first - held_from, 0) :]
            held_from += len(held) - len(kept)
            held = np.concatenate((kept, block))
        yield held[max(first - held_from, 0) : max(after - held_from, 0)]


def voice_of(samples: npt.NDArray[np.int16]) -> npt.NDArray[np.float64] | None:
    """What a passage tells of the voice: the mean of its cepstra, and its pitch.

    :param samples: one channel, `SPEECH_RATE` a second
    :returns: shape (13,); None when too little is spoken in it
    """
    bands = spectrum(np.pad(samples, AROUND)).astype(np.float64) / 255
    loudness = bands.mean(axis=1)
    if not len(bands) or (spoken := loudness > loudness.max() - _QUIET).sum() < _LEAST_STEPS:
        return None
    from scipy.fft import dct

    cepstra = dct(bands[spoken], axis=1, norm="ortho")[:, _CEPSTRA]
    pitches = [
        pitch
        for step in np.flatnonzero(spoken)[::2]
        if (pitch := _pitch(samples[step * STEP_MS * SPEECH_RATE // 1000 :][:_PITCH_WINDOW]))
    ]
    if len(pitches) < _LEAST_STEPS // 5:
        return None
    return np.append(cepstra.mean(axis=0), np.log2(np.median(pitches)))


def _pitch(samples: npt.NDArray[np.int16]) -> float | None:
    """Hertz of the strongest period (autocorrelation); None where there is none, as in an s."""
    if len(samples) < _PITCH_WINDOW:
        return None
    wave = samples - samples.mean()
    power = np.abs(np.fft.rfft(wave, 2 * len(wave))) ** 2
    alike = np.fft.irfft(power)[: len(wave)]
    if alike[0] <= 0:
        return None
    shortest, longest = SPEECH_RATE // _HIGHEST_HZ, SPEECH_RATE // _LOWEST_HZ
    # Long periods have fewer samples to be alike in.
    share = (
        alike[shortest:longest] / alike[0] * len(wave) / (len(wave) - np.arange(shortest, longest))
    )
    # Two periods are as alike as one: of peaks that are nearly as high, the shortest is the voice's.
    best = int(np.flatnonzero(share > share.max() * _NEARLY)[0])
    while best + 1 < len(share) and share[best + 1] > share[best]:
        best += 1
    return SPEECH_RATE / (best + shortest) if share[best] > _VOICED else None


def voices(heard: Sequence[npt.NDArray[np.float64] | None]) -> list[Guess]:
    """Gathers passages by their voices.

    Passages are joined to groups, those nearest first (average linkage), and of all numbers of
    voices that is taken which parts the groups best (silhouette; Rousseeuw, Journal of Computational
    and Applied Mathematics, 1987).

    :param heard: what `voice_of` gave for each passage
    :returns: a guess for each; one in which too little is heard goes with the one before it
    """
    known = [index for index, voice in enumerate(heard) if voice is not None]
    guesses = [Guess(0, 0.0)] * len(heard)
    if not known:
        return guesses
    labels, sure = _grouped(np.array([heard[index] for index in known]))
    order = list(dict.fromkeys(labels))
    for index, label, certainty in zip(known, labels, sure, strict=True):
        guesses[index] = Guess(order.index(label), round(float(certainty), 3))
    for index in range(1, len(heard)):
        if heard[index] is None:
            guesses[index] = Guess(guesses[index - 1].voice, 0.0)
    return guesses


def _grouped(
    known: npt.NDArray[np.float64],
) -> tuple[list[int], npt.NDArray[np.float64]]:
    """A label for each voice, and how much nearer it is to its group than to the next one."""
    # Loaded here: all that start would wait a second for what few ever ask for.
    from scipy.cluster.hierarchy import fcluster, linkage
    from scipy.spatial.distance import pdist, squareform

    one = np.ones(len(known), int)
    if len(known) < 3:
        return one.tolist(), np.zeros(len(known))
    apart = pdist(known * np.append(np.full(known.shape[1] - 1, _CEPSTRA_WEIGH), _OCTAVES_WEIGH))
    joined, distances = linkage(apart, "average"), squareform(apart)
    ways = [
        (labels, _silhouettes(distances, labels))
        for count in range(2, min(MOST_VOICES, len(known) - 1) + 1)
        for labels in [fcluster(joined, count, "maxclust")]
    ]
    labels, silhouettes = max(ways, key=lambda way: float(way[1].mean()))
    if silhouettes.mean() < _LEAST_APART:
        return one.tolist(), np.full(len(known), 1 - max(silhouettes.mean(), 0) / _LEAST_APART)
    return labels.tolist(), silhouettes.clip(0, 1)


def _silhouettes(
    distances: npt.NDArray[np.float64], labels: npt.NDArray[np.int_]
) -> npt.NDArray[np.float64]:
    """For each, from -1 to 1, how much nearer its own group is than the nearest other one; 0 for one alone."""
    groups = (labels[:, None] == np.unique(labels)).astype(float)
    sums, sizes = distances @ groups, groups.sum(axis=0)
    own = groups.astype(bool)
    within = sums[own] / np.maximum(sizes[own.argmax(axis=1)] - 1, 1)
    beside = np.where(own, np.inf, sums / sizes).min(axis=1)
    found = (beside - within) / np.maximum(np.maximum(within, beside), 1e-9)
    alone: npt.NDArray[np.float64] = np.where(sizes[own.argmax(axis=1)] == 1, 0.0, found)
    return alone
