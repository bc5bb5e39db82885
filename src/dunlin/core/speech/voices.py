"""A first guess of who speaks, from the sound of the voices."""

from collections import Counter
from collections.abc import Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import STEP_MS
from dunlin.core.speech.spectrum import AROUND, spectrum
from dunlin.core.speech.words import Word, ends_sentence

__all__ = ["MOST_VOICES", "Guess", "passages", "sounds", "taught", "voice_of", "voices"]

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
# How far apart two voices are: weights of cepstra and octaves, and the least silhouette of two voices, tried
# out on one to four voices in long turns and in short ones (tests/timing/test_conversations.py). Groups of one
# voice have 0.3 to 0.43.
_CEPSTRA_WEIGH, _OCTAVES_WEIGH = 3.0, 4.0
_LEAST_APART = 0.44
# By so much more a silhouette, one voice more is surely one.
_CLEARER = 0.06
_WEIGHTS = np.append(np.full(12, _CEPSTRA_WEIGH), _OCTAVES_WEIGH)


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

    Passages are joined to groups so that those stay narrow (Ward, Journal of the American Statistical
    Association, 1963), and of all numbers of voices that is taken which parts the groups best
    (silhouette; Rousseeuw, Journal of Computational and Applied Mathematics, 1987).

    :param heard: what `voice_of` gave for each passage
    :returns: a guess for each; one in which too little is heard goes with the one before it
    """
    known = [index for index, voice in enumerate(heard) if voice is not None]
    if not known:
        return [Guess(0, 0.0)] * len(heard)
    best = _best_way(_ways(np.array([heard[index] for index in known])))
    return _guesses(len(heard), known, best)


def taught(
    heard: Sequence[npt.NDArray[np.float64] | None], named: Sequence[str | None]
) -> tuple[list[Guess], list[str | None]]:
    """Gathers passages by their voices, as `voices` does, and learns from what is said of some.

    Who a passage was said to be of is taken as true where only some are named, or where the voice alone
    tells otherwise: it was put right. A group of passages goes with what was put right in it; where that
    would leave another speaker none, there are more voices than was thought.

    :param named: the speaker of each passage; None where nobody is named
    :returns: a guess for each, and for each voice its speaker; None where nobody is named
    """
    guesses = voices(heard)
    names = _names([guess.voice for guess in guesses], named)
    known = [index for index, voice in enumerate(heard) if voice is not None]
    some = any(name is None for name in named)
    right = {
        at: name
        for at, index in enumerate(known)
        if (name := named[index]) and (some or names[guesses[index].voice] != name)
    }
    if not right:
        return guesses, [names.get(voice) for voice in range(_count(guesses))]
    ways = _ways(np.array([heard[index] for index in known]))
    least = _count(guesses)
    said = [named[index] for index in known]
    for way in ways[least - 1 :]:
        if (speakers := _speakers(way.labels, said, right)) is not None:
            break
    else:
        way = _best_way(ways)
        speakers = _names(way.labels, said)
    # A speaker is one voice, of however many groups.
    voice_of_speaker = [speakers.get(label) or label for label in way.labels]
    for at, name in right.items():
        voice_of_speaker[at] = name
    sure = [1.0 if at in right else value for at, value in enumerate(way.sure)]
    result = _guesses(len(heard), known, _Way(voice_of_speaker, sure))
    speaker_of: dict[int, str | None] = {}
    for index, speaker in zip(known, voice_of_speaker, strict=True):
        speaker_of[result[index].voice] = speaker if isinstance(speaker, str) else None
    by_name = {speaker: voice for voice, speaker in speaker_of.items() if speaker}
    for index, name in enumerate(named):
        if heard[index] is None and name in by_name:
            result[index] = Guess(by_name[name], 0.0)
    return result, [speaker_of[voice] for voice in sorted(speaker_of)]


@dataclass(frozen=True)
class _Way:
    """One way to part voices: a label for each, and how much nearer it is to its group than to the next."""

    labels: Sequence[Hashable]
    sure: Sequence[float]

    @property
    def voices(self) -> int:
        return len(set(self.labels))


def _count(guesses: Sequence[Guess]) -> int:
    return max((guess.voice + 1 for guess in guesses), default=0)


def _names(labels: Sequence[Hashable], named: Sequence[str | None]) -> dict[Hashable, str]:
    """Who has most of each group, where somebody is named."""
    counts: dict[Hashable, Counter[str]] = {}
    for label, name in zip(labels, named, strict=True):
        if name:
            counts.setdefault(label, Counter())[name] += 1
    return {label: count.most_common(1)[0][0] for label, count in counts.items()}


def _speakers(
    labels: Sequence[Hashable], said: Sequence[str | None], right: Mapping[int, str]
) -> dict[Hashable, str] | None:
    """The speaker of each group that has one; None where the groups contradict what was put right."""
    speakers: dict[Hashable, str] = {}
    for at, name in right.items():
        if speakers.setdefault(labels[at], name) != name:
            return None
    others = {name for at, name in enumerate(said) if name and at not in right}
    found = _names(labels, said) | speakers
    return found if others <= set(found.values()) else None


def _guesses(count: int, known: Sequence[int], way: _Way) -> list[Guess]:
    """The voices of a way, numbered as they come in; what is not known goes with the one before."""
    order = list(dict.fromkeys(way.labels))
    guesses = [Guess(0, 0.0)] * count
    for index, label, certainty in zip(known, way.labels, way.sure, strict=True):
        guesses[index] = Guess(order.index(label), round(float(certainty), 3))
    for index in sorted(set(range(1, count)) - set(known)):
        guesses[index] = Guess(guesses[index - 1].voice, 0.0)
    return guesses


def _ways(known: npt.NDArray[np.float64]) -> list[_Way]:
    """Voices parted into one group, two and so on; how sure the one is, is told by how unclear the others are."""
    one = [0] * len(known)
    if len(known) < 3:
        return [_Way(one, [0.0] * len(known))]
    # Loaded here: all that start would wait a second for what few ever ask for.
    from scipy.cluster.hierarchy import fcluster, linkage
    from scipy.spatial.distance import pdist, squareform

    apart = pdist(known * _WEIGHTS)
    joined, distances = linkage(apart, "ward"), squareform(apart)
    ways = []
    for count in range(2, min(MOST_VOICES, len(known) - 1) + 1):
        labels = fcluster(joined, count, "maxclust")
        ways.append(_Way(labels.tolist(), _silhouettes(distances, labels).tolist()))
    clearest = max(float(np.mean(way.sure)) for way in ways)
    return [_Way(one, [1 - max(clearest, 0) / _LEAST_APART] * len(known)), *ways]


def _best_way(ways: Sequence[_Way]) -> _Way:
    """The clearest; that of one voice, where none is clear."""
    one, *others = ways
    best = max(others, key=lambda way: float(np.mean(way.sure)), default=one)
    if best is one or np.mean(best.sure) < _LEAST_APART:
        return one
    sure = np.clip(best.sure, 0, 1)
    if best is not others[0]:
        fewer = others[others.index(best) - 1]
        # Two groups that might as well be one voice are unsure, however alike each is in itself.
        clearer = float(np.mean(best.sure) - np.mean(fewer.sure)) / _CLEARER
        sure[_joined(best.labels, fewer.labels)] *= min(max(clearer, 0), 1)
    return _Way(best.labels, sure.tolist())


def _joined(labels: Sequence[Hashable], fewer: Sequence[Hashable]) -> list[int]:
    """Indices of those in groups that another way takes as one."""
    parts: dict[Hashable, set[Hashable]] = {}
    for label, other in zip(labels, fewer, strict=True):
        parts.setdefault(other, set()).add(label)
    return [at for at, other in enumerate(fewer) if len(parts[other]) > 1]


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
