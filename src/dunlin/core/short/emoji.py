"""Emoji by their names and by the words that go with them, as Unicode has them in many languages (CLDR, UTS #35, part 2,
14 Annotations)."""

import zipfile
from collections.abc import Mapping, Sequence
from functools import cache

from dunlin.core.short.emphasis import weights_of
from dunlin.core.styles.shelf import SHELF, as_emoji
from dunlin.core.text.joints import bare_word

__all__ = ["emoji_for_words", "emoji_named", "languages_of_emoji"]

_MOST = 60
_SHORTEST = 2
_ENDING, _STEM = 3, 4
"""So many letters at the end of a word may be those of its form, where so many are left."""


@cache
def _archive() -> zipfile.ZipFile:
    return zipfile.ZipFile(SHELF / "emoji-words.zip")


@cache
def languages_of_emoji() -> tuple[str, ...]:
    """BCP 47 tags of the languages that emoji have names in."""
    return tuple(name.removesuffix(".tsv") for name in _archive().namelist())


@cache
def _words(language: str) -> Mapping[str, tuple[str, ...]]:
    """The name of each emoji, and the words that go with it, in small letters; of those that are drawn here."""
    tags = languages_of_emoji()
    tag = next((tag for tag in (language, language.split("-")[0]) if tag in tags), None)
    if tag is None:
        return {}
    found = {}
    for line in _archive().read(f"{tag}.tsv").decode().split("\n"):
        character, *words = line.split("\t")
        if words and (emoji := as_emoji(character)):
            found[emoji] = tuple(word.lower() for word in words)
    return found


@cache
def _by_word(language: str) -> Mapping[str, tuple[str, ...]]:
    """Emoji by each word that goes with them: first those whose name it is, then those that go with the fewest others."""
    found: dict[str, list[tuple[bool, int, int, str]]] = {}
    for order, (emoji, words) in enumerate(_words(language).items()):
        for word in words:
            found.setdefault(word, []).append((word != words[0], len(words), order, emoji))
    return {word: tuple(emoji for *_, emoji in sorted(ways)) for word, ways in found.items()}


def emoji_named(text: str, language: str) -> list[tuple[str, str]]:
    """Emoji whose name, or a word that goes with them, begins with a text, and what each is called; at most 60.

    Looked for in a language, and in English where it says nothing there.
    """
    wanted = text.strip().lower()
    for tag in dict.fromkeys((language, "en")):
        names = _words(tag)
        if not wanted:
            return [(emoji, words[0]) for emoji, words in list(names.items())[:_MOST]]
        ranked = sorted(
            (rank, order, emoji, words[0])
            for order, (emoji, words) in enumerate(names.items())
            if (rank := _rank(wanted, words)) is not None
        )
        if ranked:
            return [(emoji, name) for _, _, emoji, name in ranked[:_MOST]]
    return []


def _rank(wanted: str, words: Sequence[str]) -> int | None:
    """How well an emoji is what is looked for; the less the better, None for not at all."""
    if words[0] == wanted:
        return 0
    if wanted in words:
        return 1
    if words[0].startswith(wanted):
        return 2
    if any(part.startswith(wanted) for word in words for part in word.split()):
        return 3
    return None


def emoji_for_words(texts: Sequence[str], language: str) -> dict[int, str]:
    """Emoji for words that have one of their own, by the numbers of the words: each emoji once, for the word that weighs most
    of those that it goes with."""
    known = _by_word(language)
    weights = weights_of(texts, language)
    found: dict[int, str] = {}
    for n in sorted(range(len(texts)), key=lambda n: (-weights[n], n)):
        word = bare_word(texts[n])
        if weights[n] <= 0 or len(word) < _SHORTEST or any(letter.isdigit() for letter in word):
            continue
        emoji = _of(word, known)
        if emoji and emoji not in found.values():
            found[n] = emoji
    return dict(sorted(found.items()))


def _of(word: str, known: Mapping[str, tuple[str, ...]]) -> str | None:
    """The emoji that goes with a word, or with what it is a form of: the word without its last letters."""
    for cut in range(_ENDING + 1):
        stem = word[: len(word) - cut]
        if cut and len(stem) < _STEM:
            return None
        if ways := known.get(stem):
            return ways[0]
    return None
