"""Captions in a look, for the commands that make some."""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from dunlin.cli.files import speaking_of, spec_called
from dunlin.core.captions import Caption
from dunlin.core.formats import Document
from dunlin.core.messages import BadInput, message
from dunlin.core.short.looks import read_look, shipped_looks
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import AMOUNTS, Rhythm, ShortLook
from dunlin.core.short.words import (
    weighed,
    words_of_transcript,
)
from dunlin.core.specs import for_language
from dunlin.core.speech import Word
from dunlin.core.styles import Script, sheet_with
from dunlin.core.timecode import FrameRate

__all__ = ["UPRIGHT", "document_in_look", "look_called", "with_words"]

UPRIGHT = Script(1080, 1920)
"""The picture that captions are fitted to where there is no film."""


def look_called(name: str) -> ShortLook:
    """A look that ships, by its id or its name, or that of a file.

    :raises BadInput: when there is none
    """
    for id_, look in shipped_looks().items():
        if name in (id_, look.name):
            return look
    path = Path(name)
    if not path.is_file():
        raise BadInput(message("cli.no-such-look", name=name, known=", ".join(shipped_looks())))
    with speaking_of(path):
        return read_look(path.read_bytes())


def with_words(look: ShortLook, words: int) -> ShortLook:
    """The same look with so many words at once at the most, as near as its dial goes."""
    counted = [
        n for n, amount in enumerate(AMOUNTS, 1) if (amount.words or 0) <= words and amount.words
    ]
    return replace(look, rhythm=Rhythm("amount", counted[-1]))


def document_in_look(
    words: Sequence[Word],
    look: ShortLook,
    picture: Script,
    rate: FrameRate,
    language: str,
    *,
    ends_ms: int | None = None,
) -> Document:
    """Captions of words in a look, with the style that they are set in, numbered from c1."""
    style = sheet_with({look.name: look.style}, look.name).in_language(language).default
    spec = for_language(spec_called("vertical-short"), language)
    told = weighed(words_of_transcript(words), look, language)
    by = Setting(look, style, picture, spec, rate, language, ends_ms=ends_ms)
    captions = short_captions(told, by)
    numbered = tuple(
        Caption(f"c{n}", c.in_ms, c.out_ms, c.spans, c.speaker, c.placement, look=c.look)
        for n, c in enumerate(captions, 1)
    )
    return Document(numbered, language, styles={look.name: look.style}, style=look.name)
