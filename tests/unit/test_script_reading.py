"""Scripts from clients: who speaks, what is said and what is described, from any document."""

import io
import itertools
import zipfile

import docx
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.formats.model import FormatError
from dunlin.core.scripts import captions_of_script, read_script, text_of_document
from dunlin.core.specs import shipped_specs
from dunlin.core.timecode import FrameRate

SPEC = shipped_specs()["streaming"]
RATE = FrameRate(25)
SCRIPT = """\
[waves]
ILSE: When the fog comes in, there is nothing to see.
And very little to hear.

Tomas Brandt: (quietly) I cast bells.
Note the year — 1931 — it matters.

EDDA — Was it loud?
TOMAS:

It was [laughs] low.
(a ship answers)
"""


def passages(text: str, **how) -> list[tuple[str | None, str]]:
    return [(passage.speaker, passage.text) for passage in read_script(text, **how).passages]


def test_who_speaks_what_is_said_and_what_is_described() -> None:
    assert passages(SCRIPT) == [
        (None, "[waves]"),
        ("ILSE", "When the fog comes in, there is nothing to see."),
        ("ILSE", "And very little to hear."),
        ("Tomas Brandt", "[quietly] I cast bells."),
        ("Tomas Brandt", "Note the year — 1931 — it matters."),
        ("EDDA", "Was it loud?"),
        ("TOMAS", "It was [laughs] low."),
        (None, "[a ship answers]"),
    ]
    script = read_script(SCRIPT)
    assert script.speakers == {"ILSE": 2, "Tomas Brandt": 2, "EDDA": 1, "TOMAS": 1}
    assert script.descriptions == 4


def test_paragraphs_flow_and_directions_are_dropped() -> None:
    assert passages(SCRIPT, lines=False, descriptions=False) == [
        ("ILSE", "When the fog comes in, there is nothing to see. And very little to hear."),
        ("Tomas Brandt", "I cast bells. Note the year — 1931 — it matters."),
        ("EDDA", "Was it loud?"),
        ("TOMAS", "It was low."),
    ]


def test_names_can_be_left_alone() -> None:
    assert passages("ILSE: Who rings?", names=False) == [(None, "ILSE: Who rings?")]


@pytest.mark.parametrize(
    "line",
    ["It was like this: loud.", "He said — and meant it — no.", "at 10:30 the bell rang", "http://x.example",
     "One evening, one bell: that was all."],
)  # fmt: skip
def test_what_names_nobody_is_said(line: str) -> None:
    assert passages(line) == [(None, line)]


@given(st.text("abAB :—[]()\n*.", max_size=80), st.booleans())
def test_every_word_of_a_script_without_names_stays(text: str, lines: bool) -> None:
    said = " ".join(p.text for p in read_script(text, lines=lines, names=False).passages)
    letters = [c for c in text if c.isalpha()]
    assert [c for c in said if c.isalpha()] == letters


@given(st.booleans())
def test_captions_of_a_script_follow_each_other(lines: bool) -> None:
    captions = captions_of_script(read_script(SCRIPT, lines=lines), SPEC, RATE, lines=lines)
    assert [c.speaker for c in captions][1] == "ILSE"
    for before, after in itertools.pairwise(captions):
        assert before.duration_ms > 0
        assert before.out_ms < after.in_ms
    assert all(len(line) <= 42 for caption in captions for line in caption.lines)
    words = " ".join(p.text for p in read_script(SCRIPT, lines=lines).passages).split()
    assert " ".join(caption.text for caption in captions).split() == words


def docx_of(*paragraphs: str) -> bytes:
    document, data = docx.Document(), io.BytesIO()
    for paragraph in paragraphs:
        document.add_paragraph(paragraph)
    row = document.add_table(rows=1, cols=2).rows[0]
    row.cells[0].text, row.cells[1].text = "EDDA", "I am late."
    document.save(data)
    return data.getvalue()


def odt_of(*paragraphs: str) -> bytes:
    text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0"
    office = "urn:oasis:names:tc:opendocument:xmlns:office:1.0"
    inner = "".join(f"<t:p>{p}</t:p>" for p in paragraphs)
    content = f'<o:body xmlns:o="{office}" xmlns:t="{text}">{inner}</o:body>'
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w") as package:
        package.writestr("mimetype", "application/vnd.oasis.opendocument.text")
        package.writestr("content.xml", content)
    return data.getvalue()


def test_documents_give_their_text() -> None:
    assert text_of_document(docx_of("ILSE: Ring", "it."), "a.docx").split("\n") == [
        "ILSE: Ring", "it.", "EDDA: I am late.",
    ]  # fmt: skip
    spaced = odt_of("Ring<t:s t:c='2'/><t:span>the</t:span><t:line-break/>bell.", "Ærlig")
    assert text_of_document(spaced, "a.odt") == "Ring  the\nbell.\nÆrlig"
    rtf = rb"{\rtf1\ansi\ansicpg1252 Ring the b\'e9ll.\par {\b Loud}, \u8212?no.\par}"
    assert text_of_document(rtf, "a.rtf").split("\n")[:2] == ["Ring the béll.", "Loud, —no."]
    assert text_of_document("Glocken läuten".encode("cp1252"), "a.txt") == "Glocken läuten"


@pytest.mark.parametrize(
    ("data", "name"),
    [
        (b"", "a.txt"),
        (b"  \n ", "a.txt"),
        (b"PK\x03\x04 not a package", "a.docx"),
        (docx_of("Ring")[:600], "a.docx"),
        (b"\xd0\xcf\x11\xe0 an older or a locked document", "a.docx"),
        (odt_of("<t:p>"), "a.odt"),
        (odt_of(""), "a.odt"),
        (rb"{\rtf1 }", "a.rtf"),
        (bytes(range(256)) * 40, "a.txt"),
    ],
)
def test_what_is_no_script_is_said_in_one_sentence(data: bytes, name: str) -> None:
    with pytest.raises(FormatError) as told:
        text_of_document(data, name)
    assert "\n" not in str(told.value)


def test_a_package_that_grows_beyond_measure_is_not_opened() -> None:
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("content.xml", b"0" * (65 * 2**20))
    with pytest.raises(FormatError, match="too large"):
        text_of_document(data.getvalue(), "a.odt")
