"""How wide lines come out, measured with the font they are drawn in."""

from collections.abc import Callable
from dataclasses import replace
from functools import cache, lru_cache
from pathlib import Path

import regex
import uharfbuzz

from dunlin.core.styles.model import Style, Weight, bolder
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.shelf import LATIN, Run, font_file, runs_of

__all__ = [
    "EMOJI_SIZE",
    "line_in_ems",
    "line_width",
    "surely_fitting",
    "surely_fitting_in_any_face",
    "text_width",
]


_CLUSTER = regex.compile(r"\X")

EMOJI_SIZE = 0.82
"""Width and height of an emoji, as a part of the height of its line."""


def line_width(line: str, style: Style, picture: Script) -> float:
    """Part of the picture's width that a line takes.

    Shaped by HarfBuzz, as libass does, with the font at the style's size; the outline is left out.
    """
    return text_width(line, style, picture) / picture.width


def text_width(text: str, style: Style, picture: Script) -> float:
    """Pixels of the picture that a text without line breaks takes, each part of it shaped with the
    font that draws it."""
    height = style.size * base_size(picture)
    runs = runs_of(text, style.language, style.font)
    return sum(_run_width(run, style) for run in runs) * height


def _run_width(run: Run, style: Style) -> float:
    """The width of a part of a text, as a part of the height of its line."""
    if run.emoji:
        return EMOJI_SIZE
    # What nothing can draw is a box, as wide as that of the Latin font.
    face = (run.family or LATIN, style.weight, style.italic)
    width = _advances(_font(*face), run.text) / _line_units(*face)
    if style.letter_spacing:
        width += style.letter_spacing * len(_CLUSTER.findall(run.text))
    return width * style.stretch


@lru_cache(256)
def surely_fitting(style: Style, picture: Script, limit: float) -> Callable[[str], bool]:
    """What tells whether the lines of a text are narrower than a limit by the widths of their letters alone.

    False says nothing; it spares shaping where there is much room.
    """
    if style.letter_spacing or style.font != LATIN:
        return lambda text: False
    # What letters move together, as with `fi` and `AV`, is far more than what they move apart.
    face = (LATIN, style.weight, style.italic)
    width = style.size * base_size(picture) * style.stretch
    room = 0.97 * limit * picture.width * _line_units(*face) / width
    width_of = _letters(*face).__getitem__
    narrow = width_of(_WIDEST_NARROW)
    wide = {ord(letter): None for letter in _ASCII if width_of(letter) > narrow}
    more = max(map(width_of, _ASCII)) - narrow

    def fits(text: str) -> bool:
        if text.isascii():
            # Counting the wide letters is enough for nearly all, and a tenth of the work.
            count = len(text) - len(text.translate(wide))
            if max(map(len, text.split("\n"))) * narrow + count * more < room:
                return True
        return max(sum(map(width_of, line)) for line in text.split("\n")) < room

    return fits


@lru_cache(256)
def surely_fitting_in_any_face(
    style: Style, picture: Script, limit: float
) -> Callable[[str], bool]:
    """The same whatever of the words is bold or italic."""
    bold = bolder(style.weight)
    upright, slanted = (
        surely_fitting(replace(style, weight=bold, italic=italic), picture, limit)
        for italic in (False, True)
    )
    return lambda text: upright(text) and slanted(text)


_ASCII = "".join(map(chr, range(32, 127)))
_WIDEST_NARROW = "d"
"""Hardly a lower case letter is wider, but for m and w."""


class _Letters(dict[str, int]):
    """Font units of each letter alone, measured when it is first asked for; of letters that another font
    draws more than any takes, so that nothing is said of them."""

    def __init__(self, family: str, weight: Weight, italic: bool) -> None:
        super().__init__()
        self.font = _font(family, weight, italic)
        self.known = frozenset(self.font.face.unicodes)

    def __missing__(self, letter: str) -> int:
        known = ord(letter) in self.known
        self[letter] = units = _advances(self.font, letter) if known else _UNKNOWN
        return units


_UNKNOWN = 1_000_000


@cache
def _letters(family: str, weight: Weight, italic: bool) -> _Letters:
    return _Letters(family, weight, italic)


def _font(family: str, weight: Weight, italic: bool) -> uharfbuzz.Font:
    return _font_in(font_file(family, weight, italic=italic))


# By their files: another family may come to have a name, but a file never changes.
@cache
def _font_in(file: Path) -> uharfbuzz.Font:
    return uharfbuzz.Font(uharfbuzz.Face(file.read_bytes()))


def line_in_ems(family: str) -> float:
    """The height of a line from ascent to descent, which is a style's size, against the size that CSS and TTML mean by
    one: the em of the font."""
    font = _font(family, 400, italic=False)
    return _line_units(family, 400, italic=False) / int(font.face.upem)


def _line_units(family: str, weight: Weight, italic: bool) -> int:
    return _line_units_in(font_file(family, weight, italic=italic))


@cache
def _line_units_in(file: Path) -> int:
    """Font units from ascent to descent, which libass scales to the font size: those that are Windows' own
    (OS/2, `usWinAscent` and `usWinDescent`), as in the renderer that scripts were first made for."""
    font = _font_in(file)
    above, below = (
        font.get_metric_position(tag)
        for tag in (
            uharfbuzz.OTMetricsTag.HORIZONTAL_CLIPPING_ASCENT,
            uharfbuzz.OTMetricsTag.HORIZONTAL_CLIPPING_DESCENT,
        )
    )
    return int((above or 0) + abs(below or 0))


def _advances(font: uharfbuzz.Font, line: str) -> int:
    buffer = uharfbuzz.Buffer()
    buffer.add_str(line)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer)
    return sum(position.x_advance for position in buffer.glyph_positions)
