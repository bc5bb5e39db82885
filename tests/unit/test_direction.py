"""Which way texts run."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.text.direction import base_direction, direction_of_language, first_strong


@pytest.mark.parametrize(
    ("tag", "direction"),
    [("en", "ltr"), ("ar", "rtl"), ("he-IL", "rtl"), ("fa", "rtl"), ("az-Arab", "rtl"),
     ("ur-Latn", "ltr"), ("ja", "ltr")],
)  # fmt: skip
def test_a_language_s_direction_is_that_of_its_script(tag: str, direction: str) -> None:
    assert direction_of_language(tag) == direction


@pytest.mark.parametrize(
    ("text", "language", "direction"),
    [
        ("NATO قالت نعم", "ar", "rtl"),
        ("Fog bell!", "ar", "ltr"),
        ("... 12!", "ar", "rtl"),
        ("قالت", "en", "rtl"),
        ("קול said it", "en", "ltr"),
        ("", "en", "ltr"),
    ],
)
def test_a_text_runs_as_its_language_does_where_it_has_letters_of_it(
    text: str, language: str, direction: str
) -> None:
    assert base_direction(text, language) == direction


@given(st.text("aב1. ", max_size=12), st.sampled_from(["en", "he"]))
def test_letters_of_one_direction_alone_decide(text: str, language: str) -> None:
    there = {first_strong(letter) for letter in text} - {None}
    if len(there) == 1:
        assert {base_direction(text, language)} == there
    else:
        assert base_direction(text, language) == direction_of_language(language)
