import re
from dataclasses import replace
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Placement, Span, plain_text, spans_of
from dunlin.core.styles import (
    STYLES,
    Look,
    Script,
    Style,
    StyleSheet,
    event_lines,
    render_script,
    script_head,
    styled,
)
from dunlin.core.styles.measuring import line_width
from dunlin.core.styles.model import look_of_caption
from dunlin.core.styles.wrapping import lines_of, wrapped
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


def test_bold_words_are_bolder_and_styles_put_on_are_never_lost() -> None:
    caption = Caption("a", 0, 1000, (Span("one ", bold=True), Span("two", underline=True)))
    assert drawn(caption).endswith("{\\fnNoto Sans Black}one {\\r}{\\u1}two{\\r}\n")


def test_a_caption_wraps_within_its_width_and_a_long_word_stays_whole() -> None:
    narrow = Placement("bottom", "center", width=0.2)
    text = "It weighs four hundred kilos and more"
    placed = Caption("a", 0, 1000, spans_of(text), placement=narrow)
    picture, style = Script(1000, 500), styled(STYLES["house"], look_of_caption(placed))
    lines = [plain_text(line) for line in lines_of(wrapped(placed.spans, style, picture))]
    assert " ".join(lines) == text
    assert len(lines) > 2
    assert all(line_width(line, style, picture) <= 0.2 for line in lines)
    assert drawn(placed).count("\\N") == len(lines) - 1
    one = replace(placed, spans=spans_of("Incomprehensibilities"))
    assert "\\N" not in drawn(one)


def test_lines_that_run_downwards_are_turned_about_their_place() -> None:
    spans = (Span("first\nsecond"),)
    right = Placement("top", "right", x=0.9, y=0.1, vertical="rl")
    upright = drawn(Caption("a", 0, 1000, spans, placement=right))
    # The first line is the rightmost: above before it is turned.
    assert "{\\an7\\pos(900.00,50.00)\\frz-90}{\\fn@Noto Sans}first\\Nsecond{\\r}" in upright
    left = replace(right, align="left", x=0.1, vertical="lr")
    assert "second\\Nfirst" in drawn(Caption("a", 0, 1000, spans, placement=left))


def test_a_reading_stands_above_the_middle_of_its_words() -> None:
    spans = (Span("the "), Span("bell", ruby="bɛl"), Span(" rings"))
    lines = drawn(Caption("a", 0, 1000, spans)).splitlines()
    points = [tuple(map(float, re.search(r"pos\(([\d.]+),([\d.]+)\)", x).groups())) for x in lines]  # type: ignore[union-attr]
    (left, bottom), (middle, above) = points
    picture, style = Script(1000, 500), STYLES["house"]
    before, own, whole = (
        line_width(text, style, picture) * 1000 for text in ("the ", "bell", "the bell rings")
    )
    assert abs(left - (500 - whole / 2)) < 0.5
    assert abs(middle - (left + before + own / 2)) < 1
    assert abs(bottom - above - style.size * 500) < 0.01
    assert "\\fs17.5" in lines[1]


SHEET = StyleSheet(
    styles={"Sign": Style("Sign", "Sign", weight=400, colour="#FF0000", anchor="top")},
    speakers={"Ilse": Look(colour="#00FF00", italic=True)},
)


def test_looks_are_folded_from_style_speaker_caption_and_words() -> None:
    said = Caption(
        "a", 0, 1000, (Span("plain "), Span("red", colour="#0000FF")), "Ilse", style="Sign"
    )
    assert SHEET.style_of(said).colour == "#00FF00"
    assert SHEET.style_of(said).weight == 400
    lines = event_lines(said, SHEET, Script(1000, 500), RATE)
    assert ",Caption1,," in lines
    assert "{\\i1\\c&H0000FF00&}plain {\\r}{\\i1\\c&H00FF0000&}red{\\r}" in lines
    nobody = replace(said, speaker=None, style=None)
    assert SHEET.style_of(nobody) == STYLES["house"]
    assert "Style: Caption1,Noto Sans" in script_head(SHEET, Script(1000, 500))


@given(
    st.lists(
        st.builds(
            Look,
            weight=st.sampled_from([None, 400, 700]),
            size=st.sampled_from([None, 0.1, 0.2]),
            colour=st.sampled_from([None, "#111111", "#222222"]),
        ),
        max_size=4,
    )
)
def test_the_topmost_look_that_says_something_counts(looks: list[Look]) -> None:
    style = styled(STYLES["house"], *looks)
    for name in ("weight", "size", "colour"):
        said = [value for look in looks if (value := getattr(look, name)) is not None]
        assert getattr(style, name) == (said[-1] if said else getattr(STYLES["house"], name))
    # Folding in two steps is folding in one.
    assert styled(styled(STYLES["house"], *looks[:2]), *looks[2:]) == style
