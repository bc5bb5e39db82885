"""What a sound is made of, step by step, as a picture of it shows."""

import numpy as np
import numpy.typing as npt

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import STEP_MS

__all__ = ["AROUND", "BANDS", "DECIBELS_A_LEVEL", "spectrum"]

BANDS = 64
_STEP = SPEECH_RATE * STEP_MS // 1000
_WINDOW = 512
AROUND = (_WINDOW - _STEP) // 2
"""Samples that the window of a step takes in before its first one, and after its last."""

_LOWEST_HZ, _HIGHEST_HZ = 60, SPEECH_RATE / 2
# The room between a studio's hiss and a shout close to the microphone.
_SILENT_DB, _LOUDEST_DB = -90.0, -10.0
DECIBELS_A_LEVEL = (_LOUDEST_DB - _SILENT_DB) / 255
"""What one more in a `spectrum` means."""


def spectrum(samples: npt.NDArray[np.int16]) -> npt.NDArray[np.uint8]:
    """How loud each band of pitches is in each step.

    Bands are as wide as the ear parts them (mel scale; O'Shaughnessy, Speech Communication, 1987).

    :param samples: one channel, `SPEECH_RATE` a second, with `AROUND` more before the first step and
        after the last one
    :returns: shape (n, `BANDS`), one row for each `STEP_MS`, lowest band first; 0 is 90 dB below full
        scale or less, 255 is 10 dB below it or more
    """
    count = max((len(samples) - 2 * AROUND) // _STEP, 0)
    if not count:
        return np.empty((0, BANDS), np.uint8)
    window = np.hanning(_WINDOW).astype(np.float32)
    frames = np.lib.stride_tricks.sliding_window_view(samples, _WINDOW)[::_STEP][:count]
    power = np.abs(np.fft.rfft(frames * (window / 32768), axis=1)) ** 2
    power /= float((window**2).sum()) * _WINDOW / 2
    decibels = 10 * np.log10(power @ _BANDS_OF_BINS + 1e-12)
    part = (decibels - _SILENT_DB) / (_LOUDEST_DB - _SILENT_DB)
    levels: npt.NDArray[np.uint8] = (part.clip(0, 1) * 255).astype(np.uint8)
    return levels


def _bands_of_bins() -> npt.NDArray[np.float32]:
    """The share that each bin of the transform has in each band: triangles that meet at their feet."""
    highest = 2595 * np.log10(1 + _HIGHEST_HZ / 700)
    lowest = 2595 * np.log10(1 + _LOWEST_HZ / 700)
    corners = 700 * (10 ** (np.linspace(lowest, highest, BANDS + 2) / 2595) - 1)
    hertz_apart = SPEECH_RATE / _WINDOW
    bins = np.arange(_WINDOW // 2 + 1) * hertz_apart
    below, centre, above = corners[:-2], corners[1:-1], corners[2:]
    # Where bands are narrower than a bin, each still reaches to the bins on its two sides.
    rise = np.maximum(centre - below, hertz_apart)
    fall = np.maximum(above - centre, hertz_apart)
    away = bins[:, None] - centre
    shares: npt.NDArray[np.float32] = (
        np.where(away < 0, 1 + away / rise, 1 - away / fall).clip(0, 1).astype(np.float32)
    )
    return shares


_BANDS_OF_BINS = _bands_of_bins()
