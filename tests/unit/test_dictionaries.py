"""Words that no dictionary knows, in several languages."""

import pytest
import regex
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.text.dictionaries import (
    dictionary_for,
    languages_with_dictionaries,
    unknown_words,
)


def unknown(text: str, language: str, *known: str) -> list[str]:
    book = dictionary_for(language)
    assert book is not None
    return [text[start:end] for start, end in unknown_words(text, book, known)]


@pytest.mark.parametrize(
    ("language", "text", "wrong"),
    [
        ("en", "The harbour and the harbor aren’t one’s own, keepr.", ["keepr"]),
        ("en-US", "The harbour is gray.", ["harbour"]),
        ("en-GB", "The harbour is grey, the harbor not.", ["harbor"]),
        ("de", "Die Nebelglocke wiegt 412 Kilo, sagte die Wärterim.", ["Wärterim"]),
        ("de-AT", "Die Hafenmauer ist nas.", ["nas"]),
        ("fr", "L’homme d’aujourd’hui qu’il apele.", ["apele"]),
        ("it", "Dell’acqua, l'acqua, aqcua.", ["aqcua"]),
        ("ru", "Колокол висит высоко, колокл.", ["колокл"]),
    ],
)
def test_words_that_are_wrong_are_found_and_no_others(
    language: str, text: str, wrong: list[str]
) -> None:
    assert unknown(text, language) == wrong


def test_names_that_are_known_and_parts_of_addresses_are_no_faults() -> None:
    text = "Ask Ilse Varga or Quillan’s keeper at www.quillan2.exampel, 5km off."
    assert unknown(text, "en", "ilse", "varga", "quillan", "www") == ["exampel"]
    assert unknown("A well-kept fog-bell.", "en") == []


def test_suggestions_are_few_and_the_likeliest_come_first() -> None:
    book = dictionary_for("de")
    assert book is not None
    assert "Glocke" in book.suggestions("Glocek")
    assert len(book.suggestions("Hafn")) <= 6


def test_languages_without_a_dictionary_have_none() -> None:
    assert {"en", "de", "fr", "cs"} <= set(languages_with_dictionaries())
    assert dictionary_for("ja") is None
    assert dictionary_for("und") is None


@given(st.text(max_size=60), st.sampled_from(["en", "de", "cs"]))
def test_every_place_that_is_told_is_a_word_of_the_text(text: str, language: str) -> None:
    book = dictionary_for(language)
    assert book is not None
    last = 0
    for start, end in unknown_words(text, book):
        assert last <= start < end <= len(text)
        assert regex.search(r"\p{L}", text[start:end])
        last = end
