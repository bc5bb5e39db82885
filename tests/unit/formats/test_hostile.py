"""What a file or a request may say to do harm: readers refuse or bound it, writers let nothing of it out
of the place they put it in."""

import re
from dataclasses import asdict

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree
from pydantic import TypeAdapter, ValidationError

from dunlin.core.captions import Caption, Operation, Placement, Span
from dunlin.core.captions.bounds import MOST_CHARACTERS, MOST_MS, without_controls
from dunlin.core.formats import FORMATS, READABLE, Context, Document, FormatError, read_file
from dunlin.core.formats.registry import written
from dunlin.core.timecode import FrameRate

CONTEXT = Context(FrameRate(25))
SRT = "1\n00:00:01,000 --> 00:00:02,000\n"
VTT = "WEBVTT\n\n00:01.000 --> 00:02.000\n"
ASS = (
    "[Script Info]\nScriptType: v4.00+\n\n[Events]\n"
    "Format: Layer, Start, End, Style, Text\nDialogue: 0,0:00:01.00,0:00:02.00,Default,"
)
TTML = (
    '<tt xmlns="http://www.w3.org/ns/ttml" xmlns:tts="http://www.w3.org/ns/ttml#styling" '
    'xml:lang="en"><head>{head}</head><body><div>{body}</div></body></tt>'
)
DIGITS = "9" * 5000


def circle_of_styles(count: int) -> str:
    """Styles that each name the next one twice: told one by one, as many as two to their number."""
    names = "".join(f'<style xml:id="s{n}" style="s{n + 1} s{n + 1}"/>' for n in range(count))
    last = f'<style xml:id="s{count}" style="s0" tts:color="red"/>'
    body = '<p begin="1s" end="2s" style="s0">Low water</p>'
    return TTML.format(head=f"<styling>{names}{last}</styling>", body=body)


HOSTILE = {
    "styles.ttml": circle_of_styles(64),
    "deep.ttml": TTML.format(
        head="", body=f'<p begin="1s" end="2s">{"<span>" * 3000}x{"</span>" * 3000}</p>'
    ),
    "nowhere.ttml": TTML.format(
        head='<layout><region xml:id="r" tts:origin="nan% inf%" tts:extent="9e999% 1%"/></layout>',
        body=f'<p region="r" begin="1s" end="{"9" * 400}s">x</p><p begin="1s" end="2s">y</p>',
    ),
    "classes.vtt": VTT + "<c.a>x" * 30_000,
    "names.vtt": VTT + f"<c.{'.'.join(f'k{n}' for n in range(30_000))}>x",
    "open.vtt": VTT + "<" * 30_000,
    "hours.vtt": f"WEBVTT\n\n{DIGITS}:00:01.000 --> {DIGITS}:00:02.000\nx\n\n" + VTT[8:] + "y",
    "late.srt": "1\n999999999:00:01,000 --> 999999999:00:02,000\nx\n",
    "tags.srt": SRT + "<b><i>x" * 30_000,
    "place.srt": f"{SRT}{{\\an{DIGITS}}}x",
    "place.ass": f"{ASS}{{\\an{DIGITS}\\pos({DIGITS},1)\\p{DIGITS}}}x\n",
    "codes.ass": ASS + "{\\b1}x{\\i1}" * 30_000 + "\n",
    "digits.lrc": "[00:01.00]x\n[00:0\N{SUPERSCRIPT TWO}.00]y\n[\u0660\u0661:00.00]z\n",
    "digits.csv": f"in,out,text\n{DIGITS},2,x\n00:00:01.000,00:00:02.000,y\n",
    "controls.srt": SRT + "a\x01b\x0bc\x7fd\x85e",
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_files_are_read_into_captions_as_all_others(name: str) -> None:
    captions = read_file(HOSTILE[name].encode(), name, CONTEXT).document.captions
    assert captions
    assert_in_bounds(captions)


def assert_in_bounds(captions: tuple[Caption, ...]) -> None:
    """The models of the wire take them as they are."""
    for caption in captions:
        assert TypeAdapter(Caption).validate_python(asdict(caption)) == caption


def test_a_caption_without_end_is_parted_with_nothing_lost() -> None:
    words = "surf " * 20_000
    reading = read_file((SRT + words).encode(), "long.srt", CONTEXT)
    captions = reading.document.captions
    assert "".join(caption.text for caption in captions) == words
    assert max(len(caption.text) for caption in captions) <= MOST_CHARACTERS
    assert (captions[0].in_ms, captions[-1].out_ms) == (1000, 2000)
    assert any(oddity.message.code == "oddities.endless" for oddity in reading.oddities)


WRONG = [
    {"spans": [{"text": "x", "colour": "#FF0000;background:url(http://ternholm.test)"}]},
    {"spans": [{"text": "x", "background": "red"}]},
    {"spans": [{"text": "x" * (MOST_CHARACTERS + 1)}]},
    {"in_ms": -1},
    {"out_ms": MOST_MS + 1},
    {"out_ms": 2**63},
    {"out_ms": 10**40},
    {"placement": {"x": float("nan")}},
    {"placement": {"y": float("inf")}},
    {"placement": {"width": 1e9}},
]


@pytest.mark.parametrize("wrong", WRONG, ids=str)
def test_no_edit_makes_what_is_no_caption(wrong: dict) -> None:
    operations: TypeAdapter[Operation] = TypeAdapter(Operation)
    put = {"id": "c1", "in_ms": 0, "out_ms": 1000, "spans": [{"text": "x"}]} | wrong
    with pytest.raises(ValidationError):
        operations.validate_python({"kind": "insert-captions", "captions": [put]})
    with pytest.raises(ValidationError):
        operations.validate_python(
            {"kind": "change-captions", "changes": [{"caption": "c1"} | wrong]}
        )


# What could end a line, a tag, a field, a block, a string or a document, and begin another one.
PIECES = st.sampled_from(
    ["a", " ", "\n", "\n\n", "\r", "\u2028", "-->", "00:00:01.000 --> 00:00:02.000", "<", ">", "</c>",
     "&", "&lt;", '"', "'", "{", "}", "\\", "\\N", "\\p1", ",", ";", "NOTE", "STYLE", "[Events]",
     "Dialogue: 0,0:00:01.00,0:00:02.00,Default,,0,0,0,,x", "]]>", "<script>", "::cue { color: red }",
     "Comment: x", "2\n00:00:03,000 --> 00:00:04,000"]
)  # fmt: skip
TEXTS = st.lists(PIECES, max_size=6).map("".join)
WORDS = TEXTS.map(lambda text: f"w{' '.join(text.split())}w")
NAMES = [
    "webvtt:id", "webvtt:notes", "webvtt:settings", "ass:codes", "ass:remark", "ass:drawing",
    "ass:layer", "ass:effect", "ass:marginv", "ttml:style", "ttml:region",
]  # fmt: skip
EXTRAS = st.dictionaries(st.sampled_from(NAMES), TEXTS, max_size=3).map(
    lambda kept: tuple(kept.items())
)
SPAN_EXTRAS = st.dictionaries(
    st.sampled_from(["webvtt:class", "webvtt:time", "ass:codes", "ass:k"]), TEXTS, max_size=2
).map(lambda kept: tuple(kept.items()))
SPANS = st.builds(
    Span,
    text=WORDS,
    italic=st.booleans(),
    colour=st.sampled_from([None, "#FF0000"]),
    language=st.none() | TEXTS,
    voice=st.none() | TEXTS,
    ruby=st.none() | TEXTS,
    extras=SPAN_EXTRAS,
)
CAPTIONS = st.builds(
    Caption,
    id=st.just("c1"),
    in_ms=st.just(1000),
    out_ms=st.just(2000),
    spans=st.lists(SPANS, min_size=1, max_size=2).map(tuple),
    speaker=st.none() | TEXTS,
    placement=st.none() | st.just(Placement(anchor="top", x=0.25)),
    style=st.none() | TEXTS,
    extras=EXTRAS,
)
FILE_NAMES = [
    "webvtt:head", "webvtt:styles", "webvtt:regions", "webvtt:notes", "ass:comments", "ttml:regions",
]  # fmt: skip
DOCUMENTS = st.builds(
    Document,
    captions=st.tuples(CAPTIONS),
    language=st.just("en"),
    extras=st.dictionaries(st.sampled_from(FILE_NAMES), TEXTS, max_size=2).map(
        lambda kept: tuple(kept.items())
    ),
)


@given(
    document=DOCUMENTS, name=st.sampled_from(sorted(set(READABLE) - {"text", "stl", "scc", "json"}))
)
def test_nothing_that_is_kept_makes_another_caption(document: Document, name: str) -> None:
    data = written(document, FORMATS[name], CONTEXT)
    captions = read_file(data, f"x{FORMATS[name].ENDINGS[0]}", CONTEXT, name).document.captions
    assert [(c.in_ms, c.out_ms) for c in captions][:1] == [(1000, 2000)] or name == "lrc"
    assert len(captions) == 1


@given(document=DOCUMENTS)
def test_the_page_of_a_transcript_holds_words_and_its_own_marks_alone(document: Document) -> None:
    page = etree.fromstring(written(document, FORMATS["html"], CONTEXT), etree.HTMLParser())
    elements = {element.tag for element in page.iter() if isinstance(element.tag, str)}
    assert elements <= {
        "html", "head", "meta", "title", "style", "body", "h1", "p", "time", "span", "b", "ruby",
        "rt", "br",
    }  # fmt: skip
    for element in page.iter():
        assert set(element.attrib) <= {"lang", "charset", "name", "content", "id", "datetime", "class", "style"}  # fmt: skip
        style = element.get("style") or ""
        assert re.fullmatch(r"(?:[a-z-]+:[#\w]+;)*", style), style


@given(text=st.text())
def test_a_text_without_controls_stays_as_it_is(text: str) -> None:
    once = without_controls(text)
    assert without_controls(once) == once
    assert not re.search("[\x00-\x08\x0b-\x1f\x7f\ud800-\udfff]", once)
    assert (
        once.split()
        == "".join(
            c for c in text.replace("\r\n", "\n").replace("\r", "\n") if without_controls(c)
        ).split()
    )


def test_broken_words_of_another_encoding_are_no_error() -> None:
    with pytest.raises(FormatError):
        read_file(b"\xff\xfe\x00\xd8\x00\xd8", "x.srt", CONTEXT)
