"""What captions look like, compiled: grounds, layers, places, and how they come and go."""

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Placement, Span, plain_text, spans_of
from dunlin.core.styles import STYLES, Script, StyleSheet, event_lines, styled
from dunlin.core.styles.grounds import ground_outlines, path_of
from dunlin.core.styles.holding import frame_of, levels_of
from dunlin.core.styles.layout import laid_out
from dunlin.core.styles.measuring import text_width
from dunlin.core.styles.motion import STILL, poses, with_hidden_end
from dunlin.core.styles.paths import drawn_path
from dunlin.core.styles.render_script import held_lines
from dunlin.core.styles.wrapping import wrapped
from dunlin.core.timecode import FrameRate, first_frame_from
from tests.strategies import rates

HOUSE, PICTURE, RATE = STYLES["house"], Script(1280, 720), FrameRate(25)
ENTRANCES = st.sampled_from(["cut", "fade", "rise", "grow", "wipe", "type"])


def caption(text: str, *, look: Look | None = None, out_ms: int = 2000, **fields) -> Caption:
    return Caption("a", 0, out_ms, spans_of(text), look=look, **fields)


def drawn(said: Caption) -> list[str]:
    return event_lines(said, HOUSE, PICTURE, RATE).splitlines()


def layer(line: str) -> int:
    return int(line.removeprefix("Dialogue: ")[0])


def test_a_caption_without_a_look_is_one_event_as_its_style_has_it() -> None:
    (line,) = drawn(caption("one\ntwo"))
    assert line.endswith(",,0,0,0,,one\\Ntwo")


def test_a_ground_lies_under_words_that_keep_their_edge() -> None:
    ground, words = drawn(caption("one", look=Look(background="#112233", background_opacity=0.5)))
    assert layer(ground) < layer(words)
    assert "\\c&H00332211&\\1a&H80&\\p4}" in ground
    assert "Box" not in words
    assert "\\bord" not in words


def test_a_ground_that_lets_all_through_is_not_drawn() -> None:
    assert len(drawn(caption("one", look=Look(background="#112233", background_opacity=0)))) == 1


@pytest.mark.parametrize("look", [{"shadow_softness": 0.01}, {"depth": True, "shadow": 0.01}])
def test_a_shadow_of_its_own_softness_or_depth_lies_under_the_words(look) -> None:
    *shadows, words = drawn(caption("one", look=Look(**look)))
    assert max(layer(line) for line in shadows) < layer(words)
    assert "\\xshad0.00\\yshad0.00" in words
    count = round(0.01 * 720) if "depth" in look else 1
    assert len(shadows) == count


def area(corners) -> float:
    around = zip(corners, (*corners[1:], corners[0]), strict=True)
    return sum(ax * by - bx * ay for (ax, ay), (bx, by) in around) / 2


@given(
    st.lists(st.sampled_from(["a", "some words", "rather many more words", ""]), min_size=1, max_size=4),
    st.sampled_from(["left", "center", "right"]),
    st.sampled_from([1.0, 1.05, 2.0]),
)  # fmt: skip
def test_the_ground_of_lines_holds_each_of_them_and_lies_nowhere_twice(
    lines, align, spacing
) -> None:
    style = styled(HOUSE, Look(background="#000000", align=align, line_spacing=spacing))
    layout = laid_out(spans_of("\n".join(lines)) or (Span(""),), style, PICTURE)
    outlines = ground_outlines(layout, style, PICTURE)
    padding = style.background_padding * 720
    shown = [line for line in layout.lines if line.width]
    whole = sum((line.width + 2 * padding) * line.height for line in shown)
    # Clockwise, and so with a positive area, all the way around.
    assert all(area(outline) > 0 for outline in outlines)
    assert sum(map(area, outlines)) >= whole - 0.1
    for line in shown:
        assert any(
            min(x for x, _ in outline) <= line.left and max(x for x, _ in outline) >= line.left + line.width
            and min(y for _, y in outline) <= line.top and max(y for _, y in outline) >= line.top + line.height
            for outline in outlines
        )  # fmt: skip


def test_round_corners_are_no_larger_than_the_ground() -> None:
    path = path_of(((0, 0), (100, 0), (100, 20), (0, 20)), 500, 8)
    numbers = [int(number) for number in re.findall(r"-?\d+", path)]
    assert min(numbers) >= 0
    assert max(numbers) == 800
    assert path.count("b ") == 4
    assert "b" not in path_of(((0, 0), (100, 0), (100, 20), (0, 20)), 0, 8)


@pytest.mark.parametrize(
    ("place", "point"),
    [(Placement("top", "left", x=0.1, y=0.1), (128, 72)), (Placement("middle", "right"), (1203.2, 360))],
)  # fmt: skip
def test_a_turned_caption_turns_about_its_own_point(place, point) -> None:
    (line,) = drawn(caption("one", look=Look(turn=-7.0, tilt_x=10.0), placement=place))
    x, y = map(float, re.search(r"pos\(([\d.]+),([\d.]+)\)", line).groups())  # type: ignore[union-attr]
    assert (x, y) == pytest.approx(point, abs=0.01)
    assert "\\frz7\\frx10" in line
    ground, _ = drawn(caption("one", look=Look(turn=5.0, background="#000000"), placement=place))
    assert f"\\org({point[0]:.2f},{point[1]:.2f})\\frz-5" in ground


def test_words_behind_others_in_a_style_of_their_own_are_turned_as_well() -> None:
    words = (Span("one ", italic=True), Span("two "), Span("three", colour="#FF0000"))
    (line,) = drawn(Caption("a", 0, 2000, words, look=Look(turn=10.0)))
    after = line.split("{\\r}")
    assert all("\\frz-10" in part for part in after[1:] if part)


def test_letters_that_stand_apart_or_are_wider_take_as_much_more_room() -> None:
    usual = text_width("four", HOUSE, PICTURE)
    height = HOUSE.size * 720
    assert text_width("four", replace(HOUSE, stretch=1.5), PICTURE) == pytest.approx(usual * 1.5)
    spaced = text_width("four", replace(HOUSE, letter_spacing=0.1), PICTURE)
    assert spaced == pytest.approx(usual + 4 * 0.1 * height)


@given(st.integers(0, 5000), st.integers(1, 3000), rates, ENTRANCES, ENTRANCES, st.integers(0, 900))
def test_every_frame_of_a_caption_has_one_pose(in_ms, length, rate, comes, goes, ms) -> None:
    said = Caption("a", in_ms, in_ms + length, spans_of("words"))
    style = styled(HOUSE, Look(comes=comes, goes=goes, comes_ms=ms, goes_ms=ms))
    shown = [
        frame
        for start, end, _ in poses(said, style, rate)
        for frame in range(first_frame_from(start, rate), first_frame_from(end, rate))
    ]
    assert shown == list(
        range(first_frame_from(in_ms, rate), first_frame_from(in_ms + length, rate))
    )


def test_a_caption_comes_bit_by_bit_and_is_then_as_it_is_without() -> None:
    said = caption("two words", look=Look(comes="grow", comes_ms=200, goes="cut"))
    sizes = [pose.size for _, _, pose in poses(said, styled(HOUSE, said.look or Look()), RATE)]
    assert sizes == sorted(sizes)
    assert sizes[-1] == 1
    assert len(sizes) == 6
    *_, still = drawn(said)
    (usual,) = drawn(caption("two words", placement=Placement()))
    assert still.split(",,", 1)[1] == usual.split(",,", 1)[1]


def test_fading_is_left_to_the_renderer_and_takes_no_event_a_frame() -> None:
    (line,) = drawn(caption("one", look=Look(comes="fade", comes_ms=300, goes="fade", goes_ms=100)))
    assert "\\fad(300,100)" in line


@given(st.sampled_from(["plain words", "e\u0301te\u0301", "👩‍🚀 and"]), st.floats(0, 1))
def test_letters_to_come_have_their_place_already(text: str, part: float) -> None:
    spans = (Span(text, italic=True), Span(" more"))
    shown = with_hidden_end(spans, part)
    assert plain_text(shown) == plain_text(spans)
    hidden = "".join(span.text for span in shown if span.look and span.look.opacity == 0)
    assert plain_text(spans).endswith(hidden)
    assert "".join(span.text for span in shown if span.italic) == text


def test_a_pose_that_is_still_changes_nothing() -> None:
    said = caption("one", look=Look(comes="type", comes_ms=80))
    assert [pose for _, _, pose in poses(said, styled(HOUSE, said.look or Look()), RATE)][
        -1
    ] == STILL


def windows(look: Look) -> list[tuple[float, float]]:
    """Width and height, in pixels, of the windows that uncover a caption, in their order."""
    sizes = []
    for line in drawn(caption("some words", look=look)):
        if found := re.search(r"\\clip\(4,([^)]*)\)", line):
            numbers = [int(number) / 8 for number in re.findall(r"-?\d+", found[1])]
            sizes.append(tuple(max(of) - min(of) for of in (numbers[::2], numbers[1::2])))
    return sizes


def test_a_caption_is_uncovered_from_where_its_lines_begin_however_it_is_turned() -> None:
    lying = windows(Look(comes="wipe", comes_ms=200))
    assert [width for width, _ in lying] == sorted(width for width, _ in lying)
    assert len({height for _, height in lying}) == 1
    upright = windows(Look(comes="wipe", comes_ms=200, turn=90.0))
    assert upright == [pytest.approx((height, width), abs=0.3) for width, height in lying]


def test_what_says_a_property_is_the_nearest_that_says_it_at_all() -> None:
    named = {"Sign": Look(size=0.05, colour="#F5E7C8"), "Ilse": Look(colour="#F7E3B0")}
    caption = Caption(
        "a", 0, 1000, (Span("FOG ", italic=True), Span("SIGNAL", look=Look(font="Lora"))),
        style="Sign", placement=Placement("top"), look=Look(turn=5.0),
    )  # fmt: skip
    levels = levels_of(caption, caption.spans[1:], named, None, "Ilse")
    said = {name: level for name, level in levels.items() if level != "shipped"}
    assert said == {
        "size": "style", "colour": "speaker", "turn": "caption", "font": "words",
        **dict.fromkeys(("anchor", "align", "x", "y", "width", "vertical"), "caption"),
    }  # fmt: skip
    assert levels_of(caption, caption.spans[:1], named, None, None)["italic"] == "words"
    # A style that there is not any more is the track's.
    other = replace(caption, style="Gone")
    assert levels_of(other, (), named, "Sign", None)["size"] == "style"
    assert levels_of(other, (), named, None, None)["size"] == "shipped"


def test_held_lines_write_out_place_and_turn_in_each_event_and_stand_still() -> None:
    look = Look(background="#8C3B22", line_spacing=1.2, comes="rise", goes="fade")
    caption = Caption("a", 0, 2000, spans_of("FOG\nSIGNAL"), look=look)
    lines = held_lines(caption, StyleSheet(), Script(1280, 720), FrameRate(25)).splitlines()
    assert len(lines) == 3
    for line in lines:
        assert line.count("\\pos(") == 1
        assert "\\frz0\\frx0\\fry0" in line
        assert "\\org(" in line
        assert "\\fad" not in line


def test_a_window_is_an_outline_in_the_scripts_words_and_the_caption_is_seen_through_it() -> None:
    bent = "M0.25 0.5 L0.75,0.5 Q0.75 1 0.5 1 C0.4 1 0.3 0.9 0.25 0.5 Z"
    assert drawn_path(bent, 1280, 720, 1) == (
        "m 320 360 l 960 360 b 960 600 853 720 640 720 b 512 720 384 648 320 360"
    )
    for keeps, code in ((None, "\\clip("), ("outside", "\\iclip(")):
        look = Look(window="M0 0 L0.5 0 L0.5 1 Z", window_keeps=keeps)  # type: ignore[arg-type]
        caption = Caption("a", 0, 2000, spans_of("FOG"), look=look)
        lines = event_lines(caption, StyleSheet(), Script(1280, 720), FrameRate(25))
        assert f"{code}4,m 0 0 l 5120 0 l 5120 5760)" in lines


PLATE = "M0 0 L1 0 L1 1 L0 1 Z"


def plate(width: float | None = 0.5, **look) -> Caption:
    own = Look(**{"shape": PLATE, "size": 0.25, "outline": 0.0, "shadow": 0.0} | look)
    place = Placement("middle", "center", 0.5, 0.5, width)
    return Caption("s", 0, 2000, look=own, placement=place)


def test_a_shape_fills_its_box_in_the_colours_that_letters_have() -> None:
    (line,) = drawn(plate(0.25, colour="#112233", opacity=0.5))
    assert "\\an7\\pos(480.00,270.00)" in line
    assert "\\c&H00332211&\\1a&H80&" in line
    # A quarter of 1280 by a quarter of 720, in eighths of a pixel.
    assert line.endswith("\\p4}m 0 0 l 2560 0 l 2560 1440 l 0 1440{\\p0}")


def test_a_shape_without_a_width_is_as_wide_as_tall_and_lies_beneath_or_above_the_words() -> None:
    beneath, above = (drawn(plate(None, layer=which))[0] for which in ("beneath", "above"))
    assert "l 1440 0 l 1440 1440" in beneath
    assert (beneath[10:12], above[10:12]) == ("-5", "5,")


def test_an_outline_of_any_place_and_size_fills_the_same_box() -> None:
    moved = plate(shape="M3 7 L5 7 L5 8 L3 8 Z")
    assert drawn(moved) == drawn(plate())


def test_a_shape_has_a_frame_and_words_have_no_shape() -> None:
    frame = frame_of(plate(turn=10.0), StyleSheet(), PICTURE)
    assert frame is not None
    assert (frame.left, frame.top, frame.right, frame.bottom) == (320, 270, 960, 450)
    assert (frame.x, frame.y, frame.turned) == (640, 360, 10)
    assert "\\p4" not in drawn(caption("one", look=Look(shape=PLATE)))[0]


@pytest.mark.parametrize("text", ["", " ", "one\n\ntwo", "\n"])
def test_lines_without_words_are_laid_out_in_every_family(text: str) -> None:
    style = replace(STYLES["house"], font="Oswald")
    assert plain_text(wrapped(spans_of(text), style, Script(640, 360))) == text


def test_a_caption_as_it_is_written_is_so_in_a_style_of_capitals() -> None:
    capitals = replace(HOUSE, case="upper")
    for case, shown in ((None, "LOW WATER"), ("written", "Low water"), ("lower", "low water")):
        assert shown in event_lines(caption("Low water", case=case), capitals, PICTURE, RATE)
