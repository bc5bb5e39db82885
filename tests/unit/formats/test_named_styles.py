"""Styles of a track in formats whose styles say a part of what a look can."""

from collections.abc import Mapping
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from dunlin.core.captions import Caption, Look, Span
from dunlin.core.captions.model import extra
from dunlin.core.formats import FORMATS, Context, Document, losses, read_file, reduced, written
from dunlin.core.timecode import FrameRate
from tests.strategies import colours, looks, tracks
from tests.unit.formats.test_laws import comparable

CONTEXT, RATE = Context(), FrameRate(25)
STYLED = ["webvtt", "imsc", "ebu-tt-d"]
names = st.sampled_from(
    ["Sign", "On-screen title", "red", "1", "s1", "題", "a.b_c", "colour-x", "Ålesund", "…"]
)
edged = st.builds(
    replace,
    looks,
    font=st.sampled_from(
        [None, "Noto Sans", "Kvill Hand", 'Kvill "Old"', "serif", "Kvill --> Pier", "Bell; Buoy"]
    ),
    line_spacing=st.sampled_from([None, 0.9, 1.25]),
    strike=st.sampled_from([None, True, False]),
    colour=colours,
    background=colours,
    outline_colour=colours,
    outline_opacity=st.sampled_from([None, 0.5, 1.0]),
    shadow=st.sampled_from([None, 0.0, 0.004, 0.05]),
    shadow_softness=st.sampled_from([None, 0.01]),
    case=st.sampled_from([None, "upper"]),
)


@st.composite
def documents(draw: st.DrawFn) -> Document:
    """Captions in styles, by their own names, by their speaker, and by the track's default."""
    styles: Mapping[str, Look] = draw(st.dictionaries(names, edged, max_size=3))
    named = st.sampled_from([None, "not there", *styles])
    captions = tuple(
        replace(caption, style=draw(named), look=draw(st.one_of(st.none(), edged)))
        for caption in draw(tracks(5))
    )
    speakers = {"Ilse Varga": draw(st.sampled_from(list(styles)))} if styles else {}
    default = draw(named) if styles else None
    return Document(captions, "en", (), styles, default, speakers)


@pytest.mark.parametrize("name", STYLED)
@given(document=documents())
def test_styles_are_read_back_as_they_were_written(name: str, document: Document) -> None:
    module = FORMATS[name]
    kept = reduced(document, module, RATE)
    again = read_file(written(document, module, CONTEXT), "x", CONTEXT, name).document
    assert [(c.style, *comparable(c, name)) for c in again.captions] == [
        (c.style if c.text.strip() else None, *comparable(c, name)) for c in kept.captions
    ]
    used = {caption.style for caption in again.captions}
    assert {style: again.styles[style] for style in used if style} == {
        style: look for style, look in kept.styles.items() if style in used
    }


@pytest.mark.parametrize("name", STYLED)
@given(document=documents())
def test_what_is_kept_of_styles_is_no_loss(name: str, document: Document) -> None:
    kept = reduced(document, FORMATS[name], RATE)
    assert losses(kept, FORMATS[name], RATE) == []
    assert reduced(kept, FORMATS[name], RATE) == kept


def styled(name: str, look: Look, *captions: Caption) -> bytes:
    document = Document(
        captions or (Caption("a", 0, 1000, (Span("Low water"),), style="On-screen title"),),
        "en", (), {"On-screen title": look},
    )  # fmt: skip
    return written(document, FORMATS[name], CONTEXT)


def test_a_style_is_a_class_of_webvtt() -> None:
    look = Look(font="Noto Sans", size=0.0681, colour="#F0C040", outline=0.005, shadow=0.0)
    text = styled("webvtt", look).decode()
    assert '::cue(.On-screen_title) { font-family: "Noto Sans"; font-size: 100%; ' in text
    assert "color: #F0C040; text-shadow: 0.1em 0em #14191B, " in text
    assert "\n<c.On-screen_title>Low water</c>\n" in text


@pytest.mark.parametrize(("name", "has_edges"), [("imsc", True), ("ebu-tt-d", False)])
def test_a_style_is_one_of_timed_text(name: str, has_edges: bool) -> None:
    look = Look(font="Noto Sans", size=0.0908, outline=0.005, outline_colour="#101010", shadow=0.01)
    root = etree.fromstring(styled(name, look))
    [style] = root.xpath("//*[local-name()='style'][@xml:id='On-screen_title']")
    said = {etree.QName(key).localname: value for key, value in style.attrib.items()}
    assert (said["fontFamily"], said["fontSize"]) == ('"Noto Sans"', "100%")
    assert ("textOutline" in said, "textShadow" in said) == (has_edges, has_edges)
    [p] = root.xpath("//*[local-name()='p']")
    assert p.get("style").split() == ["On-screen_title"]


FOREIGN = """WEBVTT

STYLE
::cue(.sign) { font-size: 150%; color: #F0C040 }
::cue(.part) { font-size: 80%; color: #00FF00 }
::cue(.odd) { font-size: 80%; visibility: hidden }

00:01.000 --> 00:02.000
<v Ilse Varga><c.sign>Fog bell</c>

00:03.000 --> 00:04.000
<c.odd>Low <c.part>water</c></c>
"""


def test_a_class_of_whole_cues_is_a_style_and_others_are_given_back() -> None:
    document = read_file(FOREIGN.encode(), "x.vtt", CONTEXT).document
    sign, water = document.captions
    assert (sign.style, sign.spans, sign.speaker) == ("sign", (Span("Fog bell"),), "Ilse Varga")
    assert document.styles["sign"].colour == "#F0C040"
    assert document.styles["sign"].size == pytest.approx(0.075 * 1.362, abs=0.0005)
    assert water.style is None
    assert [(s.colour, extra(s.extras, "webvtt:class")) for s in water.spans] == [
        (None, "odd"), ("#00FF00", "odd.part"),
    ]  # fmt: skip
    again = written(document, FORMATS["webvtt"], CONTEXT).decode()
    assert "::cue(.part) { font-size: 80%; color: #00FF00 }" in again
    assert "::cue(.odd) { font-size: 80%; visibility: hidden }" in again
    assert again.count(".sign)") == 1
    assert read_file(again.encode(), "x.vtt", CONTEXT).document == document


def test_losses_of_looks_are_told_by_what_is_lost() -> None:
    look = Look(
        font="Noto Sans Mono",
        size=0.09,
        stretch=0.8,
        outline=0.01,
        turn=5,
        comes="fade",
        case="upper",
    )
    document = Document(
        (Caption("a", 0, 1000, (Span("Bell"),), style="Sign"), Caption("b", 2000, 3000, (Span("b"),))),
        "en", (), {"Sign": look},
    )  # fmt: skip
    lost = {
        name: {loss.what for loss in losses(document, FORMATS[name], RATE)}
        for name in ("srt", "webvtt", "imsc", "ebu-tt-d", "json")
    }
    assert lost["srt"] == {"styles", "fonts", "letters", "edges", "turns", "motion", "case"}
    assert lost["webvtt"] == lost["imsc"] == {"letters", "turns", "motion", "case"}
    assert lost["ebu-tt-d"] == {"letters", "edges", "turns", "motion", "case"}
    assert lost["json"] == set()
    assert b"BELL" in written(document, FORMATS["webvtt"], CONTEXT)
