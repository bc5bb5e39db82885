"""Captions that the host makes by itself: by the plainest recogniser there is, without marks, cut wherever time is up."""

from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path

from dunlin.core.captions import Caption, spans_of
from dunlin.core.formats import FORMATS, Context, Document, written
from dunlin.core.speech import Word
from dunlin.engines.sphinx import Sphinx
from dunlin.media.sound import speech_blocks

__all__ = ["captions_by_machine", "cut_by_time"]

LANGUAGE = "en"
"""What it listens for, whatever is spoken."""
_LENGTH_MS = 4_000
_BLOCK_SECONDS = 30


def captions_by_machine(film: Path) -> str:
    """WebVTT of what a recogniser makes of a film's sound.

    :raises MediaError: when it has none that can be decoded
    """
    words = Sphinx().recognise(speech_blocks(film, _BLOCK_SECONDS), LANGUAGE, quick=True)
    captions = tuple(cut_by_time(list(words)))
    return written(Document(captions, LANGUAGE), FORMATS["webvtt"], Context()).decode()


def cut_by_time(words: Sequence[Word]) -> Iterator[Caption]:
    """Words in small letters and one line, a caption each few seconds, wherever a sentence may end."""
    for number, group in enumerate(_groups(words)):
        text = " ".join(word.text.strip(" ,.?!").lower() for word in group)
        yield Caption(
            f"m{number}",
            group[0].start_ms,
            max(group[-1].end_ms, group[0].start_ms + 1),
            spans_of(text),
        )


def _groups(words: Iterable[Word]) -> Iterator[list[Word]]:
    group: list[Word] = []
    for word in words:
        if group and word.end_ms - group[0].start_ms > _LENGTH_MS:
            yield group
            group = []
        group.append(word)
    if group:
        yield group
