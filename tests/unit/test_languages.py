"""Which language is spoken where."""

import itertools

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.languages import (
    CHANGE_COST_OF_FEW,
    LEAST_OF_FEW_MS,
    language_passages,
    language_windows,
    of_these,
    spread,
)

SPEECH = st.lists(
    st.tuples(st.integers(0, 4_000), st.integers(100, 9_000)), min_size=1, max_size=60
)


def stretches(pauses: list[tuple[int, int]]) -> list[Stretch]:
    made, at = [], 0
    for pause, length in pauses:
        made.append(Stretch(at + pause, at + pause + length))
        at += pause + length
    return made


@given(SPEECH)
def test_windows_are_in_order_of_half_a_minute_at_most_and_miss_no_beginning(pauses) -> None:
    speech = stretches(pauses)
    windows = language_windows(speech)
    assert windows[0].start_ms == speech[0].start_ms
    assert all(0 < w.end_ms - w.start_ms <= 28_000 for w in windows)
    assert all(a.end_ms <= b.start_ms for a, b in itertools.pairwise(windows))


@given(SPEECH, st.integers(1, 20))
def test_a_few_windows_are_from_all_over(pauses, count: int) -> None:
    windows = language_windows(stretches(pauses))
    few = spread(windows, count)
    assert few == sorted(few, key=lambda window: window.start_ms)
    assert len(few) == min(count, len(windows))
    assert set(few) <= set(windows)


def passages(*heard: dict[str, float]) -> list[tuple[int, int, str]]:
    windows = [Stretch(n * 10_000 + 500, n * 10_000 + 9_000) for n in range(len(heard))]
    return [(p.start_ms, p.end_ms, p.language) for p in language_passages(windows, heard)]


ENGLISH, SPANISH = {"en": 0.95, "es": 0.02}, {"es": 0.95, "en": 0.02}
HARDLY_SPANISH = {"es": 0.45, "en": 0.4}


def test_a_film_in_one_language_is_one_passage() -> None:
    assert passages(ENGLISH, ENGLISH, ENGLISH) == [(0, 29_000, "en")]


def test_a_window_that_is_hardly_another_language_is_none() -> None:
    assert passages(ENGLISH, HARDLY_SPANISH, ENGLISH) == [(0, 29_000, "en")]


def test_languages_in_turn_are_passages_that_leave_nothing_out() -> None:
    italian = {"it": 0.9}
    assert passages(ENGLISH, SPANISH, SPANISH, italian, italian) == [
        (0, 10_500, "en"), (10_500, 30_500, "es"), (30_500, 49_000, "it"),
    ]  # fmt: skip


def test_how_sure_it_is_goes_by_all_windows() -> None:
    windows = [Stretch(0, 9_000), Stretch(10_000, 19_000)]
    (sure,) = language_passages(windows, [ENGLISH, ENGLISH])
    (less,) = language_passages(windows, [ENGLISH, {"en": 0.3, "es": 0.3}])
    assert 0.9 < sure.sure <= 1
    assert less.sure < sure.sure
    assert language_passages([], []) == []


def test_windows_end_where_somebody_else_may_begin() -> None:
    """Turns of seven seconds with breaths in them, and pauses between them."""
    speech = [
        Stretch(turn * 8_000 + part * 2_300, turn * 8_000 + part * 2_300 + 2_100)
        for turn in range(4)
        for part in range(3)
    ]
    starts = [window.start_ms for window in language_windows(speech)]
    assert starts == [0, 8_000, 16_000, 24_000]
    fine = language_windows(speech, LEAST_OF_FEW_MS)
    assert len(fine) > len(starts)
    assert set(starts) <= {window.start_ms for window in fine}


def test_turns_in_two_languages_are_told_by_which_of_the_two_is_likelier() -> None:
    unsure = {"es": 0.25, "th": 0.5, "en": 0.02}
    windows = [Stretch(n * 3_000, n * 3_000 + 2_500) for n in range(4)]
    heard = [of_these(one, {"en", "es"}) for one in (ENGLISH, unsure, unsure, ENGLISH)]
    assert all(abs(sum(one.values()) - 1) < 1e-9 for one in heard)
    found = language_passages(windows, heard, CHANGE_COST_OF_FEW)
    assert [p.language for p in found] == ["en", "es", "en"]
