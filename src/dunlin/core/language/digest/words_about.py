"""Words about a film, of what is said in it: titles, a description, key words, chapters, its strongest passages.

Every sentence stands in the transcript, or is a phrase of it.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from dunlin.core.language.digest.sentences import Said, sentences_of
from dunlin.core.language.digest.strength import StrongPassage
from dunlin.core.language.digest.talk import Talk

__all__ = ["KEYWORDS", "LENGTHS", "PASSAGES", "Chapter", "WordsAbout", "as_data", "words_about"]

LENGTHS = {"short": 1, "middle": 3, "long": 6}
"""Sentences of the three descriptions."""
KEYWORDS, PASSAGES = 8, 5
_TITLES = 5


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
    talk = Talk(tuple(sentences_of(words, language)), language)
    described = {name: talk.text_of(talk.by_worth[:count]) for name, count in LENGTHS.items()}
    return WordsAbout(
        titles=tuple(phrase.text for phrase in talk.titles[:_TITLES]),
        **described,
        keywords=talk.keywords[:KEYWORDS],
        chapters=tuple(Chapter(talk.begins_ms(part), talk.title_of(part)) for part in talk.parts),
        passages=talk.passages[:PASSAGES],
    )


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
