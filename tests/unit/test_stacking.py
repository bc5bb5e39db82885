"""Captions on the screen at one time that want to stand in one place."""

import re
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Look, Placement, Span, Spoken, Track, spans_of
from dunlin.core.captions.look import WordLook
from dunlin.core.styles import (
    STYLES,
    Script,
    StyleSheet,
    event_lines,
    raised_by,
    render_script,
    styled,
)
from dunlin.core.styles.layout import laid_out
from dunlin.core.timecode import FrameRate

PICTURE, SHEET = Script(1280, 720), StyleSheet()
GROUND = Look(background="#000000", background_opacity=0.5)


def caption(id_: str, in_ms: int, out_ms: int, look: Look | None = GROUND, **fields) -> Caption:
    return Caption(
        id_, in_ms, out_ms, spans_of("one\ntwo" if id_ == "b" else "one"), look=look, **fields
    )


def raised(*captions: Caption) -> list[float | None]:
    track = Track.of(captions)
    return [raised_by(track, n, SHEET, PICTURE) for n in range(len(track))]


def test_captions_that_do_not_meet_stay_where_their_style_puts_them() -> None:
    assert raised(caption("a", 0, 1000), caption("b", 1000, 2000)) == [None, None]


def test_plain_captions_are_left_to_the_renderer() -> None:
    assert raised(caption("a", 0, 1000, None), caption("b", 500, 2000, None)) == [None, None]


def test_one_that_comes_later_stands_above_and_the_next_where_there_is_room_again() -> None:
    first, second, third = raised(
        caption("a", 0, 1000), caption("b", 500, 3000, None), caption("c", 1200, 2000)
    )
    assert first == 0
    height = laid_out(spans_of("one"), styled(STYLES["house"], GROUND), PICTURE).lines[0].height
    assert second == pytest.approx(height + 2 * STYLES["house"].background_padding * 720)
    # The first is gone by then, and its place is high enough.
    assert third == 0


def test_what_is_placed_by_hand_or_at_another_edge_is_in_nobody_s_way() -> None:
    placed = Placement("bottom", "center", x=0.5, y=0.9)
    top = Placement("top", "center")
    others = caption("b", 0, 900, placement=placed), caption("c", 0, 900, placement=top)
    assert raised(caption("a", 0, 900), *others) == [None, None, None]


def test_all_that_meet_are_placed_in_the_script() -> None:
    captions = caption("a", 0, 1000), caption("b", 500, 2000, None)
    lines = render_script(captions, SHEET, PICTURE, FrameRate(25)).split("[Events]")[1]
    words = [line for line in lines.splitlines() if "one" in line]
    ys = [float(re.search(r"\\pos\([\d.]+,([\d.]+)\)", line)[1]) for line in words]  # type: ignore[index]
    assert ys[0] == 720 * (1 - STYLES["house"].margin)
    assert ys[1] < ys[0] - 50


@given(
    st.lists(
        st.tuples(st.integers(0, 20), st.integers(1, 8), st.sampled_from([GROUND, None])),
        min_size=2, max_size=6,
    )
)  # fmt: skip
def test_no_caption_covers_one_that_is_there_already(drawn) -> None:
    captions = [
        caption(f"c{n}", at * 100, (at + length) * 100, look)
        for n, (at, length, look) in enumerate(drawn)
    ]
    track = Track.of(captions)
    places = {c.id: raised_by(track, n, SHEET, PICTURE) for n, c in enumerate(track)}
    for a, b in combinations(track, 2):
        at, other = places[a.id], places[b.id]
        if a.out_ms > b.in_ms and (a.look or b.look):
            assert at is not None
            assert other is not None
            # A line takes 50.4 pixels, and more with its ground.
            assert abs(at - other) >= 50


@pytest.mark.parametrize("look", [Look(comes="rise"), Look(spoken=WordLook(colour="#FF0000"))])
def test_a_caption_that_moves_or_is_told_gives_way_as_one_that_stands_still_does(
    look: Look,
) -> None:
    picture, sheet = Script(720, 1280), StyleSheet(styled(STYLES["house"], look))
    words = [(Span(text, spoken=Spoken(at, at + 300)),) for text, at in (("one", 0), ("two", 600))]
    track = Track.of([Caption("a", 0, 2000, words[0]), Caption("b", 500, 1800, words[1])])
    lowest = []
    for number, caption in enumerate(track):
        raised = raised_by(track, number, sheet, picture)
        lines = event_lines(caption, sheet, picture, FrameRate(25), raised)
        lowest.append(min(float(y) for y in re.findall(r"\\pos\([\d.]+,([\d.]+)\)", lines)))
    assert lowest[0] - lowest[1] > 40
