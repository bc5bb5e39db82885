"""Looks side by side, each telling words of a film as they are spoken: one script for all of them."""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from dunlin.core.captions.model import Caption, Placement, Span, Spoken
from dunlin.core.short.making import (
    Setting,
    short_captions,
)
from dunlin.core.short.model import ShortLook
from dunlin.core.short.words import (
    ShortWord,
    weighed,
)
from dunlin.core.specs import for_language
from dunlin.core.specs.shipped import shipped_specs
from dunlin.core.styles.model import StyleSheet, sheet_with
from dunlin.core.styles.picture import Script
from dunlin.core.styles.render_script import event_lines, script_head
from dunlin.core.styles.shelf import kept_by_fonts
from dunlin.core.styles.specimens import Cells
from dunlin.core.timecode import FrameRate

__all__ = ["look_specimens", "words_near"]

_WORDS = 9
_RATE = FrameRate(25)
_WIDER = 1.12
"""Than a cell: the picture whose middle it shows, so that letters are about as tall as those of a page."""
_FIRST_MS, _REST_MS, _LONGEST_PAUSE_MS = 160, 900, 350
_NO_WORDS = "These words are told as they are spoken"
"""Shown where a film has no words yet."""


def words_near(words: Sequence[ShortWord], near_ms: int) -> list[ShortWord]:
    """Some words that begin near a time, in order."""
    first = next((n for n, word in enumerate(words) if word.end_ms > near_ms), 0)
    return list(words[first : first + _WORDS])


def look_specimens(
    looks: Sequence[ShortLook], words: Sequence[ShortWord], language: str, cells: Cells
) -> tuple[str, int]:
    """A script in which each look tells these words in the middle of its cell, and how long that takes, in milliseconds.

    :param words: in order; their pauses are shortened, and they begin at once
    """
    told = _from_the_beginning(words) or _made_up()
    return _script_of(tuple(looks), tuple(told), language, cells)


# Asked for by each page that opens, and again when captions change that are not these words.
@kept_by_fonts
@lru_cache(16)
def _script_of(
    looks: tuple[ShortLook, ...], told: tuple[ShortWord, ...], language: str, cells: Cells
) -> tuple[str, int]:
    loop_ms = told[-1].end_ms + _REST_MS
    picture = Script(round(cells.width * _WIDER), round(cells.width * _WIDER * 16 / 9))
    styles = {look.name: replace(look.style, window=None) for look in looks}
    sheet = sheet_with(styles).in_language(language)
    rows = -(-len(looks) // cells.columns)
    canvas = Script(cells.across * cells.columns, cells.down * max(rows, 1))
    lines = [
        event_lines(caption, sheet, picture, _RATE)
        for number, look in enumerate(looks)
        for caption in _in_cell(look, told, sheet, picture, cells, number, loop_ms)
    ]
    return script_head(sheet, picture, canvas) + "".join(lines), loop_ms


def _in_cell(
    look: ShortLook,
    words: Sequence[ShortWord],
    sheet: StyleSheet,
    picture: Script,
    cells: Cells,
    number: int,
    loop_ms: int,
) -> list[Caption]:
    row, column = divmod(number, cells.columns)
    x = (column * cells.across + cells.width / 2) / picture.width
    y = (row * cells.down + cells.height / 2) / picture.height
    style = sheet.styles[look.name]
    language = style.language
    spec = for_language(shipped_specs()["vertical-short"], language)
    by = Setting(look, style, picture, spec, _RATE, language, ends_ms=loop_ms)
    made = short_captions(weighed(words, look, language), by)
    place = Placement("middle", "center", x, y, style.width)
    return [
        replace(caption, id=f"c{number}-{n}", style=look.name, placement=place)
        for n, caption in enumerate(made)
    ]


def _from_the_beginning(words: Sequence[ShortWord]) -> list[ShortWord]:
    found: list[ShortWord] = []
    at, before = _FIRST_MS, None
    for word in words:
        if before is not None:
            at += min(max(word.start_ms - before, 0), _LONGEST_PAUSE_MS)
        before = word.end_ms
        length = max(word.end_ms - word.start_ms, 80)
        spans = tuple(
            replace(span, look=None, spoken=Spoken(at, at + length), ruby=None)
            for span in word.spans
        )
        found.append(replace(word, spans=spans, start_ms=at, end_ms=at + length, caption=None))
        at += length
    return found


def _made_up() -> list[ShortWord]:
    words = []
    for n, text in enumerate(_NO_WORDS.split()):
        start = _FIRST_MS + n * 300
        spans = (Span(text, spoken=Spoken(start, start + 260)),)
        words.append(ShortWord(spans, start, start + 260))
    return words
