"""Term lists as files."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.language.terms.csv import read_terms_csv, written_terms_csv
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.messages import BadInput

words = (
    st.text(st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=12)
    .map(lambda text: " ".join(text.replace("|", "").split()).lstrip("'=+-@"))
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
