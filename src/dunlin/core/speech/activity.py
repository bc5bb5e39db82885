"""Where somebody speaks, told from the sound alone, in steps of 10 milliseconds."""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from operator import attrgetter
from typing import Literal

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE

__all__ = ["STEP_MS", "Stretch", "levels", "nearest_edge", "speech_stretches"]

STEP_MS = 10
_STEP = SPEECH_RATE * STEP_MS // 1000
_WINDOW = 512
# What carries speech, and little of rumble and hiss: the telephone's band (ITU-T G.712), parted as the
# ear parts it (every second critical band, Zwicker 1961). A voice fills most of the parts at once, the
# tones of music a few, so the mean of their levels tells one from the other; their sum has the sharper
# onsets. The share of the one was tried out on talk over noise and music, and on the demo film.
_BANDS_HZ = (300, 400, 510, 770, 1080, 1480, 2000, 2700, 3400)
_OF_EACH = 0.4
_SILENT_DB = -80.0

# A speaker's stop consonants are shorter than this, pauses for breath longer.
_SHORTEST_PAUSE_MS, _SHORTEST_SPEECH_MS = 180, 90
# Speech ends lower than it begins; an end is looked for this far below the threshold.
_RELEASE_DB = 5.0
_LEAST_CONTRAST_DB = 8.0


@dataclass(frozen=True)
class Stretch:
    """Somebody speaks from `start_ms` until `end_ms`."""

    start_ms: int
    end_ms: int


def nearest_edge(
    speech: Sequence[Stretch], edge: Literal["start_ms", "end_ms"], ms: float
) -> int | None:
    """The start or end of speech nearest to a time, of two that are alike the earlier; None where
    nobody speaks.

    :param speech: in order, no two overlapping
    """
    edge_of: Callable[[Stretch], int] = attrgetter(edge)
    at = bisect_left(speech, ms, key=edge_of)
    around = map(edge_of, speech[max(at - 1, 0) : at + 1])
    return min(around, key=lambda found: abs(found - ms), default=None)


def levels(sound: Iterable[npt.NDArray[np.int16]]) -> npt.NDArray[np.float32]:
    """How loud the band of speech is.

    :param sound: blocks of samples, one channel, `SPEECH_RATE` a second
    :returns: shape (n,): decibels below full scale, the mean of the band's parts, one for each `STEP_MS`
    """
    window = np.hanning(_WINDOW).astype(np.float32)
    found: list[npt.NDArray[np.float32]] = []
    # The window of a step is laid around its middle.
    rest = np.zeros((_WINDOW - _STEP) // 2, np.int16)
    blocks = iter(sound)
    while (block := next(blocks, None)) is not None:
        rest = np.concatenate((rest, block))
        rest = _measured(rest, window, found)
    _measured(np.concatenate((rest, np.zeros((_WINDOW - _STEP) // 2, np.int16))), window, found)
    return np.concatenate(found) if found else np.empty(0, np.float32)


def _measured(
    samples: npt.NDArray[np.int16],
    window: npt.NDArray[np.float32],
    found: list[npt.NDArray[np.float32]],
) -> npt.NDArray[np.int16]:
    """Adds the levels of all whole windows, and gives the samples that the next ones need."""
    count = (len(samples) - _WINDOW) // _STEP + 1
    if count <= 0:
        return samples
    frames = np.lib.stride_tricks.sliding_window_view(samples, _WINDOW)[::_STEP][:count]
    edges = [hertz * _WINDOW // SPEECH_RATE for hertz in _BANDS_HZ]
    for first in range(0, count, 4096):
        part = frames[first : first + 4096] * (window / 32768)
        power = np.abs(np.fft.rfft(part, axis=1)) ** 2 / (float((window**2).sum()) * _WINDOW / 2)
        parts = np.add.reduceat(power[:, : edges[-1]], edges[:-1], axis=1)
        each = _decibels(parts).mean(axis=1)
        all_ = _decibels(parts.sum(axis=1))
        found.append((_OF_EACH * each + (1 - _OF_EACH) * all_).astype(np.float32))
    return samples[count * _STEP :]


def _decibels(power: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    above: npt.NDArray[np.float32] = (10 * np.log10(power + 1e-9)).clip(_SILENT_DB, 0)
    return above


def speech_stretches(levels: npt.NDArray[np.float32]) -> list[Stretch]:
    """Where somebody speaks.

    Levels of speech and of what is beneath it form two heaps; the threshold parts them so that both
    are as narrow as they can be (Otsu, IEEE Trans. SMC 9, 1979). In music or noise that comes and
    goes, the floor is followed over half a minute.

    :param levels: as `levels` gives them
    :returns: stretches in order, with a pause between any two; none where nothing stands out
    """
    if len(levels) < 3:
        return []
    smooth = _smoothed(levels, 5)
    above = smooth - _floor(smooth)
    threshold = _threshold(above)
    if threshold is None:
        return []
    loud = above >= threshold
    still = above >= max(threshold - _RELEASE_DB, threshold / 2)
    return _stretches(loud, still)


def _smoothed(values: npt.NDArray[np.float32], width: int) -> npt.NDArray[np.float32]:
    padded = np.pad(values, width // 2, mode="edge")
    sums = np.cumsum(np.concatenate(([0.0], padded)))
    means: npt.NDArray[np.float32] = ((sums[width:] - sums[:-width]) / width).astype(np.float32)
    return means


def _floor(values: npt.NDArray[np.float32]) -> npt.NDArray[np.float32]:
    """What lies beneath speech: the lower tenth of the levels around, half a minute wide."""
    hop, width = 200, 3000
    centres = np.arange(0, len(values), hop)
    lows = np.array(
        [np.percentile(values[max(at - width // 2, 0) : at + width // 2], 10) for at in centres]
    )
    # A silence is no floor to measure noise by, nor is a loud half minute a quiet one.
    lows = np.maximum(lows, np.percentile(values, 5))
    floor: npt.NDArray[np.float32] = np.interp(np.arange(len(values)), centres, lows).astype(
        np.float32
    )
    return floor


def _threshold(values: npt.NDArray[np.float32]) -> float | None:
    """The level that parts two heaps best; None where there is but one."""
    lowest, highest = np.percentile(values, [1, 99.5])
    if highest - lowest < _LEAST_CONTRAST_DB:
        return None
    counts, edges = np.histogram(values.clip(lowest, highest), 128)
    weights = counts / counts.sum()
    centres = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(weights)
    mean_below = np.cumsum(weights * centres)
    with np.errstate(divide="ignore", invalid="ignore"):
        between = (mean_below[-1] * below - mean_below) ** 2 / (below * (1 - below))
    best = int(np.nanargmax(between[:-1]))
    return float(edges[best + 1])


def _stretches(loud: npt.NDArray[np.bool_], still: npt.NDArray[np.bool_]) -> list[Stretch]:
    """Runs of `still` that get `loud`, without short pauses and short noises."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], still.astype(np.int8), [0]))))
    runs: list[list[int]] = []
    for start, end in edges.reshape(-1, 2).tolist():
        if not loud[start:end].any():
            continue
        if runs and (start - runs[-1][1]) * STEP_MS < _SHORTEST_PAUSE_MS:
            runs[-1][1] = end
        else:
            runs.append([start, end])
    return [
        Stretch(start * STEP_MS, end * STEP_MS)
        for start, end in runs
        if (end - start) * STEP_MS >= _SHORTEST_SPEECH_MS
    ]
