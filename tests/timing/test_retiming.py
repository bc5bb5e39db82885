"""Captions moved in time."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, spans_of
from dunlin.core.speech import Word
from dunlin.core.timecode import FrameRate
from dunlin.core.timing.retiming import (
    Piece,
    RetimingError,
    rate_change,
    retimed,
    shift,
    through_anchors,
    words_retimed,
)
from dunlin.core.timing.typed import amount_ms, place_ms, typed_times

TIMES = st.lists(
    st.tuples(st.integers(0, 10_000_000), st.integers(1, 10_000)), min_size=1, max_size=30
)


def captions(times: list[tuple[int, int]]) -> list[Caption]:
    return [
        Caption(f"c{n}", start, start + length, spans_of("said"))
        for n, (start, length) in enumerate(sorted(times))
    ]


def spans(moved) -> list[tuple[int, int]]:
    return [(caption.in_ms, caption.out_ms) for caption in moved.captions]


@given(
    TIMES, st.lists(st.tuples(st.integers(0, 9_000_000), st.integers(-50_000, 50_000)), min_size=1)
)
def test_words_keep_their_order_wherever_their_pieces_go(times, jumps) -> None:
    words = [
        Word(f"w{n}", start, start + length, 1.0) for n, (start, length) in enumerate(sorted(times))
    ]
    pieces = tuple(Piece(at, None, by) for at, by in sorted(dict(jumps).items()))
    moved = words_retimed(words, pieces)
    assert [word.text for word in moved] == [word.text for word in words]
    assert all(0 <= word.start_ms <= word.end_ms for word in moved)
    assert all(a.end_ms <= b.start_ms for a, b in pairwise(moved))


@given(TIMES, st.integers(0, 1_000_000))
def test_later_and_earlier_again_is_where_it_was(times: list[tuple[int, int]], by: int) -> None:
    before = captions(times)
    there = retimed(before, shift(by))
    assert list(retimed(there.captions, shift(-by)).captions) == before


@given(TIMES, st.integers(-10_000_000, 10_000_000), st.sampled_from(["hold", "less"]))
def test_none_is_lost_none_below_zero_and_none_without_duration(times, by, below_zero) -> None:
    before = captions(times)
    moved = retimed(before, shift(by), below_zero=below_zero)
    assert [caption.id for caption in moved.captions] == [caption.id for caption in before]
    assert all(0 <= start < end for start, end in spans(moved))
    assert set(moved.below_zero) == {c.id for c in before if c.in_ms + by < 0}


@given(TIMES, st.integers(-10_000_000, -1))
def test_moving_less_far_keeps_every_distance(times: list[tuple[int, int]], by: int) -> None:
    before = captions(times)
    moved = retimed(before, shift(by), below_zero="less")
    first = min(caption.in_ms for caption in before)
    went = max(by, -first)
    assert spans(moved) == [(c.in_ms + went, c.out_ms + went) for c in before]


def test_dropping_drops_those_below_zero_alone() -> None:
    before = captions([(0, 1000), (1500, 500), (4000, 1000)])
    moved = retimed(before, shift(-2000), below_zero="drop")
    assert spans(moved) == [(2000, 3000)]
    assert moved.below_zero == ("c0", "c1")


@given(st.lists(st.integers(0, 5_000_000), min_size=2, max_size=6, unique=True), TIMES)
def test_anchors_come_to_their_new_times(olds: list[int], times: list[tuple[int, int]]) -> None:
    olds = sorted(olds)
    anchors = [(old, 1000 + 2 * old) for old in olds]
    pieces = through_anchors(anchors)
    there = retimed(captions([(old, 100) for old in olds]), pieces)
    assert [c.in_ms for c in there.captions] == [new for _, new in anchors]
    order = [c.in_ms for c in retimed(captions(times), pieces).captions]
    assert order == sorted(order)


def test_one_anchor_moves_everything() -> None:
    moved = retimed(captions([(1000, 500), (9000, 500)]), through_anchors([(1000, 3500)]))
    assert spans(moved) == [(3500, 4000), (11_500, 12_000)]


@pytest.mark.parametrize(
    ("anchors", "said"),
    [
        ([(1000, 5000), (2000, 4000)], "cross"),
        ([(1000, 5000), (1000, 6000)], "cross"),
        ([(0, 0), (1000, 10_000)], "10 times"),
        ([], "at least one anchor"),
    ],
)
def test_anchors_that_make_no_sense_are_refused(anchors, said: str) -> None:
    with pytest.raises(RetimingError, match=said):
        through_anchors(anchors)


def test_a_frame_keeps_its_number_at_another_rate() -> None:
    film = rate_change(FrameRate(25), FrameRate(24000, 1001))
    hour = retimed(captions([(3_600_000, 1000)]), film)
    assert spans(hour)[0][0] == round(3_600_000 * 25 * 1001 / 24000)


@pytest.mark.parametrize(("edges", "expected"), [("ins", (1500, 3000)), ("outs", (1000, 3500))])
def test_one_edge_moves_alone(edges, expected: tuple[int, int]) -> None:
    assert spans(retimed(captions([(1000, 2000)]), shift(500), edges=edges)) == [expected]


def test_an_edge_never_passes_the_other() -> None:
    before = captions([(1000, 200)])
    assert spans(retimed(before, shift(900), edges="ins")) == [(1199, 1200)]
    assert spans(retimed(before, shift(-900), edges="outs")) == [(1000, 1001)]


@pytest.mark.parametrize(
    ("text", "ms"),
    [
        ("+500ms", 500), ("-500 ms", -500), ("2.5", 2500), ("-1:02.5", -62_500), ("+12f", 480),
        ("-3f", -120), ("\N{MINUS SIGN}2", -2000), ("00:00:01:12", 1480), ("1,5s", 1500),
    ],
)  # fmt: skip
def test_amounts_are_read_in_any_usual_notation(text: str, ms: int) -> None:
    assert amount_ms(text, FrameRate(25)) == ms


@pytest.mark.parametrize("text", ["", "soon", "+1.5f", "+ms", "1:2:3:4:5", "+-3", "9" * 60 + "f"])
def test_what_is_no_amount_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match=r"."):
        amount_ms(text, FrameRate(25))


@pytest.mark.parametrize(
    ("field", "text", "times"),
    [
        ("in", "9.5", (9500, 12_000)),
        ("in", "00:00:09:00", (9000, 12_000)),
        ("in", "+500ms", (10_500, 12_000)),
        ("in", "20", (20_000, 22_000)),
        ("out", "-3f", (10_000, 11_880)),
        ("out", "0:15", (10_000, 15_000)),
        ("duration", "4", (10_000, 14_000)),
        ("duration", "-500ms", (10_000, 11_500)),
    ],
)
def test_a_typed_time_moves_what_it_names(field, text: str, times: tuple[int, int]) -> None:
    typed = typed_times(Caption("c", 10_000, 12_000), field, text, FrameRate(25))
    assert (typed.in_ms, typed.out_ms) == times


@pytest.mark.parametrize(
    ("field", "text"), [("out", "9"), ("duration", "0"), ("in", "-11"), ("in", "x")]
)
def test_a_typed_time_that_cannot_be_is_refused(field, text: str) -> None:
    with pytest.raises(ValueError, match=r"."):
        typed_times(Caption("c", 10_000, 12_000), field, text, FrameRate(25))


@pytest.mark.parametrize(
    ("text", "ms"),
    [("0:30", 30_000), ("+5", 15_000), ("-12f", 9520), ("120f", 4800), ("-1:00", None)],
)
def test_a_place_in_the_film_is_typed_as_a_time_a_frame_or_from_here(text: str, ms) -> None:
    if ms is None:
        with pytest.raises(ValueError, match="before the film"):
            place_ms(text, 10_000, FrameRate(25))
    else:
        assert place_ms(text, 10_000, FrameRate(25)) == ms


def test_a_typed_time_comes_to_lie_on_a_frame_where_that_is_wanted() -> None:
    caption, rate = Caption("c", 10_000, 12_000), FrameRate(25)
    assert typed_times(caption, "in", "10.013", rate).in_ms == 10_013
    assert typed_times(caption, "in", "10.013", rate, on_frames=True).in_ms == 10_000
    assert typed_times(caption, "duration", "1.985", rate, on_frames=True).out_ms == 12_000
