"""Sentences shortened to their phrases: what may stand over a film as its heading."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from dunlin.core.language.digest.centrality import centralities, content_words
from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.joints import bare_word, joint_cost, small_words
from dunlin.core.text.words import joined_words

__all__ = ["Phrase", "headings"]

_MOST_CHARACTERS = 38
"""Two lines of an upright picture in large letters."""
_LEAST_WORDS, _MOST_WORDS = 2, 8
_TRAILING = " ,;:.…–—-，。、"
_CLAUSE, _INSIDE = 32.0, 48.0
"""What it costs to part words between clauses, and inside one where that is no worse than elsewhere (`joint_cost`)."""
_NOT_FIRST, _CUT, _SHORT = 0.8, 0.6, 0.6
"""What a phrase is worth that no sentence begins with, one whose clause goes on, and one of two words."""
_ALIKE = 0.5
"""Of their words: two phrases that share more say the same."""


@dataclass(frozen=True)
class Phrase:
    """Words that follow each other in a sentence, and when they are said."""

    text: str
    start_ms: int
    end_ms: int


def headings(sentences: Sequence[Sentence], language: str = "en", most: int = 5) -> list[Phrase]:
    """Phrases that say what is talked about, the best first: each of another sentence, and none like another.

    A phrase goes from one good place to part words to another (`joint_cost`). It is worth what its sentence is, by the part of
    its words that say something.
    """
    worths = centralities(sentences, language)
    found = [
        (worth * _told(texts, language) * whole, phrase, number)
        for number, (sentence, worth) in enumerate(zip(sentences, worths, strict=True))
        for whole, texts, phrase in _phrases(sentence, language)
    ]
    found.sort(key=lambda one: (-one[0], one[1].start_ms, one[1].end_ms))
    chosen: list[tuple[Phrase, set[str], int]] = []
    for worth, phrase, number in found:
        words = set(content_words(phrase.text.split(), language)) or {phrase.text}
        taken = any(
            other == number or len(words & said) > _ALIKE * min(len(words), len(said))
            for _, said, other in chosen
        )
        if worth > 0 and not taken:
            chosen.append((phrase, words, number))
        if len(chosen) == most:
            break
    return [phrase for phrase, _, _ in chosen]


def _told(texts: Sequence[str], language: str) -> float:
    """How much of a phrase says something: more words are better than fewer, small ones are ballast."""
    content = len(content_words(texts, language))
    return content / (1 + 0.5 * (len(texts) - content)) if content else 0.0


def _phrases(sentence: Sentence, language: str) -> Iterator[tuple[float, list[str], Phrase]]:
    """The phrases of a sentence that are short enough, each with how whole it is, from 0 to 1, and its words."""
    texts = sentence.texts
    small = small_words(language)
    costs = [0.0, *(joint_cost(a, b, language) for a, b in pairwise(texts)), 0.0]
    for first in range(len(texts)):
        # One begins where a clause does, or with what joins it to the clause before.
        if costs[first] > _CLAUSE:
            continue
        for after in range(first + _LEAST_WORDS, min(first + _MOST_WORDS, len(texts)) + 1):
            words = texts[first:after]
            text = _as_heading(words)
            if len(text) > _MOST_CHARACTERS:
                break
            ends = costs[after]
            # What leads on to words that are not there is no end, and no clause is left behind its beginning.
            inner = [at for at in range(first + 1, after) if costs[at] <= _CLAUSE]
            broken = bool(inner) and (ends > _CLAUSE or after - inner[-1] < _LEAST_WORDS)
            if ends > _INSIDE or broken or (after < len(texts) and bare_word(words[-1]) in small):
                continue
            whole = (1.0 if first == 0 else _NOT_FIRST) * (1.0 if ends <= _CLAUSE else _CUT)
            whole *= 1.0 if len(words) > _LEAST_WORDS else _SHORT
            start_ms, end_ms = sentence.words[first].start_ms, sentence.words[after - 1].end_ms
            yield whole, words, Phrase(text, start_ms, end_ms)


def _as_heading(words: Sequence[str]) -> str:
    text = joined_words(words).strip(_TRAILING)
    return text[:1].upper() + text[1:]
