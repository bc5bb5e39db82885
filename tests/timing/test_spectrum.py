"""The sound's pitches over time."""

import numpy as np
import pytest

from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.spectrum import AROUND, BANDS, spectrum
from dunlin.media.spectrum import spectrum_slice
from tests.conftest import FILM


def tone(hertz: float, amplitude: float = 0.3) -> np.ndarray:
    at = np.arange(SPEECH_RATE + 2 * AROUND) / SPEECH_RATE
    return (np.sin(2 * np.pi * hertz * at) * amplitude * 32767).astype(np.int16)


def test_a_higher_tone_stands_in_a_higher_band() -> None:
    loudest = [
        int(spectrum(tone(hertz)).mean(axis=0).argmax())
        for hertz in (100, 200, 400, 800, 1600, 3200, 6400)
    ]
    assert loudest == sorted(set(loudest))
    assert 0 <= loudest[0] < loudest[-1] < BANDS


@pytest.mark.parametrize("hertz", [150, 700, 2500])
def test_ten_decibels_are_an_eighth_of_the_range(hertz: float) -> None:
    loud, quiet = (spectrum(tone(hertz, part)).max() for part in (0.1, 0.1 / 10**0.5))
    assert loud - quiet == pytest.approx(255 / 8, abs=2)


def test_silence_is_nothing_and_too_little_has_no_step() -> None:
    assert not spectrum(np.zeros(SPEECH_RATE, np.int16)).any()
    assert spectrum(np.zeros(2 * AROUND + 10, np.int16)).shape == (0, BANDS)


def test_slices_of_a_film_join_without_a_seam() -> None:
    whole = np.frombuffer(spectrum_slice(FILM, 0, 700), np.uint8)
    assert len(whole) == 700 * BANDS
    parts = spectrum_slice(FILM, 0, 300) + spectrum_slice(FILM, 300, 400)
    apart = np.abs(np.frombuffer(parts, np.uint8).astype(int) - whole)
    # A seek ends on a sample of the film's own rate: less than one sample here, heard in the highest
    # bands alone, and there only in near silence.
    assert np.percentile(apart, 99) <= 2
    assert apart.mean() < 0.3


def test_the_last_slice_ends_with_the_sound() -> None:
    assert spectrum_slice(FILM, 10_000_000, 100) == b""
    last = spectrum_slice(FILM, 10_000, 6000)
    assert 0 < len(last) // BANDS < 6000
