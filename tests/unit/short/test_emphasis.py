"""Which words weigh, and which have an emoji of their own."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.short.emoji import emoji_for_words, emoji_named, languages_of_emoji
from dunlin.core.short.emphasis import words_of_weight
from tests.unit.short.heard import TALK


def heavy(text: str, share: float = 0.3, colours: int = 1, language: str = "en") -> list[str]:
    texts = text.split()
    return [texts[n] for n in words_of_weight(texts, share, colours, language)]


def test_numbers_names_and_negations_weigh_and_small_words_never_do() -> None:
    found = heavy(TALK, 0.25)
    assert {"four", "hundred"} <= set(found)
    assert {"Ilse", "Varga"} <= set(found)
    assert "not" in found
    assert not {"a", "the", "it", "and", "to", "we"} & set(found)


def test_numbers_and_names_are_of_a_second_kind_where_there_are_two() -> None:
    texts = ["It", "cost", "400", "and", "nobody", "asked", "Ilse", "Varga", "why"]
    kinds = words_of_weight(texts, 0.5, 2)
    assert kinds[texts.index("400")] == 2
    assert kinds[texts.index("Varga")] == 2
    assert kinds[texts.index("nobody")] == 1
    assert set(words_of_weight(texts, 0.5, 1).values()) == {1}


@given(st.lists(st.sampled_from(TALK.split()), max_size=60), st.floats(0, 0.5), st.integers(0, 2))
def test_there_are_no_more_than_the_share_allows(texts, share, colours) -> None:
    kinds = words_of_weight(texts, share, colours)
    assert len(kinds) <= max(round(share * len(texts)), 1)
    assert set(kinds.values()) <= {1, 2}
    if not colours or not share:
        assert kinds == {}


@pytest.mark.parametrize(
    ("language", "text", "word"),
    [("de", "Das habe ich nie gehört", "nie"), ("fr", "il n’a rien entendu", "rien"), ("es", "nadie lo oyó", "nadie")],
)  # fmt: skip
def test_negations_are_known_in_other_languages(language: str, text: str, word: str) -> None:
    assert word in heavy(text, 0.2, 1, language)


def test_emoji_are_found_by_what_they_are_called_in_many_languages() -> None:
    assert emoji_named("bell", "en")[0] == ("🔔", "bell")
    assert emoji_named("cloche", "fr")[0][0] == "🔔"
    assert "🌧️" in [emoji for emoji, _ in emoji_named("regen", "de")]
    # What has no name in a language is looked for in English.
    assert emoji_named("bell", "th")[0][0] == "🔔"
    assert emoji_named("no such thing at all", "en") == []
    assert len(emoji_named("", "en")) == 60
    assert len(languages_of_emoji()) > 80


def test_words_get_an_emoji_of_their_own_each_once() -> None:
    texts = [
        "The",
        "bell",
        "rang",
        "and",
        "the",
        "bells",
        "fell",
        "into",
        "the",
        "boats",
        "at",
        "night",
    ]
    found = emoji_for_words(texts, "en")
    assert "🔔" in found.values()
    assert texts.index("night") in found
    assert len(set(found.values())) == len(found)
    assert not {n for n, text in enumerate(texts) if text in ("The", "the", "and", "at")} & set(
        found
    )
