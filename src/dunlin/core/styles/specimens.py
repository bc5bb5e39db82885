"""Styles side by side, each drawn as it looks: one script for all of them."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from dunlin.core.captions.model import Caption, Placement, spans_of
from dunlin.core.styles.model import StyleSheet
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.render_script import event_lines, script_head
from dunlin.core.timecode import FrameRate

__all__ = ["Cells", "specimen_script"]

_BASE = 250
"""Pixels that sizes are parts of: letters of the usual size are about as tall then as those of a page."""
_PART = 0.92
"""Of a cell's width that words take before they wrap."""
_SHOWN_MS = 3_600_000


@dataclass(frozen=True)
class Cells:
    """A grid of equal cells, in pixels."""

    width: int
    height: int
    across: int
    """From one to the next in a row."""
    down: int
    """From row to row."""
    columns: int


def specimen_script(
    sheet: StyleSheet, words: Mapping[str, str], picture: Script, cells: Cells
) -> str:
    """A script that shows, at any time of its first hour, each style in the middle of its cell, with nothing of it
    outside; in the order of `words`.

    :param words: what is set in each style, by their names
    :param picture: the film's; sizes that are parts of it are drawn as if it were a small one
    """
    scale = _BASE / base_size(picture)
    small = Script(round(picture.width * scale), round(picture.height * scale))
    rows = -(-len(words) // cells.columns)
    canvas = Script(cells.across * cells.columns, cells.down * max(rows, 1))
    still = {
        name: replace(style, comes="cut", goes="cut", vertical=None, window=None)
        for name, style in sheet.styles.items()
    }
    sheet = replace(sheet, styles=still, speakers={})
    return script_head(sheet, small, canvas) + "".join(
        _cell(name, text, sheet, small, cells, n) for n, (name, text) in enumerate(words.items())
    )


def _cell(name: str, text: str, sheet: StyleSheet, small: Script, cells: Cells, number: int) -> str:
    row, column = divmod(number, cells.columns)
    left, top = column * cells.across, row * cells.down
    middle = Placement(
        "middle",
        "center",
        (left + cells.width / 2) / small.width,
        (top + cells.height / 2) / small.height,
        _PART * cells.width / small.width,
    )
    caption = Caption(f"c{number}", 0, _SHOWN_MS, spans_of(text), placement=middle, style=name)
    seen = (left, top, left + cells.width, top + cells.height)
    return event_lines(caption, sheet, small, FrameRate(25), seen=seen)
