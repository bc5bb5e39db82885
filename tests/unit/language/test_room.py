"""Room for words: what is left of it, and offers that make more and break nothing."""

from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Track, apply
from dunlin.core.captions.model import spans_of
from dunlin.core.language.room import room_of
from dunlin.core.specs import Judge, Setting, Spec, shipped_specs
from dunlin.core.specs.mends import said_in
from dunlin.core.timecode import FrameRate
from tests.strategies import rates, tracks

RATE = FrameRate(25)
SPEC = Spec(id="s", name="S", reading_speed=10, characters_per_line=20, lines=2, least_gap_frames=2)


def judge(**more) -> Judge:
    return Judge(Setting(SPEC, RATE, "en", **more))


def caption(id_: str, in_ms: int, out_ms: int, text: str) -> Caption:
    return Caption(id_, in_ms, out_ms, spans_of(text))


def test_what_is_left_is_what_fits_its_time_less_what_is_there() -> None:
    track = Track.of([caption("a", 0, 2000, "Hang it high.")])
    room = room_of(track, 0, judge())
    assert (room.left, room.offers) == (7, ())


def test_a_caption_is_held_into_the_pause_as_far_as_its_words_need_or_the_next_allows() -> None:
    words = "Hang it high\nby the door."
    ways = [(9000, 2400), (2200, 2120)]
    for next_in, out_ms in ways:
        track = Track.of([caption("a", 0, 2000, words), caption("b", next_in, 12_000, "Done.")])
        room = room_of(track, 0, judge())
        assert room.left == -4
        [longer] = [offer for offer in room.offers if offer.way == "longer"]
        assert apply(track, longer.edit).track["a"].out_ms == out_ms
        assert longer.by_ms == out_ms - 2000
    assert longer.left == -3


def test_lines_are_offered_where_the_words_have_room_but_their_line_has_not() -> None:
    track = Track.of([caption("a", 0, 9000, "Hang it high by the door.")])
    [offer] = room_of(track, 0, judge()).offers
    assert offer.way == "lines"
    assert "\n" in apply(track, offer.edit).track["a"].text


def test_how_long_nobody_speaks_after_it_is_told() -> None:
    track = Track.of([caption("a", 0, 2000, "Hang it high.")])
    assert room_of(track, 0, judge(speech=[(0, 1900), (2600, 4000)])).silence_ms == 600
    assert room_of(track, 0, judge(speech=[(0, 2100)])).silence_ms == 0
    assert room_of(track, 0, judge()).silence_ms is None


@settings(max_examples=30)
@given(tracks(), st.sampled_from([SPEC, *shipped_specs().values()]), rates)
def test_no_offer_changes_a_word_or_breaks_what_was_kept(
    track: Track, spec: Spec, rate: FrameRate
) -> None:
    by = Judge(Setting(spec, rate, "en"))
    before = {(f.rule, f.caption) for f in by.findings(track) if f.weight == "error"}
    for index in range(len(track)):
        for offer in room_of(track, index, by).offers:
            after = apply(track, offer.edit).track
            assert sorted(said_in(tuple(after))) == sorted(said_in(tuple(track)))
            found = {(f.rule, f.caption) for f in by.findings(after) if f.weight == "error"}
            assert found <= before
