"""How wide lines come out, measured with the font they are drawn in."""

from collections.abc import Callable
from functools import cache
from importlib import resources

import uharfbuzz

from dunlin.core.styles.model import Style, Weight
from dunlin.core.styles.picture import Script, base_size

__all__ = ["line_width", "surely_fitting", "text_width"]


def line_width(line: str, style: Style, picture: Script) -> float:
    """Part of the picture's width that a line takes.

    Shaped by HarfBuzz, as libass does, with the font at the style's size; the outline is left out.
    """
    return text_width(line, style, picture) / picture.width


def text_width(text: str, style: Style, picture: Script) -> float:
    """Pixels of the picture that a text without line breaks takes, shaped with the style's font."""
    face = (style.weight, style.italic)
    units = _advances(_font(*face), text)
    return units * style.size * base_size(picture) / _line_units(*face)


def surely_fitting(style: Style, picture: Script, limit: float) -> Callable[[str], bool]:
    """What tells whether the lines of a text are narrower than a limit by the widths of their letters alone.

    False says nothing; it spares shaping where there is much room.
    """
    # What letters move together, as with `fi` and `AV`, is far more than what they move apart.
    face = (style.weight, style.italic)
    room = 0.97 * limit * picture.width * _line_units(*face) / (style.size * base_size(picture))
    width_of = _letters(*face).__getitem__

    def fits(text: str) -> bool:
        return max(sum(map(width_of, line)) for line in text.split("\n")) < room

    return fits


class _Letters(dict[str, int]):
    """Font units of each letter alone, measured when it is first asked for."""

    def __init__(self, weight: Weight, italic: bool) -> None:
        super().__init__()
        self.font = _font(weight, italic)

    def __missing__(self, letter: str) -> int:
        self[letter] = units = _advances(self.font, letter)
        return units


@cache
def _letters(weight: Weight, italic: bool) -> _Letters:
    return _Letters(weight, italic)


@cache
def _font(weight: Weight, italic: bool) -> uharfbuzz.Font:
    name = _FACES[weight, italic]
    face = (resources.files("dunlin") / "fonts" / f"NotoSans-{name}.ttf").read_bytes()
    return uharfbuzz.Font(uharfbuzz.Face(face))


_FACES: dict[tuple[Weight, bool], str] = {
    (400, False): "Regular",
    (400, True): "Italic",
    (700, False): "Bold",
    (700, True): "BoldItalic",
    (900, False): "Black",
    (900, True): "BlackItalic",
}


@cache
def _line_units(weight: Weight, italic: bool) -> int:
    """Font units from ascent to descent, which libass scales to the font size."""
    extents = _font(weight, italic).get_font_extents("ltr")
    return int(extents.ascender - extents.descender)


def _advances(font: uharfbuzz.Font, line: str) -> int:
    buffer = uharfbuzz.Buffer()
    buffer.add_str(line)
    buffer.guess_segment_properties()
    uharfbuzz.shape(font, buffer)
    return sum(position.x_advance for position in buffer.glyph_positions)
