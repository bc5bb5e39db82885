"""Captions that are otherwise from moment to moment."""

import re
from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Placement, spans_of
from dunlin.core.captions.look import MOMENTARY, Moment
from dunlin.core.styles import STYLES, Script, StyleSheet, event_lines
from dunlin.core.styles.holding import frame_of
from dunlin.core.styles.moments import at_moment, moving_styles
from dunlin.core.styles.render_script import held_lines
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame
from tests.strategies import moments, rates

HOUSE, PICTURE = STYLES["house"], Script(1280, 720)


def with_moments(*said: Moment) -> Caption:
    return Caption("a", 1000, 3000, spans_of("Quillan"), look=Look(moments=said))


@pytest.mark.parametrize(
    ("at_ms", "x", "colour"), [(0, 0.2, "#000000"), (500, 0.2, "#000000"), (1000, 0.4, "#800040"), (1500, 0.6, "#FF0080"), (9000, 0.6, "#FF0080")]
)  # fmt: skip
def test_between_two_moments_it_goes_in_even_steps(at_ms: int, x: float, colour: str) -> None:
    said = (Moment(1500, x=0.6, colour="#FF0080"), Moment(500, x=0.2, colour="#000000"))
    then = at_moment(replace(HOUSE, moments=said), at_ms)
    assert (then.x, then.colour, then.y) == (pytest.approx(x), colour, None)


@given(moments, rates, st.integers(0, 5000), st.integers(0, 3000))
def test_each_frame_looks_as_its_moment_does(
    said: tuple[Moment, ...], rate: FrameRate, in_ms: int, length: int
) -> None:
    caption = Caption("a", in_ms, in_ms + length)
    style = replace(HOUSE, moments=said)
    parts = list(moving_styles(caption, style, rate, in_ms, in_ms + length))
    for (_, end, before), (start, _, after) in pairwise(parts):
        assert end == start
        assert before != after
    for frame in range(first_frame_from(in_ms, rate), first_frame_from(in_ms + length, rate)):
        at_ms = start_of_frame(frame, rate)
        [then] = [look for start, end, look in parts if start <= at_ms < end]
        assert then == at_moment(style, at_ms - in_ms)
        for name in MOMENTARY:
            values = [v for m in said if (v := getattr(m, name)) is not None]
            if values and name != "colour":
                assert min(values) <= getattr(then, name) <= max(values)


def test_a_caption_that_stands_still_in_between_is_one_event_there() -> None:
    # From 400 to 800 ms it moves over ten frames, and stands before and after.
    caption = with_moments(Moment(400, x=0.2, y=0.5), Moment(800, x=0.8, y=0.5))
    lines = event_lines(caption, StyleSheet(), PICTURE, FrameRate(25)).splitlines()
    assert len(lines) == 11
    places = [float(re.search(r"\\pos\(([\d.]+),", line)[1]) for line in lines]  # type: ignore[index]
    assert places == sorted(places)
    assert (places[0], places[-1]) == (256.0, 1024.0)


def test_a_hand_holds_it_as_it_is_then() -> None:
    caption = with_moments(Moment(0, x=0.2, y=0.5, turn=0.0), Moment(1000, x=0.4, y=0.5, turn=30.0))
    held = held_lines(caption, StyleSheet(), PICTURE, FrameRate(25), at_ms=500)
    assert held.count("\n") == 1
    assert r"\pos(384.00,360.00)" in held
    assert r"\frz-15" in held


def test_a_shape_grows_in_both_directions() -> None:
    said = (Moment(0, size=0.1), Moment(1000, size=0.2))
    look = Look(shape="M0 0 L1 0 L1 1 L0 1 Z", size=0.1, moments=said)
    place = Placement("middle", "center", 0.5, 0.5, 0.25)
    plate = Caption("a", 0, 2000, placement=place, look=look)
    frames = [frame_of(plate, StyleSheet(), PICTURE, at_ms=at) for at in (0, 500, 1500)]
    assert [(f.right - f.left, f.bottom - f.top) for f in frames if f] == [
        pytest.approx(size) for size in ((320, 72), (480, 108), (640, 144))
    ]
    lines = event_lines(plate, StyleSheet(), PICTURE, FrameRate(25)).splitlines()
    assert lines[-1].endswith(f"m 0 0 l {640 * 8} 0 l {640 * 8} {144 * 8} l 0 {144 * 8}{{\\p0}}")
