"""A stretch of a film's spectrum, worked out when it is looked at."""

from contextlib import closing
from pathlib import Path

import numpy as np

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.activity import STEP_MS
from dunlin.core.speech.spectrum import AROUND, spectrum
from dunlin.media.sound import speech_blocks

__all__ = ["spectrum_slice"]


def spectrum_slice(film: Path, first: int, count: int) -> bytes:
    """The spectrum of `count` steps from step `first` on, or fewer where the sound ends: one byte for
    each band of each step, as `dunlin.core.speech.spectrum` gives them.

    :raises MediaError: when the sound cannot be decoded
    """
    step = SPEECH_RATE * STEP_MS // 1000
    wanted = count * step + 2 * AROUND
    lead = min(AROUND, first * step)
    start = (first * step - lead) / SPEECH_RATE
    with closing(speech_blocks(film, (wanted - AROUND + lead) / SPEECH_RATE, start)) as blocks:
        samples = next(blocks, np.empty(0, np.int16))
    missing = wanted - (AROUND - lead) - len(samples)
    # Silence stands before the first sample, and as far as a window reaches behind the last.
    return spectrum(np.pad(samples, (AROUND - lead, min(missing, AROUND)))).tobytes()
