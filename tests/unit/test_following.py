"""Paths of what is followed in the picture, and captions that go along with them."""

from bisect import bisect_right
from dataclasses import replace
from math import hypot

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions.look import Moment
from dunlin.core.styles.following import (
    Mark,
    Path,
    Seen,
    Stood,
    joined,
    moments_along,
    stands_at,
)

RATIO = 16 / 9


def seen(frame: int, x: float, y: float = 0.5, scale: float = 1, turn: float = 0) -> Seen:
    return Seen(frame, x, y, scale, turn, 1.0)


places = st.builds(
    Seen,
    st.just(0),
    st.floats(0, 1),
    st.floats(0, 1),
    st.floats(0.5, 2),
    st.floats(-179, 179),
    st.just(1.0),
)
stood = st.builds(Stood, st.floats(0, 1), st.floats(0, 1), st.floats(0.03, 0.2), st.floats(-90, 90))


@given(stood, places, places, places)
def test_it_comes_to_the_same_on_whichever_way_it_goes(
    start: Stood, one: Seen, two: Seen, three: Seen
) -> None:
    direct = stands_at(start, one, three, RATIO)
    by_two = stands_at(stands_at(start, one, two, RATIO), two, three, RATIO)
    assert vars(by_two) == pytest.approx(vars(direct), abs=1e-6)
    assert vars(stands_at(direct, three, one, RATIO)) == pytest.approx(vars(start), abs=1e-6)


@given(stood, places, places)
def test_it_keeps_its_distance_from_what_it_stands_on(start: Stood, one: Seen, two: Seen) -> None:
    now = stands_at(start, one, two, RATIO)
    before = hypot((start.x - one.x) * RATIO, start.y - one.y)
    after = hypot((now.x - two.x) * RATIO, now.y - two.y)
    assert after == pytest.approx(before * two.scale / one.scale, abs=1e-6)


@given(st.lists(places, min_size=1, max_size=40), stood, st.sampled_from([0.0005, 0.005, 0.05]))
def test_few_moments_are_nowhere_farther_off_than_they_may(
    path: list[Seen], start: Stood, within: float
) -> None:
    along = Path(0.2, 0.1, tuple(replace(each, frame=n) for n, each in enumerate(path)))
    moments = moments_along(
        along, start, 0, RATIO, lambda frame: frame * 40, within, 40 * len(path)
    )
    times = [moment.at_ms for moment in moments]
    assert times == sorted(set(times))
    for each in along.seen:
        there = stands_at(start, along.seen[0], each, RATIO)
        x, y = at(moments, times, each.frame * 40)
        assert max(abs(x - there.x) * RATIO, abs(y - there.y)) <= within + 1e-9


def at(moments: tuple[Moment, ...], times: list[int], at_ms: int) -> tuple[float, float]:
    after = bisect_right(times, at_ms)
    if after == len(times):
        return moments[-1].x, moments[-1].y
    one, other = moments[after - 1], moments[after]
    part = (at_ms - one.at_ms) / (other.at_ms - one.at_ms)
    return one.x + (other.x - one.x) * part, one.y + (other.y - one.y) * part


def test_what_stands_still_needs_one_moment() -> None:
    still = Path(0.2, 0.1, tuple(seen(n, 0.5 + 1e-5 * (n % 2)) for n in range(50)))
    moments = moments_along(
        still, Stood(0.5, 0.5, 0.07, 0), 10, RATIO, lambda n: n * 40, 4e-4, 2000
    )
    assert len(moments) == 1


def test_moments_are_within_the_time_of_the_caption() -> None:
    path = Path(0.2, 0.1, tuple(seen(n, n / 50) for n in range(50)))
    moments = moments_along(
        path, Stood(0.5, 0.5, 0.07, 0), 25, RATIO, lambda n: n * 40 - 400, 1e-4, 800
    )
    assert (moments[0].at_ms, moments[-1].at_ms) == (0, 760)


def test_between_two_marks_what_neither_sees_goes_in_even_steps() -> None:
    marks = [Mark(10, 0.2, 0.5, 0.1, 0.1), Mark(20, 0.6, 0.5, 0.1, 0.1)]
    path = joined(marks, {10: [seen(9, 0.1), seen(10, 0.2)], 20: [seen(20, 0.6), seen(21, 0.7)]})
    assert [each.frame for each in path.seen] == list(range(9, 22))
    assert path.seen[6].x == pytest.approx(0.4)
    assert path.seen[6].sure == 0
    assert [each.sure for each in path.seen[:2]] == [1, 1]


def test_turns_go_the_short_way() -> None:
    marks = [Mark(0, 0.5, 0.5, 0.1, 0.1, 175), Mark(2, 0.5, 0.5, 0.1, 0.1, -175)]
    path = joined(marks, {0: [seen(0, 0.5, turn=175)], 2: [seen(2, 0.5, turn=-175)]})
    assert path.seen[1].turn == pytest.approx(180)


@pytest.mark.parametrize(("x", "size"), [(40.0, 0.07), (0.5, 1.9)])
def test_moments_stay_within_what_a_look_can_say(x: float, size: float) -> None:
    path = Path(0.2, 0.1, (seen(0, 0.5, scale=0.05), seen(1, 0.5, scale=1.0, turn=170)))
    for moment in moments_along(path, Stood(x, 0.5, size, 100), 0, RATIO, lambda n: n * 40, 0, 80):
        assert abs(moment.x) <= 10
        assert 0 < moment.size <= 2
        assert abs(moment.turn) <= 180
