import json

import pytest

from dunlin.core.captions import Caption, Track, spans_of
from dunlin.core.specs import (
    Spec,
    SpecError,
    findings,
    for_language,
    measures,
    read_spec,
    shipped_specs,
    write_spec,
)
from dunlin.core.text.measure import characters, line_lengths
from dunlin.core.timecode import FrameRate, start_of_frame

RATE = FrameRate(24000, 1001)
PAL = FrameRate(25)
STREAMING = shipped_specs()["streaming"]


def found(*captions: tuple[int, int, str], spec: Spec = STREAMING, rate: FrameRate = PAL):
    track = Track.of(
        Caption(f"c{n}", in_ms, out_ms, spans_of(text))
        for n, (in_ms, out_ms, text) in enumerate(captions)
    )
    return [(f.rule, f.caption, f.measured, f.limit) for f in findings(track, spec, rate)]


def test_the_shipped_limits_are_those_that_were_agreed() -> None:
    web = shipped_specs()["web-video"]
    assert (STREAMING.characters_per_line, STREAMING.lines, STREAMING.reading_speed) == (42, 2, 17)
    assert (STREAMING.least_duration_ms, STREAMING.greatest_duration_ms) == (833, 7000)
    assert STREAMING.least_gap_frames == 2
    assert (web.characters_per_line, web.lines, web.reading_speed) == (42, 2, 20)
    assert (web.least_duration_ms, web.greatest_duration_ms, web.least_gap_frames) == (
        1000,
        7000,
        None,
    )


@pytest.mark.parametrize(
    ("text", "count"),
    [
        ("", 0),
        ("two lines\nhere", 13),
        ("e\N{COMBINING ACUTE ACCENT}te", 3),
        ("👩‍🚀!", 2),
        ("नमस्ते", 3),
    ],
)
def test_characters_are_what_a_reader_sees(text: str, count: int) -> None:
    assert characters(text) == count


def test_the_line_lengths_is_measured() -> None:
    assert line_lengths("ab\nabcd\nábc") == [2, 4, 3]


def test_nothing_is_found_at_the_limits_themselves() -> None:
    line = "x" * 42
    assert found((0, 7000, f"{line}\n{line}"), (7080, 7913, "y" * 14)) == []


@pytest.mark.parametrize(
    ("caption", "finding"),
    [
        ((0, 5000, "x" * 43), ("line-length", "c0", 43, 42)),
        ((0, 5000, "a\nb\nc"), ("lines", "c0", 3, 2)),
        ((0, 1000, "x" * 18), ("reading-speed", "c0", 18, 17)),
        ((0, 832, "x"), ("least-duration", "c0", 832, 833)),
        ((0, 7001, "x"), ("greatest-duration", "c0", 7001, 7000)),
    ],
)
def test_each_limit_is_found_just_beyond_it(caption, finding) -> None:
    assert found(caption) == [finding]


def test_gaps_are_counted_in_frames_at_any_rate() -> None:
    for gap, expected in ((2, []), (1, [("gap", "c1", 1, 2)]), (0, [("gap", "c1", 0, 2)])):
        out, in_ = start_of_frame(48, RATE), start_of_frame(48 + gap, RATE)
        assert found((0, out, "one"), (in_, in_ + 2000, "two"), rate=RATE) == expected


def test_an_overlap_is_no_gap() -> None:
    assert found((0, 2000, "one"), (1500, 3000, "two")) == [("overlap", "c1", 500, 0)]


def test_measures_know_their_neighbours() -> None:
    a, b = Caption("a", 0, 1000, spans_of("abc")), Caption("b", 1500, 2500)
    first, last = measures(a, a.text, None, b, STREAMING), measures(b, "", a, None, STREAMING)
    assert (first.gap_before_ms, first.gap_after_ms) == (None, 500)
    assert (last.gap_before_ms, last.gap_after_ms, last.lines) == (500, None, 0)


def test_a_spec_is_read_back() -> None:
    for spec in shipped_specs().values():
        assert read_spec(write_spec(spec)) == spec


@pytest.mark.parametrize(
    ("change", "message"),
    [
        ({"name": None}, "name: .*string"),
        ({"lines": True}, "lines: .*integer"),
        ({"colour": 1}, "no limit called 'colour'"),
        ({"reading_speed": 0}, "reading_speed: .*greater than 0"),
        ({"advice": ["speed"]}, "advice.0"),
        ({"by_language": {"de": {"colour": 1}}}, "by_language.de has no limit called 'colour'"),
        ({"by_language": {"de": {"lines": 0}}}, "by_language.de: lines"),
        ({"least_duration_ms": 9000}, "least_duration_ms"),
    ],
)
def test_a_bad_spec_is_refused_by_the_name_of_its_limit(change, message: str) -> None:
    data = json.loads(write_spec(STREAMING)) | change
    with pytest.raises(SpecError, match=message):
        read_spec(json.dumps(data))


def test_a_language_has_limits_of_its_own() -> None:
    spec = shipped_specs()["cjk"]
    assert for_language(spec, "ja-JP").characters_per_line == 26
    assert for_language(spec, "zh").characters_per_line == 32
    assert for_language(spec, "ja").lines == spec.lines


@pytest.mark.parametrize("text", ["", "[]", "{}", "{"])
def test_what_is_no_spec_is_refused(text: str) -> None:
    with pytest.raises(SpecError):
        read_spec(text)


@pytest.mark.parametrize("tag", ["zh", "zh-Hant", "ja", "ko"])
def test_specs_that_ship_say_their_limits_for_wide_characters(tag: str) -> None:
    for spec in shipped_specs().values():
        if spec.id == "broadcast":
            # Its character set has none of them.
            continue
        own = for_language(spec, tag)
        assert own.wide_characters_count_two
        assert (own.characters_per_line or 0) <= 32
