"""The words and phrases that a talk is about, as YAKE finds them (Campos et al. 2020, "YAKE! Keyword extraction from single
documents using multiple local features"): of one text alone, by case, place, frequency and company of its words."""

from collections import Counter
from collections.abc import Sequence
from typing import TypeAlias

from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.joints import bare_word, small_words, unmarked
from dunlin.core.text.stems import stem_of
from dunlin.core.text.words import joined_words

__all__ = ["keywords"]

_Stems: TypeAlias = tuple[str, ...]

_LEAST_LETTERS = 3
_MOST_WORDS = 2
_MORE = 4
"""Phrases that are looked at, for each that is wanted: many are forms or parts of others."""


def keywords(sentences: Sequence[Sentence], language: str = "en", most: int = 8) -> list[str]:
    """Words and pairs of words, each as it is said most within a sentence; those that say most first.

    Forms of one word count as one (`stem_of`). Of a word and a pair with it, the pair stands where the word is mostly said in
    it, else the one that says more; a word that is said apart from a better pair as often as in it stands for itself, too.
    """
    # Whoever asks for no key words does not wait for it: with the graphs that it brings it takes a fifth of a second to load.
    from yake import KeywordExtractor

    extractor = KeywordExtractor(
        lan=language.split("-")[0], n=_MOST_WORDS, top=most * _MORE, dedup_lim=1.0
    )
    extractor.stopword_set |= small_words(language)
    found = extractor.extract_keywords("\n\n".join(" ".join(one.texts) for one in sentences))
    said = _said_forms(sentences, language)
    ranked = dict.fromkeys(
        tuple(stem_of(bare_word(word), language) for word in phrase.split()) for phrase, _ in found
    )
    able = [stems for stems in ranked if stems in said]
    pairs = [stems for stems in able if len(stems) == _MOST_WORDS]
    chosen: list[_Stems] = []
    for stems in able:
        if len(stems) == _MOST_WORDS:
            stands = not any(stem in other for stem in stems for other in chosen)
        else:
            stands = not any(
                stems[0] in pair
                and said[pair].total() * 2 >= said[stems].total() + (pair not in chosen)
                for pair in pairs
            )
        if stands:
            chosen.append(stems)
    return [said[stems].most_common(1)[0][0] for stems in chosen[:most]]


def _said_forms(sentences: Sequence[Sentence], language: str) -> dict[_Stems, Counter[str]]:
    """Words and pairs that may be key words, by their stems: how often each form of them is said."""
    small = small_words(language)
    capital = _capital_words(sentences)
    said: dict[_Stems, Counter[str]] = {}
    for sentence in sentences:
        run: list[tuple[str, str]] = []
        for n, text in enumerate(sentence.texts):
            word, bare = unmarked(text), bare_word(text)
            if bare in small or len(bare) < _LEAST_LETTERS:
                run = []
                continue
            form = word if n or bare in capital else bare
            before = run if text.startswith(word) else []
            run = [*before, (stem_of(bare, language), form)][-_MOST_WORDS:]
            for first in range(len(run)):
                stems = tuple(stem for stem, _ in run[first:])
                said.setdefault(stems, Counter())[
                    joined_words([one for _, one in run[first:]])
                ] += 1
            if not text.endswith(word):
                run = []
    return said


def _capital_words(sentences: Sequence[Sentence]) -> set[str]:
    """Words that have a capital also where no sentence begins, as they are in small letters."""
    texts = (text for sentence in sentences for text in sentence.texts[1:])
    return {bare for text in texts if (bare := bare_word(text)) and unmarked(text)[0].isupper()}
