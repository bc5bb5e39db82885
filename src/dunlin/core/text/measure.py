"""How long a text is for a reader."""

import re
import unicodedata

import regex

__all__ = ["characters", "line_lengths", "read_characters", "word_count"]

_CLUSTER = regex.compile(r"\X")
_WORD = regex.compile(r"\w(?:[\w'’.\-]*\w)?")
_ASCII_LETTER = re.compile(r"[a-zA-Z0-9]")
_SPACES = regex.compile(r"\s+")
_PUNCTUATION = regex.compile(r"\p{P}+")


def characters(text: str, *, wide_as_two: bool = False) -> int:
    """Number of characters as a reader counts them: grapheme clusters (UAX #29), no line breaks.

    Spaces and punctuation count.

    :param wide_as_two: count clusters that begin with an East Asian wide or fullwidth character
        (UAX #11, W and F) twice
    """
    if text.isascii():
        return len(text) - text.count("\n")
    clusters = [cluster for line in text.split("\n") for cluster in _CLUSTER.findall(line)]
    if not wide_as_two:
        return len(clusters)
    return sum(2 if unicodedata.east_asian_width(cluster[0]) in "WF" else 1 for cluster in clusters)


def line_lengths(text: str, *, wide_as_two: bool = False) -> list[int]:
    """Characters in each line."""
    lines = text.split("\n")
    if text.isascii():
        return list(map(len, lines))
    return [characters(line, wide_as_two=wide_as_two) for line in lines]


def read_characters(
    text: str, *, spaces: bool = True, punctuation: bool = True, wide_as_two: bool = False
) -> int:
    """Characters that count for the reading speed.

    :param spaces: white space counts
    :param punctuation: characters of Unicode's category P count
    """
    if not spaces:
        text = _SPACES.sub("", text)
    if not punctuation:
        text = _PUNCTUATION.sub("", text)
    return characters(text, wide_as_two=wide_as_two)


def word_count(text: str) -> int:
    """Number of words: runs of letters and digits, with the apostrophes, hyphens and stops inside."""
    if text.isascii():
        words = text.split()
        # Marks that stand alone, such as a dash, are no words.
        alone = [word for word in words if not word[0].isalnum()]
        return len(words) - len([word for word in alone if not _ASCII_LETTER.search(word)])
    return len(_WORD.findall(text))
