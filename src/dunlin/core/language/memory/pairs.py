"""Pairs of a source and its translation, and how near one source is to another."""

from dataclasses import dataclass

from rapidfuzz.distance import Levenshtein

from dunlin.core.text.words import words_to_compare

__all__ = ["LEAST_ALIKE", "Pair", "alike", "in_one_line"]

LEAST_ALIKE = 0.6
"""What is less alike is of no help."""


@dataclass(frozen=True)
class Pair:
    """What was said in one language, and what it became in another."""

    source_language: str
    """BCP 47 tag."""
    target_language: str
    source: str
    target: str
    origin: str = ""
    """Where it is from, in the words of a person: a film's title, or a file's name."""
    when_ms: int = 0
    """When it was confirmed; milliseconds since 1970, and 0 where that is not known."""


def in_one_line(text: str) -> str:
    """A text wherever its lines end."""
    return " ".join(text.split())


def alike(one: str, other: str) -> float:
    """How alike two sources are, from 0 to 1: the part of their words, and of their characters, that need not be changed to
    make one of the other (Levenshtein), in equal shares. Only what is the same in every mark is 1."""
    one, other = in_one_line(one), in_one_line(other)
    if one == other:
        return 1.0
    words, others = words_to_compare(one), words_to_compare(other)
    if words == others and words:
        return 0.99
    by_words = Levenshtein.normalized_similarity(words, others)
    by_characters = Levenshtein.normalized_similarity(" ".join(words), " ".join(others))
    return min((by_words + by_characters) / 2, 0.98)
