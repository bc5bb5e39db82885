"""Timelines: what is written and read back is on the same frames, at every rate, from every timecode."""

import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, spans_of
from dunlin.core.formats import FORMATS, Context, Document, FormatError, read_file
from dunlin.core.messages import BadInput
from dunlin.core.timecode import FrameRate, first_frame_from
from dunlin.core.timeline.cuts import cuts_in
from dunlin.core.timeline.edl import read_edl, written_edl
from dunlin.core.timeline.model import (
    FilmClip,
    Mark,
    Timeline,
    TimelineError,
    clips_in_lanes,
    frame_of_timecode,
    frames_of,
)
from dunlin.core.timeline.otio import read_otio, written_otio

RATES = [
    FrameRate(24000, 1001), FrameRate(24), FrameRate(25), FrameRate(30000, 1001), FrameRate(30), FrameRate(48),
    FrameRate(50), FrameRate(60000, 1001), FrameRate(60),
]  # fmt: skip


def starts(rate: FrameRate) -> list[str]:
    drop = ["00:59:59;28", "01:00:00;00", "09:59:59;02"] if rate.counts_drop_frame else []
    return ["00:00:00:00", "01:00:00:00", "09:59:58:12", *drop]


@st.composite
def timelines(draw: st.DrawFn) -> Timeline:
    rate = draw(st.sampled_from(RATES))
    start, drop = frame_of_timecode(draw(st.sampled_from(starts(rate))), rate)
    times = st.tuples(st.integers(0, 7_000_000), st.integers(1, 9_000))
    pairs = draw(st.lists(times, min_size=1, max_size=12))
    texts = st.text(
        st.characters(codec="utf-8", exclude_categories=("C", "Z")), min_size=1, max_size=30
    )
    captions = [
        Caption(f"c{n}", at, at + length, spans_of(draw(texts)))
        for n, (at, length) in enumerate(pairs)
    ]
    film = FilmClip("fog.mp4", first_frame_from(7_200_000, rate))
    return Timeline("Fog", rate, start, drop, film, clips_in_lanes(captions, rate, "en", "en"))


def on_frames(captions, rate: FrameRate) -> list[tuple[int, int, str]]:
    return sorted((*frames_of(caption, rate), caption.text) for caption in captions)


@given(timelines())
def test_an_otio_read_back_has_every_caption_on_its_frames(timeline: Timeline) -> None:
    captions = [clip.caption for lane in timeline.lanes for clip in lane.clips]
    back = read_otio(written_otio(timeline))
    assert on_frames(back.captions, timeline.rate) == on_frames(captions, timeline.rate)
    assert {c.id: c for c in back.captions} == {c.id: c for c in captions}
    assert (back.language, back.cuts_ms, back.from_markers) == ("en", (), False)


@given(timelines())
def test_an_edl_read_back_has_every_caption_on_its_frames(timeline: Timeline) -> None:
    captions = [clip.caption for lane in timeline.lanes for clip in lane.clips]
    back = read_edl(written_edl(timeline).decode(), timeline.rate)
    assert on_frames(back.captions, timeline.rate) == on_frames(captions, timeline.rate)


@given(timelines())
def test_the_package_itself_reads_the_same_places_and_timecodes(timeline: Timeline) -> None:
    read = otio.adapters.read_from_string(written_otio(timeline).decode(), "otio_json")
    assert read.global_start_time.value == timeline.start
    assert read.global_start_time.rate == float(timeline.rate.fraction)
    places = []
    for track in read.tracks:
        for clip in track.find_clips():
            if isinstance(clip.media_reference, otio.schema.GeneratorReference):
                place = clip.transformed_time_range(clip.trimmed_range(), read.tracks)
                text = clip.media_reference.parameters["text"]
                places.append((place.start_time.value, place.end_time_exclusive().value, text))
    captions = [clip.caption for lane in timeline.lanes for clip in lane.clips]
    assert sorted(places) == on_frames(captions, timeline.rate)


@pytest.mark.parametrize("rate", RATES, ids=lambda rate: str(rate.fraction))
def test_the_package_tells_the_same_timecode_as_the_list(rate: FrameRate) -> None:
    for start in starts(rate):
        first, drop = frame_of_timecode(start, rate)
        captions = [Caption("a", 60_000, 61_000, spans_of("A"))]
        lanes = clips_in_lanes(captions, rate, "en", "en")
        lines = written_edl(Timeline("x", rate, first, drop, None, lanes)).decode().split()
        frame = first + frames_of(captions[0], rate)[0]
        time = otio.opentime.RationalTime(frame, float(rate.fraction))
        assert time.to_timecode(float(rate.fraction), drop) in lines


def test_captions_over_each_other_lie_in_lanes() -> None:
    rate = FrameRate(25)
    captions = [Caption(c, a, b, spans_of(c)) for c, a, b in
                [("a", 0, 2000), ("b", 1000, 3000), ("c", 2000, 2500), ("d", 2500, 9000)]]  # fmt: skip
    lanes = clips_in_lanes(captions, rate, "en", "en")
    assert [[clip.caption.id for clip in lane.clips] for lane in lanes] == [["a", "c", "d"], ["b"]]
    assert [lane.name for lane in lanes] == ["en", "en 2"]


def test_a_caption_that_an_editor_moved_is_where_it_was_moved_to() -> None:
    rate = FrameRate(25)
    caption = Caption("a", 1003, 2003, spans_of("Fog"), style="Sign")
    styles = {"Sign": Look(size=0.07)}
    timeline = Timeline(
        "x", rate, 0, False, None, clips_in_lanes([caption], rate, "en", "en"), (), styles
    )
    read = otio.adapters.read_from_string(written_otio(timeline).decode(), "otio_json")
    gap = next(item for item in read.tracks[0] if isinstance(item, otio.schema.Gap))
    gap.source_range = otio.opentime.TimeRange(
        gap.source_range.start_time, gap.source_range.duration + otio.opentime.RationalTime(10, 25)
    )
    moved = read_otio(otio.adapters.write_to_string(read, "otio_json").encode())
    (again,) = moved.captions
    # From frame 26 to 36, and its look goes with it.
    assert (again.in_ms, again.out_ms, again.style) == (1440, 2440, "Sign")
    assert moved.styles == styles


def test_markers_and_titles_of_other_programs_are_read() -> None:
    timeline = otio.schema.Timeline("other")
    track = otio.schema.Track("V1", kind="Video")
    timeline.tracks.append(track)
    rate = 24
    for name, length in (("one", 48), ("two", 24), ("three", 72)):
        track.append(
            otio.schema.Clip(name, None, otio.opentime.TimeRange(
                otio.opentime.RationalTime(100, rate), otio.opentime.RationalTime(length, rate)))
        )  # fmt: skip
    text = otio.adapters.write_to_string(timeline, "otio_json").encode()
    with pytest.raises(FormatError, match="no captions"):
        read_file(text, "x.otio", Context())
    assert read_otio(text).cuts_ms == (2000, 3000)
    track[1].markers.append(
        otio.schema.Marker("look", otio.opentime.TimeRange(
            otio.opentime.RationalTime(112, rate), otio.opentime.RationalTime(12, rate)))
    )  # fmt: skip
    reading = read_file(
        otio.adapters.write_to_string(timeline, "otio_json").encode(), "x.otio", Context()
    )
    assert [(c.in_ms, c.out_ms, c.text) for c in reading.document.captions] == [
        (2500, 3000, "look")
    ]
    assert [oddity.message.code for oddity in reading.oddities] == ["timeline.from-markers"]


def test_what_is_found_comes_along_as_markers() -> None:
    marks = [
        Mark(10, 20, "overlap", "Over the one before", is_error=True),
        Mark(30, 31, "gap", "Too near"),
    ]
    timeline = Timeline("x", FrameRate(25), 90_000, False, FilmClip("f", 250), [], marks)
    back = read_otio(written_otio(timeline))
    assert [(m.first, m.end, m.name, m.said) for m in back.marks] == [
        (400, 800, "overlap", "Over the one before"), (1200, 1240, "gap", "Too near"),
    ]  # fmt: skip
    assert "* NOTE 01:00:00:10 overlap: Over the one before" in written_edl(timeline).decode()


@pytest.mark.parametrize(
    "data",
    [b"{}", b'{"OTIO_SCHEMA": "Timeline.1"}', b'{"OTIO_SCHEMA": "Clip.2"}', b'{"OTIO_SCHEMA": ', b'{"OTIO_SCHEMA": 5}',
     b'{"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": [3]}}',
     b'\xff\xfe{"OTIO_SCHEMA": "Timeline.1"}'],
)  # fmt: skip
def test_what_is_no_timeline_says_so(data: bytes) -> None:
    with pytest.raises(FormatError):
        read_file(data, "x.otio", Context(), "otio")


def test_a_list_without_the_film_is_counted_from_the_hour() -> None:
    text = (
        "TITLE: X\nFCM: NON-DROP FRAME\n\n"
        "001  AX       V2    C        00:00:00:00 00:00:02:00 10:00:01:00 10:00:03:00\n"
        "* COMMENT: Fog\n* COMMENT: again\n"
        "002  AX       V     C        00:00:00:00 00:00:02:00 10:00:05:00 10:00:07:00\n"
        "* FROM CLIP NAME: film\n"
    )
    reading = read_file(text.replace("V     C", "V3    C").encode(), "x.edl", Context())
    assert [(c.in_ms, c.out_ms, c.text) for c in reading.document.captions] == [
        (1000, 3000, "Fog\nagain"), (5000, 7000, "film"),
    ]  # fmt: skip
    # With the film there, its beginning is the programme's.
    (caption,) = read_file(text.encode(), "x.edl", Context()).document.captions
    assert caption.in_ms == 0 or caption.text == "Fog\nagain"


def test_a_start_must_be_a_timecode_of_the_rate() -> None:
    with pytest.raises(BadInput, match="drop-frame"):
        frame_of_timecode("01:00:00;00", FrameRate(25))
    with pytest.raises(BadInput, match="not a time"):
        frame_of_timecode("1:00", FrameRate(25))
    with pytest.raises(BadInput, match="no frame"):
        frame_of_timecode("01:00:00:30", FrameRate(25))


def test_an_otio_holds_all_of_a_document() -> None:
    caption = Caption("a", 1001, 2002, spans_of("Fog\nbell"), "Ilse", style="Sign")
    document = Document((caption,), "de", (), {"Sign": Look(size=0.07)}, "Sign", {"Ilse": "Sign"})
    for rate in RATES:
        data = FORMATS["otio"].write(document, Context(rate, title="Fog"))
        assert read_file(data, "x.otio", Context(rate)).document == document


def test_cuts_are_told_by_either_form() -> None:
    edl = (
        "TITLE: X\nFCM: NON-DROP FRAME\n"
        "001  AX  V  C  00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00\n"
        "002  AX  V  C  00:00:09:00 00:00:10:00 01:00:02:00 01:00:03:00\n"
    )
    assert cuts_in(edl.encode(), FrameRate(25)) == (2000,)
    with pytest.raises(TimelineError, match="no cuts"):
        cuts_in(edl.split("002")[0].encode(), FrameRate(25))
    with pytest.raises(TimelineError, match="no events"):
        cuts_in(b"Fog", FrameRate(25))
