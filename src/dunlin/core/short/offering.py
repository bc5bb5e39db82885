"""Emoji offered for the words of captions."""

from collections.abc import Iterable
from dataclasses import dataclass

from dunlin.core.captions.model import Caption
from dunlin.core.short.emoji import emoji_for_words
from dunlin.core.short.words import (
    words_of_captions,
)

__all__ = ["Offered", "offered_emoji"]


@dataclass(frozen=True)
class Offered:
    """An emoji that goes with a word.

    :param offset: character of the caption's text that the word begins with
    """

    caption: str
    offset: int
    text: str
    emoji: str


def offered_emoji(captions: Iterable[Caption], language: str) -> list[Offered]:
    """Emoji for words of captions that have one of their own and none by them yet, in order."""
    places: list[tuple[str, int, str, bool]] = []
    for caption in captions:
        at = 0
        for word in words_of_captions([caption], language):
            start = caption.text.index(word.text, at)
            at = start + len(word.text)
            places.append((caption.id, start, word.text, bool(word.spoken.emoji)))
    found = emoji_for_words([text for _, _, text, _ in places], language)
    return [
        Offered(caption, offset, text, found[n])
        for n, (caption, offset, text, has_one) in enumerate(places)
        if n in found and not has_one
    ]
