"""Spelling by Hunspell's dictionaries, which ship for some languages."""

import re
import threading
from collections.abc import Collection, Iterator, Sequence
from functools import lru_cache
from pathlib import Path

import regex
from hunspell import Hunspell

import dunlin

__all__ = ["Dictionary", "dictionary_for", "languages_with_dictionaries", "unknown_words"]

_FOLDER = Path(dunlin.__file__).parent / "dictionaries"
_BOOKS = {
    "en": ("en", "en-gb"), "en-us": ("en",), "pt": ("pt", "pt-pt"), "pt-br": ("pt",), "no": ("nb",),
}  # fmt: skip
"""Dictionaries that are called otherwise than their language; where a tag says no more than that, a word may be spelled as in
any of them."""
_HELD = 4
"""Languages whose dictionaries are kept open; one takes up to 30 MB."""
_KNOWN = 50_000
"""Words of a language that are remembered as right or wrong: a German one that is put together takes 40 µs."""
_MOST_SUGGESTED = 6

_WORD = regex.compile(r"\p{L}[\p{L}\p{M}]*(?:[-'’\u00ad]\p{L}[\p{L}\p{M}]*)*")
_PARTS = re.compile(r"[-'’]")
_BESIDE_FIGURES = re.compile(r"[\d_@#]")


class Dictionary:
    """What is spelled rightly in a language."""

    def __init__(self, names: Sequence[str]) -> None:
        """:param names: of dictionaries; a word that is in one of them is right"""
        self._books = [Hunspell(name, hunspell_data_dir=str(_FOLDER)) for name in names]
        # Hunspell's own tables change while it looks words up.
        self._lock = threading.Lock()
        self.knows = lru_cache(_KNOWN)(self._knows)

    def _knows(self, word: str) -> bool:
        """Whether a word is right, or each part of one with hyphens."""
        plain = word.replace("\u00ad", "").replace("’", "'")
        with self._lock:
            if any(book.spell(form) for book in self._books for form in {plain, word}):
                return True
            parts = [part for part in _PARTS.split(plain) if part]
            return "-" in plain and all(
                any(book.spell(part) for book in self._books) for part in parts
            )

    def suggestions(self, word: str) -> list[str]:
        """What may have been meant by a word that is not known, the likeliest first."""
        found: list[str] = []
        with self._lock:
            for book in self._books:
                found += book.suggest(word.replace("’", "'"))
        return list(dict.fromkeys(found))[:_MOST_SUGGESTED]


def languages_with_dictionaries() -> list[str]:
    """Tags of the dictionaries that ship."""
    return sorted(path.stem for path in _FOLDER.glob("*.dic"))


def dictionary_for(language: str) -> Dictionary | None:
    """The dictionary of a language by its BCP 47 tag; None where none ships."""
    tag = language.lower()
    base = tag.split("-")[0]
    for names in (_BOOKS.get(tag, (tag,)), _BOOKS.get(base, (base,))):
        if all((_FOLDER / f"{name}.dic").is_file() for name in names):
            return _opened(names)
    return None


@lru_cache(_HELD)
def _opened(names: tuple[str, ...]) -> Dictionary:
    return Dictionary(names)


def unknown_words(
    text: str, dictionary: Dictionary, known: Collection[str] = ()
) -> Iterator[tuple[int, int]]:
    """Where words stand that a dictionary does not know, from which character to which.

    :param known: words that are right all the same, in small letters
    """
    for match in _WORD.finditer(text):
        start, end = match.span()
        # A part of an address, a tag or a measure is no word.
        if _BESIDE_FIGURES.search(text[max(start - 1, 0) : start] + text[end : end + 1]):
            continue
        word = match[0]
        if word.lower() not in known and not dictionary.knows(word):
            own = _without_ending(word)
            if own is None or own.lower() not in known:
                yield start, end


def _without_ending(word: str) -> str | None:
    """What an `’s` or a lone apostrophe stands behind."""
    for mark in ("'", "’"):
        head, found, tail = word.rpartition(mark)
        if found and len(tail) <= 2:
            return head
    return None
