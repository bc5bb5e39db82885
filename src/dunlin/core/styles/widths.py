"""How wide lines come out, measured with the font they are drawn in."""

from collections.abc import Callable
from functools import cache
from importlib import resources

import uharfbuzz

from dunlin.core.styles.model import Style
from dunlin.core.styles.script import Script, base_size

__all__ = ["line_width", "surely_fitting"]


def line_width(line: str, style: Style, picture: Script) -> float:
    """Part of the picture's width that a line takes.

    Shaped by HarfBuzz, as libass does, with the font at the style's size; the outline is left out.
    """
    font = _font(style.bold)
    pixels = style.size * base_size(picture)
    units = _advances(font, line)
    return units * pixels / _line_units(style.bold) / picture.width


def surely_fitting(style: Style, picture: Script, limit: float) -> Callable[[str], bool]:
    """What tells whether the lines of a text are narrower than a limit by the widths of their letters alone.

    False says nothing; it spares shaping where there is much room.
    """
    # What letters move together, as with `fi` and `AV`, is far more than what they move apart.
    room = (
        0.97 * limit * picture.width * _line_units(style.bold) / (style.size * base_size(picture))
    )
    width_of = _letters(style.bold).__getitem__

    def fits(text: str) -> bool:
        return max(sum(map(width_of, line)) for line in text.split("\n")) < room

    return fits


class _Letters(dict[str, int]):
    """Font units of each letter alone, measured when it is first asked for."""

    def __init__(self, bold: bool) -> None:
        super().__init__()
        self.font = _font(bold)

    def __missing__(self, letter: str) -> int:
        self[letter] = units = _advances(self.font, letter)
        return units


@cache
def _letters(bold: bool) -> _Letters:
    return _Letters(bold)


@cache
def _face(bold: bool) -> uharfbuzz.Face:
    name = "NotoSans-Bold.ttf" if bold else "NotoSans-Regular.ttf"
    return uharfbuzz.Face((resources.files("dunlin") / "fonts" / name).read_bytes())


@cache
def _font(bold: bool) -> uharfbuzz.Font:
    return uharfbuzz.Font(_face(bold))


@cache
def _line_units(bold: bool) -> int:
    """Font units from ascent to descent, which libass scales to the font size."""
    extents = _font(bold).get_font_extents("ltr")
    return int(extents.ascender - extents.descender)


def _advances(font: uharfbuzz.Font, line: str) -> int:
    buffer = uharfbuzz.Buffer()
    buffer.add_str(line)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer)
    return sum(position.x_advance for position in buffer.glyph_positions)
