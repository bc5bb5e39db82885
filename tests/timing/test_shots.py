"""Shot changes put right by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.timecode import snap, start_of_frame
from dunlin.core.timing.shots import shot_toggled
from tests.strategies import rates


@given(rates, st.sets(st.integers(1, 900), max_size=9), st.integers(1, 900))
def test_toggling_twice_changes_nothing(rate, frames: set[int], frame: int) -> None:
    shots = [start_of_frame(number, rate) for number in sorted(frames)]
    at = start_of_frame(frame, rate)
    once = shot_toggled(shots, at, rate)
    assert (at in once) == (frame not in frames)
    assert once == sorted(once)
    assert shot_toggled(once, at, rate) == shots


@given(rates, st.integers(1, 900), st.integers(-3, 3))
def test_any_time_near_a_frame_is_that_frame(rate, frame: int, off: int) -> None:
    at = start_of_frame(frame, rate)
    assert shot_toggled([], at + off, rate) == [snap(at + off, rate)]
    assert shot_toggled([at], at + off, rate) == []


@given(rates)
def test_the_film_does_not_change_from_nothing(rate) -> None:
    with pytest.raises(ValueError, match="shot before it"):
        shot_toggled([400], 0, rate)
