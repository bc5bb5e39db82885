import re
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Span, spans_of
from dunlin.core.styles import STYLES, Script, event_lines, render_script
from dunlin.core.timecode import FrameRate, first_frame_from
from tests.strategies import rates

RATE = FrameRate(25)


def written(text: str) -> str:
    return event_lines(Caption("a", 1000, 2000, spans_of(text)), RATE).split(",,")[-1]


def test_an_empty_caption_draws_nothing() -> None:
    assert event_lines(Caption("a", 0, 1000, spans_of(" \n")), RATE) == ""


def test_no_text_is_taken_for_a_code() -> None:
    drawn = written("{\\an8}a\\Nb{c}")
    assert re.search(r"(?<!\\)\{", drawn) is None
    assert "\\\u2060N" in drawn


def test_lines_and_styles_are_drawn() -> None:
    caption = Caption("a", 0, 1000, (Span("one\n"), Span("two", italic=True, colour="#102030")))
    assert event_lines(caption, RATE).endswith("one\\N{\\i1\\c&H00302010&}two{\\r}\n")


@given(st.integers(0, 4_000_000), st.integers(1, 9_000), rates)
def test_a_caption_is_on_exactly_its_frames_however_times_are_cut_short(ms, length, rate) -> None:
    line = event_lines(Caption("a", ms, ms + length, spans_of("x")), rate)
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
