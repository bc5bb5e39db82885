import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.timecode import (
    FrameRate,
    clock,
    first_frame_from,
    frame_at,
    parse_rate,
    parse_time,
    snap,
    start_of_frame,
    timecode,
)
from tests.strategies import rates

frames = st.integers(0, 10_000_000)
times = st.integers(0, 400_000_000)
DROP = FrameRate(30000, 1001)


@given(frames, rates)
def test_a_frame_is_on_screen_at_its_start_and_not_before(frame: int, rate: FrameRate) -> None:
    start = start_of_frame(frame, rate)
    assert frame_at(start, rate) == frame
    assert frame_at(start - 1, rate) == frame - 1


@given(times, rates)
def test_the_first_frame_from_a_time_starts_at_or_after_it(ms: int, rate: FrameRate) -> None:
    frame = first_frame_from(ms, rate)
    assert start_of_frame(frame, rate) >= ms
    assert frame == 0 or start_of_frame(frame - 1, rate) < ms


@given(times, rates)
def test_snapping_goes_to_the_nearest_frame_and_stays_there(ms: int, rate: FrameRate) -> None:
    snapped = snap(ms, rate)
    nearest = min(abs(start_of_frame(frame_at(ms, rate) + step, rate) - ms) for step in (0, 1))
    assert abs(snapped - ms) == nearest
    assert snap(snapped, rate) == snapped


@given(times)
def test_a_written_clock_is_read_back(ms: int) -> None:
    assert parse_time(clock(ms)) == ms
    assert parse_time(clock(ms, ",")) == ms


@given(st.integers(0, 5_000_000), rates)
def test_written_timecode_is_read_back(frame: int, rate: FrameRate) -> None:
    ms = start_of_frame(frame, rate)
    assert parse_time(timecode(ms, rate), rate) == ms


@given(st.integers(0, 5_000_000), st.sampled_from([DROP, FrameRate(60000, 1001)]))
def test_drop_frame_timecode_is_read_back(frame: int, rate: FrameRate) -> None:
    ms = start_of_frame(frame, rate)
    assert parse_time(timecode(ms, rate, drop_frame=True), rate) == ms


@pytest.mark.parametrize(
    ("frame", "written"),
    [(1799, "00:00:59;29"), (1800, "00:01:00;02"), (17981, "00:09:59;29"), (17982, "00:10:00;00")],
)
def test_drop_frame_leaves_out_two_numbers_a_minute_but_not_each_tenth(frame, written) -> None:
    assert timecode(start_of_frame(frame, DROP), DROP, drop_frame=True) == written


def test_drop_frame_needs_a_rate_that_has_it() -> None:
    with pytest.raises(ValueError, match="no drop-frame"):
        timecode(0, FrameRate(25), drop_frame=True)


@pytest.mark.parametrize(
    ("text", "ms"),
    [("62.5", 62_500), ("1:02,5", 62_500), ("00:01:02.500", 62_500), ("00:01:02:12", 62_480),
     ("100:00:00.000", 360_000_000), (" 7 ", 7_000)],
)  # fmt: skip
def test_times_are_read_in_any_usual_notation(text: str, ms: int) -> None:
    assert parse_time(text, FrameRate(25)) == ms


@pytest.mark.parametrize("text", ["", "abc", "1:2:3:4:5", "00:00:01:25", "--3"])
def test_what_is_no_time_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match=r"\w"):
        parse_time(text, FrameRate(25))


def test_rates_are_read_by_name_and_as_fractions() -> None:
    assert parse_rate("29.97") == DROP
    assert parse_rate("30000/1001") == DROP
    assert parse_rate("25") == FrameRate(25)


@pytest.mark.parametrize("text", ["0", "-25", "x", "1/0", "1000"])
def test_what_is_no_rate_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="frame rate"):
        parse_rate(text)
