"""The spelling list: names are found where something like them stands, and only there."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.speech import Word
from dunlin.core.speech.spelling import offers, with_marks_of

TERMS = ["Ilse Varga", "Quillan Point", "Tomas Brandt", "Edda Lindmark", "Orla"]


def words(text: str) -> list[Word]:
    return [Word(token, n * 300, n * 300 + 250) for n, token in enumerate(text.split())]


def offered(text: str, terms=TERMS) -> list[tuple[str, str]]:
    return [(offer.said, offer.term) for offer in offers(words(text), terms)]


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("This is Krillin Point, on the last day.", [("Krillin Point", "Quillan Point")]),
        ("I am Ilsevarga, and I kept this harbour.", [("Ilsevarga", "Ilse Varga")]),
        ("I am Tomas brand. I cast bells.", [("Tomas brand", "Tomas Brandt")]),
        ("from the old keeper, Edda Lynd mark.", [("Edda Lynd mark", "Edda Lindmark")]),
        ("quillan point lies past the Orla rocks", [("quillan point", "Quillan Point")]),
        ("It rang once, low, and the windows shook.", []),
        ("I am Ilse Varga, of Quillan Point.", []),
        ("", []),
    ],
)  # fmt: skip
def test_what_is_like_a_term_is_offered(text: str, found: list[tuple[str, str]]) -> None:
    assert offered(text) == found


def test_every_place_is_offered_and_each_word_once() -> None:
    found = offers(words("Ilsa Varga and Ilse Warga and Ilsa Varga"), TERMS)
    assert [(offer.first, offer.count) for offer in found] == [(0, 2), (3, 2), (6, 2)]


def test_without_terms_nothing_is_offered() -> None:
    assert offered("Ilsevarga", []) == []
    assert offered("Ilsevarga", ["", "  "]) == []


@pytest.mark.parametrize(
    ("term", "said", "put"),
    [("Orla", "“Orly,”", "“Orla,”"), ("Ilse Varga", "Ilsevarga.", "Ilse Varga.")],
)  # fmt: skip
def test_marks_stay_around_what_is_put_in(term: str, said: str, put: str) -> None:
    assert with_marks_of(term, said) == put


@given(
    st.text("aeiklmnorst IV.,", max_size=60),
    st.lists(st.text("aeiklmnor", min_size=1, max_size=9), max_size=4),
)
def test_offers_never_share_a_word(text: str, terms: list[str]) -> None:
    found = offers(words(text), terms)
    taken = [n for offer in found for n in range(offer.first, offer.first + offer.count)]
    assert len(taken) == len(set(taken))
    assert all(0 < offer.likeness <= 1 for offer in found)
