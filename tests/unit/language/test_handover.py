"""A translation handed over and taken back: nothing is lost on the way, and what is otherwise is told."""

import io
from pathlib import Path

import docx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from dunlin.core.language.handover.model import HandedOver, Row, Unit, changes_of
from dunlin.core.language.handover.tables import docx_of, read_csv, read_docx, written_csv
from dunlin.core.language.handover.xliff import read_xliff, written_xliff
from dunlin.core.messages import BadInput, Told
from dunlin.core.text.xml import in_xml

lines = (
    st.text(
        st.characters(exclude_categories=("Cs", "Cc", "Zl", "Zp", "Zs"), include_characters=" "),
        max_size=20,
    )
    .map(lambda text: " ".join(in_xml(text).split()))
    .filter(bool)
)
texts = st.lists(lines, min_size=1, max_size=3).map("\n".join)


@st.composite
def handed_over(draw: st.DrawFn) -> HandedOver:
    states = st.sampled_from(["initial", "translated", "final"])
    units = [
        Unit(
            f"c{n}", n * 2000, n * 2000 + 1500, draw(texts), draw(st.one_of(st.just(""), texts)),
            draw(states), draw(st.one_of(st.none(), st.integers(-5, 99))), draw(st.sampled_from(["", "Ilse"])),
        )
        for n in range(draw(st.integers(1, 4)))
    ]  # fmt: skip
    return HandedOver("en", "de-AT", draw(lines), units)


def xliff(given: HandedOver) -> bytes:
    return "".join(written_xliff(given)).encode()


@given(handed_over())
def test_xliff_is_as_the_standard_says_and_gives_back_what_was_handed_over(
    given: HandedOver,
) -> None:
    data = xliff(given)
    XLIFF.assertValid(etree.fromstring(data))
    back = read_xliff(io.BytesIO(data))
    assert (back.language, back.target) == ("en", "de-AT")
    assert list(back.rows) == [
        Row(one.source, one.target, one.id, one.in_ms, one.state) for one in given.units
    ]
    assert changes_of(given.units, back.rows) == ([], [])


@settings(max_examples=25)
@given(handed_over())
def test_documents_of_two_columns_give_back_what_was_handed_over(given: HandedOver) -> None:
    for back in (read_csv(written_csv(given).encode()), read_docx(docx_of(given))):
        assert [(row.source, row.target, row.in_ms) for row in back.rows] == [
            (one.source, one.target, one.in_ms) for one in given.units
        ]
        assert back.target.lower() == "de-at"
        assert changes_of(given.units, back.rows)[1] == []


def test_what_is_read_from_right_to_left_is_written_so() -> None:
    unit = Unit("a", 0, 1000, "Hang it high.", "علّقها عاليًا.")
    [_, row] = (
        docx.Document(io.BytesIO(docx_of(HandedOver("en", "ar", "Bell", [unit])))).tables[0].rows
    )
    turned = [bool(cell._tc.findall(".//{*}pPr/{*}bidi")) for cell in row.cells]
    assert turned == [False, False, True]


UNITS = [
    Unit("a", 0, 1000, "Hang it\nhigh.", "", "initial", 20),
    Unit("b", 2000, 3000, "It weighs 412 kilos.", "Sie wiegt 412 Kilo.", "translated"),
    Unit("c", 4000, 5000, "Hang it\nhigh.", "Häng sie hoch.", "final"),
]


def test_what_differs_is_told_and_what_the_source_says_by_now() -> None:
    rows = [
        Row("Hang it high.", "Hoch damit.", "a"),
        Row("It weighs 399 kilos.", "Sie wiegt 399 Kilo.", "b", state="final"),
        Row("Hang it high.", "", "c"),
        Row("Gone by now.", "Nicht mehr da.", "z"),
    ]
    changes, lost = changes_of(UNITS, rows)
    assert [(one.caption, one.before, one.after) for one in changes] == [
        ("a", "", "Hoch damit."),
        ("b", "Sie wiegt 412 Kilo.", "Sie wiegt 399 Kilo."),
    ]
    assert [(one.source_changed, one.is_confirmed) for one in changes] == [
        (False, False),
        (True, True),
    ]
    assert [row.target for row in lost] == ["Nicht mehr da."]


def test_rows_without_an_id_are_found_by_their_time_or_by_what_they_say() -> None:
    rows = [
        Row("Hang it high.", "Nach oben.", in_ms=4000),
        Row("It weighs 412 kilos.", "412 Kilo."),
        Row("Hang it high.", "Welche von beiden?"),
    ]
    changes, lost = changes_of(UNITS, rows)
    assert [(one.caption, one.after) for one in changes] == [
        ("b", "412 Kilo."),
        ("c", "Nach oben."),
    ]
    assert [row.target for row in lost] == ["Welche von beiden?"]


def test_xliff_of_other_tools_is_read() -> None:
    """Segments, inline codes, marks, a state that is reviewed, indents, in UTF-16."""
    text = """<?xml version="1.0" encoding="UTF-16"?>
    <xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de">
      <file id="f"><group id="g"><unit id="caption-b"><originalData><data id="d">&lt;b></data></originalData>
        <segment state="reviewed"><source>It <pc id="1">weighs</pc>
             </source><target>Sie <mrk id="m" type="term">wiegt</mrk> </target></segment>
        <ignorable><source> </source></ignorable>
        <segment state="final"><source>412 kilos.</source><target>412<ph id="2" dataRef="d"/> Kilo.</target></segment>
      </unit></group></file></xliff>"""
    [row] = read_xliff(io.BytesIO(text.encode("utf-16"))).rows
    assert (row.id, row.state) == ("b", "translated")
    assert row.target.split() == ["Sie", "wiegt", "412", "Kilo."]


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"<html/>", "handover.no-xliff"),
        (
            b"<xliff xmlns='urn:oasis:names:tc:xliff:document:1.2' version='1.2'/>",
            "handover.other-xliff",
        ),
        (b"<xliff xmlns='urn:oasis:names:tc:xliff:document:2.0'><file>", "handover.broken-xliff"),
        (b"", "handover.broken-xliff"),
    ],
)
def test_what_is_no_xliff_is_told(data: bytes, code: str) -> None:
    with pytest.raises(BadInput) as told:
        read_xliff(io.BytesIO(data))
    assert told.value.message.code == code


def test_tables_that_are_none_are_told(tmp_path: Path) -> None:
    plain = docx.Document()
    plain.add_paragraph("No table here.")
    plain.save(str(tmp_path / "plain.docx"))
    for read, data, code in [
        (read_csv, b"a,b\n1,2\n", "handover.no-columns"),
        (read_csv, b"", "files.empty"),
        (read_docx, (tmp_path / "plain.docx").read_bytes(), "handover.no-table"),
        (read_docx, b"PK and nothing", "scripts.damaged"),
    ]:
        with pytest.raises(Told) as told:
            read(data)
        assert told.value.message.code == code


# What XLIFF 2.0 (OASIS, 2014) asks, as far as a translation uses it: core, metadata and size restriction.
XLIFF = etree.RelaxNG(
    etree.fromstring(b"""
<grammar xmlns="http://relaxng.org/ns/structure/1.0" ns="urn:oasis:names:tc:xliff:document:2.0"
  xmlns:mda="urn:oasis:names:tc:xliff:metadata:2.0" xmlns:slr="urn:oasis:names:tc:xliff:sizerestriction:2.0"
  datatypeLibrary="http://www.w3.org/2001/XMLSchema-datatypes">
<start><element name="xliff"><attribute name="version"><value>2.0</value></attribute>
  <attribute name="srcLang"><data type="language"/></attribute>
  <optional><attribute name="trgLang"><data type="language"/></attribute></optional>
  <oneOrMore><element name="file"><attribute name="id"><data type="NMTOKEN"/></attribute>
    <optional><attribute name="original"/></optional>
    <optional><element name="slr:profiles"><attribute name="generalProfile"/><attribute name="storageProfile"/></element></optional>
    <oneOrMore><ref name="unit"/></oneOrMore></element></oneOrMore></element></start>
<define name="unit"><element name="unit"><attribute name="id"><data type="NMTOKEN"/></attribute>
  <optional><attribute name="slr:sizeRestriction"><data type="nonNegativeInteger"/></attribute></optional>
  <optional><element name="mda:metadata"><oneOrMore><element name="mda:metaGroup">
    <optional><attribute name="category"/></optional>
    <oneOrMore><element name="mda:meta"><attribute name="type"/><text/></element></oneOrMore>
  </element></oneOrMore></element></optional>
  <optional><element name="notes"><oneOrMore><element name="note"><optional><attribute name="category"/></optional><text/></element></oneOrMore></element></optional>
  <oneOrMore><element name="segment"><optional><attribute name="state">
    <choice><value>initial</value><value>translated</value><value>reviewed</value><value>final</value></choice></attribute></optional>
    <element name="source"><optional><attribute name="xml:space"/></optional><text/></element>
    <optional><element name="target"><optional><attribute name="xml:space"/></optional><text/></element></optional>
  </element></oneOrMore></element></define>
</grammar>""")
)
