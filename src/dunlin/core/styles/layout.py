"""Where the lines of a caption come to lie on the picture, by their measured widths."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import cos, radians, sin
from operator import add

from dunlin.core.captions.model import Span
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.telling import is_told
from dunlin.core.styles.wrapping import lines_of, spans_width

__all__ = [
    "RUBY_SIZE",
    "Layout",
    "Line",
    "has_ground",
    "has_shadow_apart",
    "is_laid_by_line",
    "is_layered",
    "keypad_of",
    "laid_out",
    "point_of",
    "shape_box",
    "turned_about",
]

RUBY_SIZE = 0.5
"""Height of a reading, as a part of that of the words it stands beside (JLREQ 3.3.3)."""


@dataclass(frozen=True)
class Line:
    """A line of a caption, in pixels of the picture before it is turned."""

    spans: tuple[Span, ...]
    left: float
    top: float
    width: float
    height: float


@dataclass(frozen=True)
class Layout:
    """The lines of a caption, and the point about which it is turned and tilted."""

    lines: tuple[Line, ...]
    point: tuple[float, float]

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, top, right and bottom of all lines."""
        return (
            min(line.left for line in self.lines),
            min(line.top for line in self.lines),
            max(line.left + line.width for line in self.lines),
            max(line.top + line.height for line in self.lines),
        )


def point_of(style: Style, picture: Script) -> tuple[float, float]:
    """The point of the picture, in pixels, that a caption's own point comes to lie on."""
    side, margin = style.side_margin, style.margin
    x = {"left": side, "center": 0.5, "right": 1 - side}[style.align]
    y = {"top": margin, "middle": 0.5, "bottom": 1 - margin}[style.anchor]
    x, y = x if style.x is None else style.x, y if style.y is None else style.y
    return x * picture.width, y * picture.height


def has_ground(style: Style) -> bool:
    """Whether something is filled behind the whole caption."""
    return style.background is not None and style.background_opacity > 0


def has_shadow_apart(style: Style) -> bool:
    """Whether its shadow is no simple one, which the renderer draws with the words."""
    return style.shadow > 0 and style.shadow_opacity > 0 and (
        style.depth or style.shadow_softness != style.outline_softness
    )  # fmt: skip


def is_laid_by_line(style: Style, spans: Iterable[Span]) -> bool:
    """Whether its lines have to be put where they belong one by one."""
    return style.line_spacing != 1 or any(span.ruby for span in spans)


def is_layered(style: Style, spans: Sequence[Span]) -> bool:
    """Whether a caption that stands still is drawn in several events, or in one that the renderer does not place."""
    return bool(
        has_ground(style) or has_shadow_apart(style) or is_laid_by_line(style, spans) or is_told(style, spans)
        or style.vertical or style.turn or style.tilt_x or style.tilt_y
    )  # fmt: skip


def turned_about(
    centre: tuple[float, float], point: tuple[float, float], degrees: float
) -> tuple[float, float]:
    """Where a point of the picture comes to lie that is turned clockwise about another."""
    angle = radians(degrees)
    x, y = point[0] - centre[0], point[1] - centre[1]
    return (
        centre[0] + x * cos(angle) - y * sin(angle),
        centre[1] + x * sin(angle) + y * cos(angle),
    )


def _before_point(style: Style) -> tuple[float, float]:
    """Which parts of a caption's width and height lie to the left of its point, and above it."""
    across = ("left", "center", "right").index(style.align) / 2
    down = ("top", "middle", "bottom").index(style.anchor) / 2
    # Lines that run downwards are laid out lying, and turned clockwise: above becomes right, left above.
    return (down, 1 - across) if style.vertical else (across, down)


def keypad_of(style: Style) -> int:
    """The number, as on a keypad, of a caption's own point before it is turned."""
    across, down = _before_point(style)
    return int((1 - down) * 2) * 3 + int(across * 2) + 1


def shape_box(style: Style, picture: Script) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of the box that a shape fills, in pixels of the picture before it is turned."""
    height = style.size * base_size(picture)
    width = height if style.width is None else style.width * picture.width
    x, y = point_of(style, picture)
    left = x - width * ("left", "center", "right").index(style.align) / 2
    top = y - height * ("top", "middle", "bottom").index(style.anchor) / 2
    return left, top, left + width, top + height


def laid_out(spans: Iterable[Span], style: Style, picture: Script) -> Layout:
    """The places of all lines of a text that is wrapped already.

    Lines are as tall as the font of their largest words from ascent to descent, with the reading that stands above one.
    """
    lines = lines_of(spans)
    heights = [_height(line, style) * base_size(picture) for line in lines]
    above = [
        height * RUBY_SIZE * any(span.ruby for span in line)
        for line, height in zip(lines, heights, strict=True)
    ]
    tops, bottom = [], 0.0
    for number, (extra, height) in enumerate(zip(above, heights, strict=True)):
        tops.append(bottom + (style.line_spacing - 1) * height * bool(number))
        bottom = tops[-1] + extra + height
    x, y = point = point_of(style, picture)
    across, down = _before_point(style)
    placed = []
    for line, top, height in zip(lines, tops, map(add, heights, above), strict=True):
        width = spans_width(line, style, picture)
        placed.append(Line(line, x - width * across, y - bottom * down + top, width, height))
    return Layout(tuple(placed), point)


def _height(line: Sequence[Span], style: Style) -> float:
    """Of the largest words of a line, as a part of the picture's; an empty one is as high as words would be."""
    sizes = [(span.look and span.look.size) or style.size for span in line]
    return max(sizes, default=style.size)
