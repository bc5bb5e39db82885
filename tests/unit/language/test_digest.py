"""The sentences that say most of a talk, and phrases of them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.language.digest.centrality import centralities
from dunlin.core.language.digest.phrases import headings
from dunlin.core.language.digest.sentences import Said, sentences_of
from dunlin.core.text.joints import bare_word

TALKS = {
    "en": "The harbour needed a bell. Nobody in the harbour had ever cast a bell. Well, you know. "
    "The bell of the harbour weighs four hundred kilos. It was raining. "
    "When the fog comes in, the ships hear the bell. I like tea.",
    "de": "Der Hafen brauchte eine Glocke. Niemand im Hafen hatte je eine Glocke gegossen. Na ja. "
    "Die Glocke des Hafens wiegt vierhundert Kilo. Es hat geregnet. "
    "Wenn der Nebel kommt, hören die Schiffe die Glocke. Ich mag Tee.",
    "fr": "Le port avait besoin d’une cloche. Personne au port n’avait jamais fondu une cloche. Enfin. "
    "La cloche du port pèse quatre cents kilos. Il pleuvait. "
    "Quand vient la brume, les bateaux entendent la cloche. J’aime le thé.",
}
BELL = {"en": "bell", "de": "glocke", "fr": "cloche"}


def said(text: str) -> list[Said]:
    return [Said(word, n * 300, n * 300 + 250) for n, word in enumerate(text.split())]


@pytest.mark.parametrize("language", TALKS)
def test_sentences_about_what_is_talked_about_say_most(language: str) -> None:
    sentences = sentences_of(said(TALKS[language]), language)
    assert len(sentences) == 7
    worths = centralities(sentences, language)
    about = [
        worth
        for s, worth in zip(sentences, worths, strict=True)
        if any(BELL[language] in w.lower() for w in s.texts)
    ]
    others = [
        worth
        for s, worth in zip(sentences, worths, strict=True)
        if not any(BELL[language] in w.lower() for w in s.texts)
    ]
    assert len(about) == 4
    assert min(about) > max(others)
    assert max(worths) == 1


@pytest.mark.parametrize("language", TALKS)
def test_a_heading_is_of_what_is_talked_about(language: str) -> None:
    found = headings(sentences_of(said(TALKS[language]), language), language)
    assert BELL[language] in found[0].text.lower()
    assert len({phrase.text for phrase in found}) == len(found) >= 3


WORDS = st.lists(
    st.sampled_from(["harbour", "bell,", "the", "of", "fog.", "Ilse", "rang!", "four", "—", "and", "水の鐘", "нет", "x" * 60]),
    max_size=60,
)  # fmt: skip


@given(texts=WORDS, language=st.sampled_from(["en", "ru", "ja", "xx"]))
def test_a_heading_says_what_was_said_when_it_was_said(texts: list[str], language: str) -> None:
    words = said(" ".join(texts))
    by_start = {word.start_ms: n for n, word in enumerate(words)}
    by_end = {word.end_ms: n for n, word in enumerate(words)}
    found = headings(sentences_of(words, language), language)
    assert len(found) <= 5
    for phrase in found:
        own = words[by_start[phrase.start_ms] : by_end[phrase.end_ms] + 1]
        whole = "".join(word.text for word in own).lower()
        assert "".join(phrase.text.split()).lower() in whole
        assert len(phrase.text) <= 38
        assert any(bare_word(word.text) for word in own)
    assert headings(sentences_of(words, language), language) == found


def test_a_pause_ends_a_sentence_and_so_does_its_length() -> None:
    words = [Said("low", 0, 200), Said("water", 250, 500), Said("high", 2000, 2300)]
    assert [s.texts for s in sentences_of(words)] == [["low", "water"], ["high"]]
    long = sentences_of(said("word " * 100))
    assert [len(s.words) for s in long] == [40, 40, 20]
    assert sentences_of([]) == []
    assert centralities([]) == []
    assert headings([]) == []
