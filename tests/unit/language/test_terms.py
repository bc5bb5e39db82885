"""Term lists as files."""

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from dunlin.core.language.terms.csv import read_terms_csv, written_terms_csv
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.language.terms.tbx import read_tbx, written_tbx
from dunlin.core.messages import BadInput
from dunlin.core.text.xml import in_xml

# What ISO 30042:2019 asks of TBX-Basic in the style DCA, as far as term lists use it.
TBX_BASIC = etree.RelaxNG(
    etree.fromstring(b"""
<grammar xmlns="http://relaxng.org/ns/structure/1.0" ns="urn:iso:std:iso:30042:ed-2">
<start><element name="tbx">
  <attribute name="type"><value>TBX-Basic</value></attribute>
  <attribute name="style"><value>dca</value></attribute>
  <attribute name="xml:lang"/>
  <element name="tbxHeader"><element name="fileDesc"><element name="sourceDesc">
    <oneOrMore><element name="p"><text/></element></oneOrMore></element></element></element>
  <element name="text"><element name="body"><zeroOrMore><ref name="concept"/></zeroOrMore></element></element>
</element></start>
<define name="concept"><element name="conceptEntry"><attribute name="id"/>
  <optional><ref name="note"/></optional>
  <oneOrMore><element name="langSec"><attribute name="xml:lang"/>
    <oneOrMore><element name="termSec"><element name="term"><text/></element>
      <optional><element name="termNote"><attribute name="type"><value>administrativeStatus</value></attribute>
        <choice><value>preferredTerm-admn-sts</value><value>admittedTerm-admn-sts</value>
          <value>deprecatedTerm-admn-sts</value><value>supersededTerm-admn-sts</value></choice></element></optional>
      <optional><ref name="note"/></optional>
    </element></oneOrMore></element></oneOrMore></element></define>
<define name="note"><element name="note"><text/></element></define>
</grammar>""")
)

words = (
    st.text(st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=12)
    .map(lambda text: " ".join(in_xml(text).replace("|", "").split()).lstrip("'=+-@ "))
    .filter(bool)
)
by_language = st.dictionaries(
    st.sampled_from(["de", "fr-CA", "ja"]),
    st.lists(words, min_size=1, max_size=2).map(tuple),
    max_size=2,
)
entries = st.builds(
    TermEntry, term=words, language=st.sampled_from(["en", "cy"]), translations=by_language,
    forbidden=by_language, as_written=st.booleans(), note=st.one_of(st.just(""), words),
)  # fmt: skip


@given(st.lists(entries, max_size=4))
def test_a_file_gives_back_the_terms_that_were_written(listed: list[TermEntry]) -> None:
    assert list(read_terms_csv(written_terms_csv(listed), "en")) == listed


@given(st.lists(entries, max_size=4))
def test_a_tbx_file_gives_back_the_terms_that_were_written(listed: list[TermEntry]) -> None:
    written = "".join(written_tbx(listed)).encode()
    TBX_BASIC.assertValid(etree.fromstring(written))
    assert list(read_tbx(io.BytesIO(written), "en")) == listed


def test_tbx_of_the_edition_of_2008_is_read_with_the_wanted_language_first() -> None:
    """ISO 30042:2008: `martif`, term groups, the status of a term."""
    text = """<?xml version="1.0" encoding="UTF-16"?>
    <martif type="TBX-Basic" xml:lang="de"><text><body><termEntry id="a">
      <descrip type="definition">keeps a harbour</descrip>
      <langSet xml:lang="de"><tig><term>Wärterin</term></tig>
        <ntig><termGrp><term>Wächterin</term>
          <termNote type="administrativeStatus">deprecatedTerm-admn-sts</termNote></termGrp></ntig></langSet>
      <langSet xml:lang="en"><tig><term>keeper</term></tig><tig><term>warden</term></tig></langSet>
    </termEntry><termEntry id="b"/></body></text></martif>"""
    [entry] = read_tbx(io.BytesIO(text.encode("utf-16")), "en")
    assert (entry.term, entry.language, entry.note) == ("keeper", "en", "keeps a harbour; warden")
    assert entry.translations == {"de": ("Wärterin",)}
    assert entry.forbidden == {"de": ("Wächterin",)}


@pytest.mark.parametrize(
    ("text", "code"),
    [
        (b"<html/>", "glossary.no-tbx"),
        (b"", "glossary.broken-tbx"),
        (b"<tbx><text><body><conceptEntry>", "glossary.broken-tbx"),
        (
            b"<tbx><conceptEntry><langSec xml:lang='en'><termSec><term>"
            + b"x" * 300
            + b"</term></termSec></langSec></conceptEntry></tbx>",
            "glossary.concept",
        ),
    ],
)
def test_what_is_no_tbx_is_told(text: bytes, code: str) -> None:
    with pytest.raises(BadInput) as told:
        list(read_tbx(io.BytesIO(text), "en"))
    assert told.value.message.code == code


def test_entities_of_a_hostile_file_are_not_resolved() -> None:
    bomb = (
        '<!DOCTYPE tbx [<!ENTITY a "ha"><!ENTITY b "&a;&a;"><!ENTITY c SYSTEM "file:///etc/hostname">]>'
        "<tbx><conceptEntry><langSec xml:lang='en'><termSec><term>bell &b;&c;</term></termSec></langSec></conceptEntry></tbx>"
    )
    [entry] = read_tbx(io.BytesIO(bomb.encode()), "en")
    assert entry.term == "bell"


def test_no_field_is_a_formula() -> None:
    written = written_terms_csv([TermEntry(term="=1+1", language="en", note="@x")])
    assert "'=1+1" in written
    [back] = read_terms_csv(written, "en")
    assert (back.term, back.note) == ("=1+1", "@x")


@pytest.mark.parametrize("mark", [",", ";", "\t"])
def test_lists_of_other_programs_are_read(mark: str) -> None:
    text = "\ufeff" + f"Term{mark}de{mark}not de\npilot{mark}Lotse | Hafenlotse{mark}Pilot\n\n"
    [entry] = read_terms_csv(text, "en")
    assert entry.translations == {"de": ("Lotse", "Hafenlotse")}
    assert entry.forbidden == {"de": ("Pilot",)}
    assert entry.language == "en"


@pytest.mark.parametrize("text", ["", "word,de\na,b", "term,not a tag!\na,b"])
def test_what_is_no_list_is_told(text: str) -> None:
    with pytest.raises(BadInput):
        list(read_terms_csv(text, "en"))
