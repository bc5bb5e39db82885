"""How far a voice stands out of what lies beneath it, in steps of 10 milliseconds."""

from collections.abc import Iterable, Iterator

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import STEP_MS
from dunlin.core.speech.spectrum import AROUND, BANDS, DECIBELS_A_LEVEL, spectrum

__all__ = ["clearness", "with_spectra"]

_STEP = SPEECH_RATE * STEP_MS // 1000
# What lies beneath is told every two seconds, by a low share of the half minute around: a voice rests
# that often in each band of pitches.
_HOP, _AROUND_HOP, _LOW, _EVERY = 200, 1500, 12, 4
_CHUNK_HOPS = 32
# Noise strays by so much from its own floor; what is far above counts no more than what is plainly there.
# Tried out on held-out voices, clean, in noise and over music (tests/timing/test_held_out.py).
_STRAYS_DB, _PLAIN_DB = 3.0, 25.0


def with_spectra(
    blocks: Iterable[npt.NDArray[np.int16]],
) -> Iterator[tuple[npt.NDArray[np.int16], npt.NDArray[np.uint8]]]:
    """The blocks of a sound, with what it is made of as far as they go; a block without samples at the end.

    :param blocks: samples that follow each other, one channel, `SPEECH_RATE` a second
    :returns: with each block an array of shape (n, `BANDS`), as `spectrum` gives it; put together they have
        one row for each `STEP_MS` of the whole
    """
    rest = np.zeros(AROUND, np.int16)
    for block in blocks:
        rest = np.concatenate((rest, block))
        count = max((len(rest) - 2 * AROUND) // _STEP, 0)
        yield block, spectrum(rest[: count * _STEP + 2 * AROUND])
        rest = rest[count * _STEP :]
    yield rest[:0], spectrum(np.concatenate((rest, np.zeros(AROUND, np.int16))))


def clearness(rows: npt.NDArray[np.uint8]) -> npt.NDArray[np.float32]:
    """The mean over bands of how far each is above its own floor.

    A steady tone lifts its band's floor and is not heard, so that a voice is told from noise and from
    music that lasts.

    :param rows: shape (n, `BANDS`), as `with_spectra` gives them, put together
    :returns: shape (n,): decibels, from 0 to 22
    """
    count = len(rows)
    found = np.zeros(count, np.float32)
    if not count:
        return found
    hops = np.arange(0, count, _HOP)
    floors = np.stack([_floor(rows, hop) for hop in range(0, count, _HOP)])
    for first in range(0, count, _HOP * _CHUNK_HOPS):
        steps = np.arange(first, min(first + _HOP * _CHUNK_HOPS, count))
        levels = _levels(rows, first, len(steps))
        # Between two hops the floor goes from the one to the other.
        place = steps / _HOP
        lower = np.minimum(place.astype(int), len(hops) - 1)
        upper = np.minimum(lower + 1, len(hops) - 1)
        share = (place - lower)[:, None].astype(np.float32)
        floor = floors[lower] * (1 - share) + floors[upper] * share
        found[steps] = (levels - floor - _STRAYS_DB).clip(0, _PLAIN_DB).mean(axis=1)
    return found


def _floor(rows: npt.NDArray[np.uint8], hop: int) -> npt.NDArray[np.float32]:
    first = max(hop - _AROUND_HOP, 0)
    around = _levels(rows, first, min(hop + _AROUND_HOP, len(rows)) - first)
    low: npt.NDArray[np.float32] = np.percentile(around[::_EVERY], _LOW, axis=0).astype(np.float32)
    return low


def _levels(rows: npt.NDArray[np.uint8], first: int, count: int) -> npt.NDArray[np.float32]:
    """Decibels of the bands, each step with its two neighbours.

    :returns: shape (count, `BANDS`)
    """
    padded = np.take(rows, np.arange(first - 1, first + count + 1), axis=0, mode="clip")
    levels = padded.astype(np.float32) * DECIBELS_A_LEVEL
    smooth: npt.NDArray[np.float32] = (levels[:-2] + levels[1:-1] + levels[2:]) / 3
    assert smooth.shape == (count, BANDS)
    return smooth
