"""Transcripts as files: what is read, searched, printed, and brought back in."""

import io
import re

import docx
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.formats.model import FormatError
from dunlin.core.speech import Word
from dunlin.core.speech.transcript_files import (
    as_docx,
    as_html,
    as_json,
    as_text,
    words_of_html,
    words_of_json,
)
from dunlin.core.speech.words import in_order

WORDS = [
    Word("Who", 61_000, 61_300, 0.4, "Ilse", True),
    Word("rings?", 61_300, 61_700, 1.0, "Ilse"),
    Word("<Nobody>", 3_723_000, 3_723_400, 1.0, None, True, True),
]


def test_a_transcript_is_read_as_text() -> None:
    words = [
        Word("Who", 61_900, 62_000, 1, "Ilse", True), Word("rings?", 62_000, 62_400, 1, "Ilse"),
        Word("Nobody.", 3_723_000, 3_724_000, 1, None, True),
    ]  # fmt: skip
    assert as_text(words) == "[0:01:01] Ilse: Who rings?\n\n[1:02:03] Nobody.\n"
    assert as_text(words, times=False, speakers=False) == "Who rings?\n\nNobody.\n"
    assert as_text([]) == ""


# What can be printed and is no space: nothing is drawn to be thrown away.
texts = st.text(st.characters(exclude_categories=["C", "Z"]), min_size=1, max_size=12).filter(
    str.isprintable
)


@given(
    st.lists(
        st.builds(
            Word, texts, st.integers(0, 10**7), st.integers(0, 10**7), st.floats(0, 1),
            st.none() | texts, *[st.booleans()] * 5,
        ),
        max_size=8,
    )
)  # fmt: skip
def test_a_page_is_read_back_as_it_was(drawn: list[Word]) -> None:
    words = in_order(drawn)
    assert words_of_html(as_html(words, "</script> & Co", "en")) == words


def test_a_page_has_links_and_speakers_and_nothing_from_elsewhere() -> None:
    page = as_html(WORDS, "Quillan Point", "en").decode()
    assert re.findall(r'<a href="(#t\d+)" data-ms="\d+">([^<]+)</a>', page) == [
        ("#t61000", "0:01:01"), ("#t3723000", "1:02:03"),
    ]  # fmt: skip
    assert "<b>Ilse</b>" in page
    assert "&lt;Nobody&gt;" in page
    assert not re.search(r"""(src|href)=["']?(https?:|//)|url\(|@import""", page)


def test_a_time_in_the_text_goes_where_it_points() -> None:
    page = as_html([Word("[01:02.5]", 9000, 9000), Word("[sic]", 9000, 9100)], "A").decode()
    assert '<span data-ms="9000" data-to="62500">[01:02.5]</span>' in page
    assert '<span data-ms="9000">[sic]</span>' in page


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"<p>Hello",
        b"\0\1\2",
        b'<script id="dunlin-transcript">',
        as_html(WORDS, "x").replace(b"61000, ", b"6100"),
        as_html(WORDS, "x").replace(b'"Who"', b'"Who rings"'),
        as_html(WORDS, "x").replace(b"61000", b"-61000"),
        as_html(WORDS, "x")[:-3000],
    ],
)
def test_what_is_no_transcript_is_refused(data: bytes) -> None:
    with pytest.raises(FormatError, match="transcript"):
        words_of_html(data)


def test_a_document_says_when_who_and_what() -> None:
    document = docx.Document(io.BytesIO(as_docx(WORDS, "Quillan Point")))
    assert [p.text for p in document.paragraphs] == [
        "Quillan Point", "0:01:01  Ilse: Who rings?", "1:02:03  <Nobody>",
    ]  # fmt: skip
    bare = docx.Document(io.BytesIO(as_docx(WORDS, "Q", times=False, speakers=False)))
    assert [p.text for p in bare.paragraphs][1:] == ["Who rings?", "<Nobody>"]


def test_styles_are_shown_to_readers() -> None:
    words = [
        Word("The", 0, 100, begins=True), Word("old", 100, 200, italic=True),
        Word("bell", 200, 300, italic=True, bold=True), Word("rang.", 300, 400, underline=True),
    ]  # fmt: skip
    page = as_html(words, "Bell").decode()
    assert '<span data-ms="200" class="italic bold">bell</span>' in page
    document = docx.Document(io.BytesIO(as_docx(words, "Bell", times=False)))
    runs = document.paragraphs[1].runs
    assert "".join(run.text for run in runs) == "The old bell rang."
    assert [run.text for run in runs if run.italic] == ["old", "bell"]
    assert [run.text.strip() for run in runs if run.bold] == ["bell"]
    assert [run.text for run in runs if run.underline] == ["rang."]


def test_a_transcript_as_json_comes_back_the_same() -> None:
    words = (
        Word("Hark,", 100, 300, 0.5, "Ilse"),
        Word("the", 300, 420),
        Word("bell", 420, 900, bold=True),
    )
    assert words_of_json(as_json(words, "en")) == (words, "en")
    assert b"confidence" not in as_json(words[1:])


@pytest.mark.parametrize(("length", "is_read"), [(80, True), (81, False)])
def test_a_name_is_no_longer_than_one_that_can_be_typed(length: int, is_read: bool) -> None:
    named = [Word("Who", 0, 300, speaker="I" * length)]
    for read, data in ((words_of_html, as_html(named, "T")), (words_of_json, as_json(named, "en"))):
        if is_read:
            read(data)
        else:
            with pytest.raises(FormatError):
                read(data)
