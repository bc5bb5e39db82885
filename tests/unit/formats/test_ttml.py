"""TTML as others write it, and Dunlin's own against the profiles' grammars."""

import json
import re
import subprocess
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from lxml import etree

from dunlin.core.captions import Caption, Look, Placement, Span, Track, spans_of
from dunlin.core.formats import (
    FORMATS,
    Context,
    Document,
    FormatError,
    read_file,
    reduced,
    written,
)
from dunlin.core.styles import STYLES
from dunlin.core.timecode import FrameRate
from tests.strategies import tracks

SCHEMAS = Path(__file__).parent / "schemas"
GRAMMARS = {
    name: etree.RelaxNG(etree.parse(str(SCHEMAS / file)))
    for name, file in (("imsc", "imsc-text.rng"), ("ebu-tt-d", "ebu-tt-d.rng"))
}
HEAD = (
    '<tt xmlns="http://www.w3.org/ns/ttml" xmlns:tts="http://www.w3.org/ns/ttml#styling"'
    ' xmlns:ttp="http://www.w3.org/ns/ttml#parameter" xmlns:ttm="http://www.w3.org/ns/ttml#metadata"'
)


def read(text: str, rate: FrameRate | None = None):
    reading = read_file(text.encode(), "x.ttml", Context(rate or FrameRate(25)))
    return reading.document, [(oddity.line, str(oddity.message)) for oddity in reading.oddities]


def body(inner: str, attributes: str = "", head: str = "") -> str:
    return f"{HEAD} {attributes}><head>{head}</head><body><div>{inner}</div></body></tt>"


@pytest.mark.parametrize("name", sorted(GRAMMARS))
@given(track=tracks())
def test_what_is_written_keeps_to_the_profile(name: str, track: Track) -> None:
    document = Document(tuple(track), "en")
    root = etree.fromstring(written(document, FORMATS[name], Context()))
    grammar = GRAMMARS[name]
    assert grammar.validate(root), grammar.error_log


@pytest.mark.parametrize(
    ("times", "attributes", "expected"),
    [
        ('begin="00:00:01.500" end="00:00:02.25"', "", (1500, 2250)),
        ('begin="1.5s" dur="750ms"', "", (1500, 2250)),
        ('begin="0.025m" end="2250ms"', "", (1500, 2250)),
        ('begin="00:00:01:12" end="00:00:02:00"', 'ttp:frameRate="24"', (1500, 2000)),
        ('begin="36f" end="48f"', 'ttp:frameRate="24"', (1500, 2000)),
        ('begin="15000t" end="20000t"', 'ttp:tickRate="10000"', (1500, 2000)),
        (
            'begin="00:01:00:02" end="00:01:01:00"',
            'ttp:frameRate="30" ttp:frameRateMultiplier="1000 1001" ttp:timeBase="smpte"'
            ' ttp:dropMode="dropNTSC"',
            (60060, 60994),
        ),
    ],
)
def test_times_of_every_kind_are_read(times: str, attributes: str, expected) -> None:
    document, oddities = read(body(f"<p {times}>Hark</p>", attributes))
    assert oddities == []
    assert [(c.in_ms, c.out_ms) for c in document.captions] == [expected]


def test_styles_regions_and_speakers_are_looked_up() -> None:
    head = (
        '<metadata><ttm:agent xml:id="a" type="person"><ttm:name type="full">Ilse Varga</ttm:name>'
        '</ttm:agent></metadata><styling><style xml:id="y" tts:color="yellow"/>'
        '<style xml:id="i" style="y" tts:fontStyle="italic"/></styling>'
        '<layout><region xml:id="top" tts:origin="10% 10%" tts:extent="80% 80%"'
        ' tts:displayAlign="before"/></layout>'
    )
    inner = (
        '<p begin="1s" end="2s" region="top" ttm:agent="a">\n  Read the\n'
        '  <span style="i">Marigold</span><br/>now.\n</p>'
    )
    document, oddities = read(body(inner, 'xml:lang="en"', head))
    caption = document.captions[0]
    assert oddities == []
    assert caption.spans == (
        Span("Read the "),
        Span("Marigold", italic=True, colour="#FFFF00"),
        Span("\nnow."),
    )
    assert (caption.speaker, caption.placement) == ("Ilse Varga", Placement("top"))
    assert document.language == "en"


def test_line_ends_of_the_file_are_spaces_and_only_br_breaks_a_line() -> None:
    inner = '<p begin="1s" end="2s"><span>Read</span>\n<span>the bell</span><br/>\n  now </p>'
    document, _ = read(body(inner))
    assert document.captions[0].text == "Read the bell\nnow"
    kept, _ = read(body(inner.replace("<p ", '<p xml:space="preserve" ')))
    assert kept.captions[0].text == "Read the bell\n   now "


def test_times_are_counted_from_what_they_stand_in() -> None:
    inner = (
        '<div begin="10s"><p begin="1s" end="2s">one</p></div>'
        '<p><span begin="20s" end="21s">two</span> <span begin="22s" end="23s">three</span></p>'
        '<div timeContainer="seq"><p dur="1s">four</p><p begin="1s" dur="1s">five</p></div>'
    )
    document, _ = read(body(inner))
    assert [(c.in_ms, c.out_ms, c.text) for c in document.captions] == [
        (0, 1000, "four"),
        (2000, 3000, "five"),
        (11000, 12000, "one"),
        (20000, 21000, "two"),
        (22000, 23000, "three"),
    ]


def test_what_cannot_be_read_is_told_with_its_line() -> None:
    text = body(
        '\n<p begin="x" end="2s">one</p>\n<p begin="1s">two</p>\n<p begin="3s" end="4s">three</p>'
    )
    document, oddities = read(text)
    assert [caption.text for caption in document.captions] == ["three"]
    assert oddities == [(2, "'x' is not a time; left out"), (3, "has no end; left out")]


def test_broken_xml_is_mended_and_told() -> None:
    document, oddities = read(body('<p begin="1s" end="2s">Fish & chips<br></p>'))
    assert "chips" in document.captions[0].text
    assert any("XML mended" in message for _, message in oddities)


@pytest.mark.parametrize(
    "declared",
    [
        '<!DOCTYPE tt [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;">]>',
        '<!DOCTYPE tt [<!ENTITY file SYSTEM "file:///etc/hostname">]>',
        '<!DOCTYPE tt SYSTEM "http://127.0.0.1:9/ttml.dtd">',
    ],
)
def test_entities_and_outside_references_are_refused(declared: str) -> None:
    text = declared + body('<p begin="1s" end="2s">&c;&file;</p>')
    with pytest.raises(FormatError, match="document type"):
        read(text)


def test_elements_nested_without_end_are_read_within_bounds() -> None:
    inner = "<div>" * 5000 + '<p begin="1s" end="2s">deep</p>' + "</div>" * 5000
    try:
        document, _ = read(body(inner))
    except FormatError:
        return
    assert len(document.captions) <= 1


def test_a_format_told_by_its_profile() -> None:
    document = Document((Caption("a", 0, 1000, spans_of("Hark")),))
    for name in GRAMMARS:
        data = written(document, FORMATS[name], Context())
        assert name == read_file(data, "x.ttml", Context()).format.NAME


def test_regions_keep_their_names_and_what_they_say() -> None:
    text = body(
        '<p begin="1s" end="2s" region="speakerTop">one</p>'
        '<p begin="3s" end="4s" region="low">two</p><p begin="5s" end="6s">three</p>'
    ).replace(
        "</head>",
        '<layout><region xml:id="speakerTop" tts:origin="10% 10%" tts:extent="80% 80%"'
        ' tts:displayAlign="before" tts:padding="1% 2%" tts:overflow="visible"/>'
        '<region xml:id="low" tts:displayAlign="after" tts:padding="5px"/></layout></head>',
    )
    document, _ = read(text)
    for name in GRAMMARS:
        again = written(document, FORMATS[name], Context()).decode()
        assert re.search(
            r'region xml:id="speakerTop"[^>]*displayAlign="before" tts:overflow="visible"'
            r' tts:padding="1% 2%"',
            again,
        )
        assert 'region="speakerTop">' in again
        assert 'region="low">' in again
        assert "5px" not in again
        GRAMMARS[name].assertValid(etree.fromstring(again.encode()))
    top, *rest = document.captions
    moved = replace(top, placement=Placement(anchor="middle"), id="moved", in_ms=9000, out_ms=9900)
    both = replace(document, captions=(top, *rest, moved))
    again = written(both, FORMATS["imsc"], Context())
    back, _ = read(again.decode())
    assert [caption.placement for caption in back.captions] == [
        caption.placement for caption in both.captions
    ]


JUDGE = Path(__file__).parents[3] / "frontend" / "live" / "ttml-judge.mjs"


def judged(file: Path) -> dict[str, Any]:
    """What the reference reader of IMSC sees in a file."""
    run = subprocess.run(["node", JUDGE, file], capture_output=True, text=True, check=True)
    return json.loads(run.stdout)


def seen_at(found: dict[str, Any], ms: int) -> list[str]:
    """The texts that it shows from a moment on."""
    moment = next(one for one in found["moments"] if one["ms"] == ms)
    return ["".join(p["text"] for p in par["pieces"]) for par in moment["paragraphs"]]


@pytest.mark.parametrize("name", ["imsc", "ebu-tt-d"])
def test_the_standard_s_reader_sees_what_was_written(name: str, tmp_path: Path) -> None:
    spans = (Span("Read the "), Span("Marigold", italic=True, colour="#FFFF00"), Span("\nnow."))
    captions = (
        Caption("a", 1000, 2000, spans, placement=Placement("top")),
        Caption("b", 1500, 3000, spans_of("שלום")),
    )
    file = tmp_path / "x.ttml"
    file.write_bytes(written(Document(captions, "he"), FORMATS[name], Context()))
    found = judged(file)
    assert found["problems"] == []
    assert seen_at(found, 1000) == ["Read the Marigold\nnow."]
    assert sorted(seen_at(found, 1500)) == ["Read the Marigold\nnow.", "שלום"]
    assert seen_at(found, 3000) == []
    [paragraph] = next(one for one in found["moments"] if one["ms"] == 2000)["paragraphs"]
    assert paragraph["direction"] == "rtl"
    # As large as in the house style, and not by the half larger.
    [size] = {piece["size"] for piece in paragraph["pieces"] if piece["text"].strip()}
    assert size == pytest.approx(STYLES["house"].size, abs=0.005)


@pytest.mark.parametrize("name", ["imsc", "ebu-tt-d"])
def test_the_standard_s_reader_sees_the_size_of_a_style(tmp_path: Path, name: str) -> None:
    look = Look(font="Noto Sans", size=0.1, outline=0.004, shadow=0.003, line_spacing=0.9)
    caption = Caption("a", 0, 1500, spans_of("Low water"), style="Sign")
    data = written(Document((caption,), "en", (), {"Sign": look}), FORMATS[name], Context())
    assert GRAMMARS[name].validate(etree.fromstring(data)), GRAMMARS[name].error_log
    file = tmp_path / "x.ttml"
    file.write_bytes(data)
    found = judged(file)
    assert found["problems"] == []
    [moment] = [one for one in found["moments"] if one["ms"] == 0]
    [piece] = [piece for one in moment["paragraphs"] for piece in one["pieces"]]
    # The em of Noto Sans is 1 of the 1.362 from its ascent to its descent.
    assert piece["size"] == pytest.approx(0.1 / 1.362, abs=0.0001)


def test_the_standard_s_reader_and_ours_see_the_same_in_a_foreign_file(tmp_path: Path) -> None:
    inner = (
        '<p xml:id="a" begin="1s" end="5s">kept <span begin="1s" end="2s">then</span>'
        '<span begin="3s" end="4s" tts:fontSize="50%">gone</span></p>'
        '<p begin="6s" end="7s" tts:display="none">never</p>'
        '<p begin="6s" end="7s"><span tts:display="none">not this</span>this</p>'
        '<p begin="8s" end="9s"><span tts:ruby="container"><span tts:ruby="base">東</span>'
        '<span tts:ruby="delimiter">(</span><span tts:ruby="text">ひがし</span>'
        '<span tts:ruby="delimiter">)</span></span></p>'
    )
    file = tmp_path / "x.ttml"
    file.write_text(body(inner, 'xml:lang="en" xml:space="preserve"'))
    document, oddities = read(file.read_text())
    found = judged(file)
    for ms in (1000, 2000, 3000, 4000, 6000):
        ours = [c.text.strip() for c in document.captions if c.in_ms <= ms < c.out_ms]
        assert ours == [text.strip() for text in seen_at(found, ms) if text.strip()], ms
    assert document.captions[-1].spans == (Span("東", ruby="ひがし"),)
    told = [text for _, text in oddities]
    assert told.count("text that is not to be shown; left out") == 2
    assert any("in a size or line height of their own" in text for text in told)


@pytest.mark.parametrize("name", ["imsc", "ebu-tt-d"])
def test_what_styles_say_is_written_with_the_words(name: str) -> None:
    styles = {
        "Sign": Look(colour="#F0C040", background="#802010", italic=True, anchor="top", outline=0.007, outline_colour="#101010"),
        "Loud": Look(weight=700),
        "Usual": Look(weight=400),
    }  # fmt: skip
    captions = (
        Caption("a", 0, 1000, (Span("The fog bell"),), style="Sign"),
        Caption("b", 2000, 3000, (Span("It rang"),), "Ilse Varga"),
        Caption("c", 4000, 5000, (Span("Low water"),)),
    )
    document = Document(captions, "en", (), styles, "Usual", {"Ilse Varga": "Loud"})
    module = FORMATS[name]
    data = written(reduced(document, module, FrameRate(25)), module, Context())
    assert GRAMMARS[name].validate(etree.fromstring(data)), GRAMMARS[name].error_log
    sign, said, plain = read_file(data, "x.xml", Context(), name).document.captions
    assert sign.spans == (
        Span("The fog bell", italic=True, colour="#F0C040", background="#802010"),
    )
    assert sign.placement == Placement("top")
    assert said.spans == (Span("It rang", bold=True),)
    assert plain.spans == (Span("Low water"),)
    assert (b'tts:textOutline="#101010 10%"' in data) is (name == "imsc")
