import re
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Placement, Span, spans_of
from dunlin.core.styles import STYLES, Script, event_lines, render_script
from dunlin.core.timecode import FrameRate, first_frame_from
from tests.strategies import rates

RATE = FrameRate(25)


def drawn(caption: Caption, rate: FrameRate = RATE) -> str:
    return event_lines(caption, STYLES["house"], Script(1000, 500), rate)


def written(text: str) -> str:
    return drawn(Caption("a", 1000, 2000, spans_of(text))).split(",,")[-1]


def test_an_empty_caption_draws_nothing() -> None:
    assert drawn(Caption("a", 0, 1000, spans_of(" \n"))) == ""


def test_no_text_is_taken_for_a_code() -> None:
    text = written("{\\an8}a\\Nb{c}")
    assert re.search(r"(?<!\\)\{", text) is None
    assert "\\\u2060N" in text


def test_a_caption_is_drawn_where_it_is_placed_and_boxed() -> None:
    spans = (Span("one", background="#102030"),)
    placed = Caption("a", 0, 1000, spans, placement=Placement("top", "left", x=0.1, y=0.25))
    assert "{\\an7\\pos(100.00,125.00)}{\\rBox\\3c&H00302010&}one{\\r}" in drawn(placed)
    at_the_side = Caption("a", 0, 1000, spans_of("one"), placement=Placement("middle", "right"))
    assert drawn(at_the_side).endswith(",{\\an6}one\n")


def test_lines_and_styles_are_drawn() -> None:
    caption = Caption("a", 0, 1000, (Span("one\n"), Span("two", italic=True, colour="#102030")))
    assert drawn(caption).endswith("one\\N{\\i1\\c&H00302010&}two{\\r}\n")


@given(st.integers(0, 4_000_000), st.integers(1, 9_000), rates)
def test_a_caption_is_on_exactly_its_frames_however_times_are_cut_short(ms, length, rate) -> None:
    line = drawn(Caption("a", ms, ms + length, spans_of("x")), rate)
    edges = [
        ((int(h) * 60 + int(m)) * 60 + int(s)) * 1000 + int(c) * 10
        for h, m, s, c in re.findall(r"(\d+):(\d\d):(\d\d)\.(\d\d)", line)
    ]
    for edge, at in zip(edges, (ms, ms + length), strict=True):
        frame = first_frame_from(at, rate)
        starts = Fraction(frame * 1000 * rate.denominator, rate.numerator)
        before = Fraction((frame - 1) * 1000 * rate.denominator, rate.numerator)
        assert edge <= int(starts)
        assert frame == 0 or edge > before


def test_a_script_is_laid_out_on_the_picture() -> None:
    script = render_script([], STYLES["house"], Script(1080, 1920), RATE)
    assert "PlayResX: 1080\nPlayResY: 1920" in script
