"""Words about a film, of what is said in it: titles, a description, key words, chapters, its strongest passages.

Every sentence stands in the transcript, or is a phrase of it.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from dunlin.core.language.digest.centrality import centralities
from dunlin.core.language.digest.chapters import chapter_starts
from dunlin.core.language.digest.keywords import keywords
from dunlin.core.language.digest.phrases import headings
from dunlin.core.language.digest.sentences import Said, Sentence, sentences_of
from dunlin.core.language.digest.strength import StrongPassage, strongest
from dunlin.core.text.words import joined_words

__all__ = ["Chapter", "WordsAbout", "as_data", "words_about"]

_LENGTHS = {"short": 1, "middle": 3, "long": 6}
"""Sentences of the three descriptions."""
_LEAST_WORDS = 4
"""Of a sentence that describes."""


@dataclass(frozen=True)
class Chapter:
    """A part of the film, and what it is about."""

    at_ms: int
    title: str


@dataclass(frozen=True)
class WordsAbout:
    """What can stand beside a film."""

    titles: tuple[str, ...]
    short: str
    middle: str
    long: str
    keywords: tuple[str, ...]
    chapters: tuple[Chapter, ...]
    passages: tuple[StrongPassage, ...]


def words_about(words: Iterable[Said], language: str = "en") -> WordsAbout:
    """Words about a film, of the words that are said in it, in order; all empty where nothing is said."""
    sentences = sentences_of(words, language)
    starts = chapter_starts(sentences, language)
    parts = [sentences[first:after] for first, after in pairwise([*starts, len(sentences)])]
    chapters = tuple(
        Chapter(part[0].start_ms if number else 0, _title(part, language))
        for number, part in enumerate(parts)
    )
    worths = centralities(sentences, language)
    described = {name: _description(sentences, worths, count) for name, count in _LENGTHS.items()}
    return WordsAbout(
        titles=tuple(phrase.text for phrase in headings(sentences, language)),
        **described,
        keywords=tuple(keywords(sentences, language)),
        chapters=chapters,
        passages=tuple(strongest(sentences, language)),
    )


def _title(part: Sequence[Sentence], language: str) -> str:
    """What a part is about: its best phrase, or else how it begins."""
    found = headings(part, language, 1)
    return found[0].text if found else joined_words(part[0].texts[:6])


def _description(sentences: Sequence[Sentence], worths: Sequence[float], count: int) -> str:
    """The sentences that say most, in the order in which they are said."""
    able = [n for n, sentence in enumerate(sentences) if len(sentence.words) >= _LEAST_WORDS]
    best = sorted(able or range(len(sentences)), key=lambda n: (-worths[n], n))[:count]
    return " ".join(joined_words(sentences[n].texts) for n in sorted(best))


def as_data(about: WordsAbout) -> dict[str, Any]:
    """As plain data, for a file."""
    return {
        "titles": list(about.titles),
        "description": {"short": about.short, "middle": about.middle, "long": about.long},
        "keywords": list(about.keywords),
        "chapters": [{"at_ms": one.at_ms, "title": one.title} for one in about.chapters],
        "passages": [
            {"from_ms": one.from_ms, "to_ms": one.to_ms, "text": one.text, "why": list(one.why)}
            for one in about.passages
        ],
    }
