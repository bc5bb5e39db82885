"""The spread of what is measured, beside the findings it makes."""

import pytest
from hypothesis import given

from dunlin.core.captions import Caption, Track, spans_of
from dunlin.core.specs import Judge, Setting, Spec
from dunlin.core.specs.distribution import Distribution, counts_by_rule, distributions
from dunlin.core.timecode import FrameRate
from tests.strategies import tracks

PAL = FrameRate(25)


def judge(shots: tuple[int, ...] = (), **limits: object) -> Judge:
    return Judge(Setting(Spec(id="own", name="Own", **limits), PAL, "en", shots))  # type: ignore[arg-type]


def spread(measure: str, track: Track, by: Judge) -> dict[float, int]:
    """How many captions have which value, by the middle of its bin, or by its start."""
    (found,) = [one for one in distributions(track, by) if one.measure == measure]
    return {n: count for n, count in values(found) if count}


def values(found: Distribution) -> list[tuple[float, int]]:
    middle = found.step / 2 if found.start % 1 else 0
    return [(found.start + n * found.step + middle, c) for n, c in enumerate(found.counts)]


@pytest.mark.parametrize(
    ("measure", "rule", "limit", "breaks"),
    [
        ("characters_per_line", "line-length", {"characters_per_line": 12}, "above"),
        ("lines", "lines", {"lines": 2}, "above"),
        ("line_balance", "line-balance", {"line_balance": 50}, "below"),
        ("safe_area", "safe-area", {"safe_area": 0.2}, "above"),
        ("reading_speed", "reading-speed", {"reading_speed": 12}, "above"),
        ("duration_ms", "least-duration", {"least_duration_ms": 1000}, "below"),
    ],
)
@given(tracks())
def test_as_many_values_lie_beyond_a_limit_as_captions_break_it(
    measure: str, rule: str, limit: dict[str, float], breaks: str, track: Track
) -> None:
    by = judge(**limit)
    (most,) = limit.values()
    found = spread(measure, track, by)
    on_it = found.get(most, 0)
    above = sum(count for value, count in found.items() if value > most)
    broken = counts_by_rule(track, by).get(rule, 0)
    if breaks == "below":
        assert broken == sum(count for value, count in found.items() if value < most)
    elif measure in WHOLE:
        assert broken == above
    else:
        # Of what is in the bin that begins at the limit, some is just on it.
        assert above <= broken <= above + on_it


WHOLE = {"characters_per_line", "lines"}


def said(*texts: str, gap_ms: int = 200) -> Track:
    return Track.of(
        Caption(f"c{n}", n * (2000 + gap_ms), n * (2000 + gap_ms) + 2000, spans_of(text))
        for n, text in enumerate(texts)
    )


def test_gaps_are_counted_in_frames() -> None:
    assert spread("gap_frames", said("a", "b", "c", gap_ms=120), judge()) == {3: 2}
    assert spread("gap_frames", said("a", "b", gap_ms=0), judge()) == {0: 1}


def test_edges_on_a_shot_change_are_not_off_it() -> None:
    track = said("a", "b")
    assert spread("shot_change_frames", track, judge()) == {}
    assert spread("shot_change_frames", track, judge((2000, 2200, 4200))) == {48: 1}
    assert spread("shot_change_frames", track, judge((2080,))) == {2: 1, 3: 1}


def test_a_sentence_is_counted_where_it_ends() -> None:
    track = said("When the fog", "comes in there", "is nothing.", "Ring.", "And")
    assert spread("captions_per_sentence", track, judge()) == {1: 2, 3: 1}


def test_lines_of_two_speakers_are_not_compared() -> None:
    track = said("one\nfour of these words", "- No.\n- Yes, certainly so.", "alone")
    assert spread("line_balance", track, judge()) == {15: 1}
