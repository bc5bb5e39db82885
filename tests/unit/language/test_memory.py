"""What was translated before: kept, found again however it is worded, and carried in files."""

import io
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from dunlin.core.language.memory.pairs import Pair, alike
from dunlin.core.language.memory.tmx import read_tmx, written_tmx
from dunlin.core.messages import BadInput
from dunlin.store.memory import Memory

BELL = Pair("en", "de", "Hang it high by the door.", "Häng sie hoch an die Tür.", "Fog Bell")


@pytest.fixture
def memory(tmp_path: Path):
    opened = Memory(tmp_path / "memory.db")
    yield opened
    opened.close()


def test_a_damaged_memory_is_kept_aside_and_a_new_one_begun(tmp_path: Path) -> None:
    path = tmp_path / "memory.db"
    path.write_bytes(b"no database, but long enough to be taken for one " * 100)
    opened = Memory(path)
    assert opened.take_in([BELL]) == 1
    opened.close()
    [aside] = tmp_path.glob("memory.db.damaged-*")
    assert aside.read_bytes().startswith(b"no database")


def test_how_alike_sources_are() -> None:
    assert alike("Hang it\nhigh.", "Hang it high.") == 1
    assert alike("hang it high", "Hang it high!") == 0.99
    assert 0.7 < alike("Hang it high by the door.", "Hang it low by the door.") < 0.95
    assert alike("Hang it high.", "Twelve people came by boat.") < 0.4


def test_what_is_remembered_is_found_by_what_is_like_it(memory: Memory) -> None:
    memory.take_in(
        [BELL, Pair("en", "fr", BELL.source, "Accroche-la."), Pair("en", "de", "Fine.", "Gut.")]
    )
    [found] = memory.like("Hang it low by the door.", "en-GB", "de")
    assert found.pair.target == BELL.target
    assert found.alike < 1
    [exact] = memory.like("Hang it high\nby the door.", "en", "de-AT")
    assert exact.alike == 1
    assert memory.like("Twelve people came by boat.", "en", "de") == []
    assert memory.like("?!", "en", "de") == []


def test_scripts_without_spaces_are_found_by_their_characters(memory: Memory) -> None:
    memory.take_in([Pair("ja", "en", "古い霧鐘をまた吊るす", "They hang the old fog bell again.")])
    assert memory.like("古い霧鐘をまた鳴らす", "ja", "en")


def test_a_caption_is_remembered_once_as_it_was_confirmed_last(memory: Memory) -> None:
    memory.remember([(BELL, "t", "c")])
    memory.remember([(Pair("en", "de", BELL.source, "Hoch damit."), "t", "c")])
    assert [pair.target for pair in memory.pairs()] == ["Hoch damit."]
    memory.forget("t", ["c", "never"])
    assert memory.count() == 0
    assert memory.like(BELL.source, "en", "de") == []


def test_the_same_file_taken_in_twice_is_kept_once(memory: Memory) -> None:
    pairs = [BELL, BELL, Pair("en", "de", BELL.source, "Hoch damit.")]
    assert memory.take_in(pairs) == 2
    assert memory.take_in(pairs) == 0
    assert memory.count() == 2


def test_a_source_with_a_thousand_translations_tells_the_newest_few(memory: Memory) -> None:
    memory.take_in(Pair("en", "de", "Yes.", f"Ja {n}.", when_ms=n) for n in range(1000))
    assert len(memory.like("Yes.", "en", "de")) == 5


def test_a_word_is_found_in_both_languages_and_by_its_beginning(memory: Memory) -> None:
    memory.take_in([BELL, Pair("en", "de", "The fog comes in.", "Der Nebel kommt.")])
    for wanted in ("door", "tür", "the doo", "HOCH"):
        [found] = memory.with_words(wanted, "en", "de")
        assert found.pair == BELL
    assert memory.with_words("bell", "en", "de") == []
    assert memory.with_words('"; DROP', "en", "de") == []


texts = (
    st.text(st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=30)
    .map(lambda text: " ".join(text.split()))
    .filter(bool)
)
pairs = st.builds(
    Pair, st.sampled_from(["en", "pt-BR"]), st.sampled_from(["de", "ar"]), texts, texts,
    st.sampled_from(["", "Fog & Bell <2>"]), st.sampled_from([0, 1_700_000_000_000]),
)  # fmt: skip


@given(st.lists(pairs, max_size=5))
def test_a_file_gives_back_the_pairs_that_were_written(listed: list[Pair]) -> None:
    written = "".join(written_tmx(listed)).encode()
    found = list(read_tmx(io.BytesIO(written)))
    plain = {(p.source_language, p.target_language, p.source, p.target, p.origin) for p in found}
    kept = {
        (p.source_language, p.target_language, p.source, p.target, p.origin)
        for p in listed
        if all(c == "\t" or (c >= " " and c not in "\ufffe\uffff") for c in p.source + p.target)
    }
    assert kept <= plain


# What TMX 1.4b asks for, as far as we write it.
DTD = """
<!ELEMENT tmx (header, body)><!ATTLIST tmx version CDATA #FIXED "1.4">
<!ELEMENT header EMPTY><!ATTLIST header creationtool CDATA #REQUIRED creationtoolversion CDATA #REQUIRED
 segtype (block|paragraph|sentence|phrase) #REQUIRED o-tmf CDATA #REQUIRED adminlang CDATA #REQUIRED
 srclang CDATA #REQUIRED datatype CDATA #REQUIRED>
<!ELEMENT body (tu*)><!ELEMENT tu (prop*, tuv+)><!ATTLIST tu srclang CDATA #IMPLIED changedate CDATA #IMPLIED>
<!ELEMENT prop (#PCDATA)><!ATTLIST prop type CDATA #REQUIRED>
<!ELEMENT tuv (seg)><!ATTLIST tuv xml:lang CDATA #REQUIRED><!ELEMENT seg (#PCDATA)>
"""


def test_a_written_file_is_what_the_standard_asks_for() -> None:
    written = "".join(
        written_tmx([BELL, Pair("en", "fr", BELL.source, "Accroche-la.", "Fog Bell")])
    )
    tree = etree.fromstring(written.encode())
    assert etree.DTD(io.StringIO(DTD)).validate(tree)
    assert len(tree.findall(".//tu")) == 1
    assert len(tree.findall(".//tuv")) == 3


UNIT = '<tu><tuv xml:lang="EN_us"><seg>Hang <bpt i="1">&lt;b></bpt>it<ept i="1">&lt;/b></ept> <hi>high</hi>.</seg></tuv><tuv lang="de"><seg>Hoch\n damit.</seg></tuv></tu>'
HEAD = '<header srclang="en-US"/><body>'


@pytest.mark.parametrize("encoding", ["utf-8", "utf-16"])
def test_files_of_other_tools_are_read(encoding: str) -> None:
    text = f'<?xml version="1.0" encoding="{encoding}"?><!DOCTYPE tmx SYSTEM "tmx14.dtd"><tmx version="1.4">{HEAD}{UNIT}</body></tmx>'
    [found] = read_tmx(io.BytesIO(text.encode(encoding)), "other.tmx")
    assert found == Pair("EN-us", "de", "Hang it high.", "Hoch damit.", "other.tmx")


@pytest.mark.parametrize(
    "file",
    [
        b"", b"no xml", b"<html/>", f"<tmx>{HEAD}{UNIT}".encode(),
        b'<!DOCTYPE tmx [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;">]><tmx><body><tu><tuv lang="en"><seg>&b;</seg></tuv></tu>',
    ],
)  # fmt: skip
def test_what_is_no_memory_or_broken_is_told(file: bytes) -> None:
    with pytest.raises(BadInput):
        list(read_tmx(io.BytesIO(file)))


def test_no_entity_reads_another_file(tmp_path: Path) -> None:
    (tmp_path / "secret").write_text("secret words")
    file = f'<!DOCTYPE tmx [<!ENTITY x SYSTEM "{tmp_path}/secret">]><tmx><header srclang="en"/><body><tu><tuv lang="en"><seg>a &x;</seg></tuv><tuv lang="de"><seg>b &x;</seg></tuv></tu></body></tmx>'
    assert "secret" not in str(list(read_tmx(io.BytesIO(file.encode()))))
