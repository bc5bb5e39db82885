"""The film in passages to be typed by ear: all speech is heard, in the order it is spoken."""

from itertools import accumulate

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech.activity import Stretch
from dunlin.core.timecode import FrameRate, frame_at, start_of_frame
from dunlin.core.timing.passages import next_passage

RATE = FrameRate(25)
SPEECH = [Stretch(1000, 2500), Stretch(2700, 3600), Stretch(5000, 6000), Stretch(6100, 9000), Stretch(9200, 15_000)]  # fmt: skip


def test_a_passage_goes_up_to_the_next_pause() -> None:
    first = next_passage(SPEECH, 0, 20_000, RATE)
    assert first is not None
    assert (first.from_ms, first.to_ms) == (700, 3850)
    assert (first.in_ms, first.out_ms) == (1000, 3800)
    second = next_passage(SPEECH, first.out_ms, 20_000, RATE)
    assert second is not None
    # Too long to keep in mind: it ends at the longest breath inside.
    assert (second.in_ms, second.to_ms) == (5000, 9250)


def test_a_passage_can_be_of_one_length() -> None:
    passage = next_passage(SPEECH, 0, 20_000, RATE, length_ms=2000)
    assert passage is not None
    assert (passage.from_ms, passage.to_ms, passage.out_ms) == (700, 3000, 3200)


def test_where_nobody_speaks_any_more_there_is_none() -> None:
    assert next_passage(SPEECH, 15_000, 20_000, RATE) is None
    assert next_passage([], 20_000, 20_000, RATE) is None


def test_where_no_speech_was_found_time_goes_on() -> None:
    passage = next_passage([], 3000, 20_000, RATE, length_ms=4000)
    assert passage is not None
    assert (passage.in_ms, passage.to_ms) == (3000, 7000)


def test_a_caption_ends_before_the_one_that_is_there() -> None:
    passage = next_passage(SPEECH, 0, 20_000, RATE, before_ms=3000, gap_ms=80)
    assert passage is not None
    assert passage.out_ms == 2920


@given(
    st.lists(st.tuples(st.integers(50, 3000), st.integers(60, 12_000)), min_size=1, max_size=8),
    st.sampled_from([None, 1500, 4000]),
    st.sampled_from([0, 80, 160]),
)
def test_going_on_hears_all_speech_and_ends(pauses, length_ms, gap_ms) -> None:
    edges = list(accumulate(part for pair in pauses for part in pair))
    speech = [Stretch(a, b) for a, b in zip(edges[::2], edges[1::2], strict=True)]
    duration = edges[-1] + 1000
    after, heard = 0, []
    while passage := next_passage(
        speech, after, duration, RATE, length_ms=length_ms, gap_ms=gap_ms
    ):
        assert not after or passage.in_ms >= after + gap_ms
        assert passage.in_ms < passage.out_ms
        assert passage.in_ms == start_of_frame(frame_at(passage.in_ms, RATE), RATE)
        heard.append(passage)
        after = passage.out_ms
        assert len(heard) < 200
    for stretch in speech:
        middle = (stretch.start_ms + stretch.end_ms) / 2
        near = gap_ms + 240
        assert any(p.from_ms - near <= middle <= p.to_ms + near for p in heard)
