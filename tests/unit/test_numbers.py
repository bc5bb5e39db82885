"""Numbers as they are spoken."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech import Word
from dunlin.core.speech.numbers import numbers_in_words


def said(text: str, language: str = "en") -> str:
    return " ".join(word.text for word in numbers_in_words([Word(text, 0, 1000)], language))


@pytest.mark.parametrize(
    ("text", "language", "spoken"),
    [
        ("47", "en", "forty-seven"),
        ("(3,", "en", "(three,"),
        ("1,250.", "en", "one thousand two hundred and fifty."),
        ("1987", "en", "nineteen eighty-seven"),
        ("21st", "en", "twenty-first"),
        ("2.5", "en", "two point five"),
        ("47", "de", "siebenundvierzig"),
        ("12", "es-MX", "doce"),
        ("80", "fr-CH", "huitante"),
    ],
)
def test_numbers_are_written_out(text: str, language: str, spoken: str) -> None:
    assert said(text, language) == spoken


@pytest.mark.parametrize("text", ["$5", "007", "10:30", "B2", "5%", "3-1", "1st!x", "", "..."])
def test_what_is_more_than_a_number_stays(text: str) -> None:
    assert said(text) == text


def test_a_language_whose_numbers_are_not_known_is_left_as_it_is() -> None:
    assert said("47", "xh") == "47"
    assert said("21st", "de") == "21st"


@given(st.integers(0, 999_999_999), st.integers(0, 10_000), st.integers(1, 5_000))
def test_the_words_of_a_number_share_its_time(number: int, start: int, length: int) -> None:
    word = Word(str(number), start, start + length, 0.7, "Ann", begins=True)
    found = list(numbers_in_words([word], "en"))
    assert (found[0].start_ms, found[-1].end_ms) == (start, start + length)
    assert all(a.end_ms == b.start_ms for a, b in pairwise(found))
    assert [w.begins for w in found] == [True] + [False] * (len(found) - 1)
    assert {(w.confidence, w.speaker) for w in found} == {(0.7, "Ann")}
