"""Which way texts run."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import plain_text, spans_of
from dunlin.core.styles.directed import directed, undirected
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


@given(
    st.lists(st.text("אבab 1!.\u200f\u200e", max_size=6), max_size=3),
    st.sampled_from(("he", "en", "und")),
)
def test_marks_of_direction_are_taken_away_as_they_were_given(lines: list[str], tag: str) -> None:
    spans = spans_of("\n".join(lines))
    marked = directed(spans, tag)
    text = plain_text(marked)
    if text.strip("\n \u200f\u200e1!."):
        base = base_direction("\n".join(line.lstrip("\u200f\u200e") for line in lines), tag)
        assert all((first_strong(line) or base) == base for line in text.split("\n"))
    assert undirected(marked, tag) == spans
