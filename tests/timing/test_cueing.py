"""Cueing along: keys and the film's times in, ins and outs out."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech.activity import Stretch
from dunlin.core.timecode import FrameRate, frame_at, start_of_frame
from dunlin.core.timing.cueing import Cueing, Hand, Key, Way, cue

LINES = ("a", "b", "c")
RATE = FrameRate(25)
HAND = Hand(RATE, gap_ms=80)
FAR = {line: (60_000 + 3000 * n, 62_000 + 3000 * n) for n, line in enumerate(LINES)}


def played(way: Way, keys: list[tuple[Key, float]], hand: Hand = HAND):
    """Where cueing stands, and the lines' times, after keys pressed one after the other."""
    state, shown = Cueing(way, LINES), dict(FAR)
    for key, at_ms in keys:
        done = cue(state, key, at_ms, hand, shown)
        state = done.state
        shown |= {times.caption: (times.in_ms, times.out_ms) for times in done.times}
    return state, shown


def test_a_key_at_each_in_ends_the_line_before_at_the_gap() -> None:
    state, shown = played("ins", [("in", 1000), ("in", 3000), ("in", 5000)])
    assert shown["a"] == (1000, 2920)
    assert shown["b"] == (3000, 4920)
    assert shown["c"] == (5000, 7000)
    assert state.ended


def test_the_last_line_ends_with_its_voice() -> None:
    speech = [Stretch(4950, 8010)]
    _, shown = played(
        "ins", [("in", 1000), ("in", 3000), ("in", 5000)], replace(HAND, speech=speech)
    )
    assert shown["c"] == (5000, 8000)


def test_one_key_for_in_and_another_for_out() -> None:
    state, shown = played("ins-and-outs", [("in", 1000), ("out", 2200), ("in", 5000)])
    assert shown["a"] == (1000, 2200)
    assert shown["b"][0] == 5000
    assert state.open
    # A next in without an out ends the line before it, as an out would have.
    _, shown = played("ins-and-outs", [("in", 1000), ("in", 2000)])
    assert shown["a"] == (1000, 1920)


def test_a_key_held_down_as_long_as_the_line_is_spoken() -> None:
    state, shown = played(
        "held", [("in", 1000), ("in", 1500), ("release", 2200), ("release", 2300), ("in", 4000)]
    )
    assert shown["a"] == (1000, 2200)
    assert shown["b"][0] == 4000
    assert state.down
    state, shown = played("held", [("in", 1000), ("lost", 2600)])
    assert shown["a"] == (1000, 2600)
    assert not state.down


def test_going_back_sets_the_lines_after_it_again() -> None:
    keys: list[tuple[Key, float]] = [("in", 1000), ("in", 3000), ("back", 2000)]
    state, shown = played("ins", keys)
    assert state.next == 1
    assert not state.open
    _, shown = played("ins", [*keys, ("in", 3400)])
    assert shown["a"] == (1000, 3320)
    assert shown["b"][0] == 3400


def test_a_late_hand_is_taken_off_and_drawn_to_the_onset_of_speech() -> None:
    late = Hand(RATE, 80, reaction_ms=200)
    _, shown = played("ins", [("in", 1200)], late)
    assert shown["a"][0] == 1000
    drawn = replace(late, snap_ms=150, speech=[Stretch(1080, 2600)])
    _, shown = played("ins", [("in", 1200)], drawn)
    assert shown["a"][0] == 1080
    _, shown = played("ins", [("in", 1450)], drawn)
    assert shown["a"][0] == 1240


@pytest.mark.parametrize("key", ["out", "release", "lost"])
def test_a_key_without_meaning_does_nothing(key: Key) -> None:
    state, shown = played("held", [(key, 1000)])
    assert shown == FAR
    assert state == Cueing("held", LINES)


def test_pressed_twice_at_once_sets_one_line() -> None:
    state, shown = played("ins", [("in", 1000), ("in", 1000)])
    assert state.next == 1
    assert shown["b"] == FAR["b"]


KEYS = st.lists(
    st.tuples(st.sampled_from(["in", "out", "release", "back", "lost"]), st.floats(0, 100_000)),
    max_size=40,
)


@given(st.sampled_from(["ins", "ins-and-outs", "held"]), KEYS, st.integers(0, 400))
def test_whatever_is_pressed_lines_keep_a_frame_and_stand_on_frames(way, keys, reaction) -> None:
    state, shown = played(way, keys, replace(HAND, reaction_ms=reaction))
    for in_ms, out_ms in shown.values():
        assert 0 <= in_ms < out_ms
        assert start_of_frame(frame_at(in_ms, RATE), RATE) == in_ms
    assert 0 <= state.next <= len(LINES)


def test_one_key_nearly_always_and_a_second_where_a_pause_is() -> None:
    speech = [Stretch(1000, 1900), Stretch(3000, 6000)]
    hand = replace(HAND, speech=speech)
    state, shown = played("ins-and-pauses", [("in", 1000), ("out", 1800), ("in", 3000)], hand)
    assert shown["a"] == (1000, 1800)
    # Until the next key it is shown as long as its voice.
    assert shown["b"] == (3000, 6000)
    state, shown = played("ins-and-pauses", [("in", 1000), ("in", 3000), ("in", 5520)], hand)
    assert (shown["a"], shown["b"]) == ((1000, 2920), (3000, 5440))
    assert state.ended
