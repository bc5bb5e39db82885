"""What a hand on the picture has to know of a caption: how it looks, what says so, and where its letters are."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from math import cos, radians, sin
from typing import Literal, TypeAlias

from dunlin.core.captions.look import PROPERTIES, Look, said_by
from dunlin.core.captions.model import Caption, Span
from dunlin.core.styles.layout import Layout, laid_out, point_of, shape_box, turned_about
from dunlin.core.styles.model import (
    Style,
    StyleSheet,
    look_of_caption,
    look_of_span,
    style_of_words,
)
from dunlin.core.styles.moments import at_moment
from dunlin.core.styles.picture import Script
from dunlin.core.styles.shelf import kept_by_fonts
from dunlin.core.styles.telling import shown_words
from dunlin.core.styles.wrapping import wrapped

__all__ = ["Frame", "Level", "covered_by", "frame_of", "levels_of", "whole_look", "words_look"]

Level: TypeAlias = Literal["words", "caption", "speaker", "style", "shipped"]
"""What says a property: the nearest to the words that says it at all."""

_OF_PLACE = ("anchor", "align", "x", "y", "width", "vertical")
"""What a caption says all at once, or nothing of."""


_EYE = 312.5
"""How far the eye is from the picture, in its pixels, as the renderer takes it (libass 0.17, ass_render.c)."""


@dataclass(frozen=True)
class Frame:
    """Where the letters of a caption are, in pixels of the picture, before it is turned and tilted."""

    left: float
    top: float
    right: float
    bottom: float
    x: float
    y: float
    """The point that it is placed by, turned and tilted about."""
    turned: float
    """Degrees clockwise; lines that run downwards are laid out lying, and turned by 90 more."""
    tilt_x: float
    tilt_y: float


def frame_of(
    caption: Caption,
    sheet: StyleSheet,
    picture: Script,
    raised: float | None = None,
    at_ms: int = 0,
) -> Frame | None:
    """The frame around a caption, or around a shape; None for one without words.

    :param raised: how far from its place it stands, as `raised_by` tells
    :param at_ms: from its in: when
    """
    rest = sheet.style_of(caption)
    style = at_moment(rest, at_ms)
    grown = style.size / rest.size
    if caption.is_shape:
        box = shape_box(replace(style, width=style.width and style.width * grown), picture)
        return Frame(
            *box, *point_of(style, picture), style.turn, style.tilt_x, style.tilt_y
        )  # fmt: skip
    if not caption.text.strip():
        return None
    # Its lines are broken as they are at rest, and grow with it.
    layout = _layout_of(caption.spans, replace(style, size=rest.size), picture)
    down = (raised or 0.0) * (-1 if style.anchor == "bottom" else 1)
    x, y = layout.point
    left, right = ((edge - x) * grown + x for edge in layout.box[::2])
    top, bottom = ((edge - y) * grown + y for edge in layout.box[1::2])
    turned = style.turn + 90 * bool(style.vertical)
    return Frame(
        left, top + down, right, bottom + down, x, y + down, turned, style.tilt_x, style.tilt_y
    )


# Several rules ask where a caption is, and a mend asks it of all around it for each thing that it tries.
@kept_by_fonts
@lru_cache(4096)
def _layout_of(spans: tuple[Span, ...], style: Style, picture: Script) -> Layout:
    return laid_out(wrapped(shown_words(spans, style), style, picture), style, picture)


def covered_by(frame: Frame) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what the letters take on the picture, turned and tilted as they are."""
    corners = [
        _projected((x, y), frame)
        for x in (frame.left, frame.right)
        for y in (frame.top, frame.bottom)
    ]
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    return min(xs), min(ys), max(xs), max(ys)


def _projected(point: tuple[float, float], frame: Frame) -> tuple[float, float]:
    """Where a point comes to lie that is turned, then tilted about the horizontal, then about the upright line."""
    x, y = turned_about((0, 0), (point[0] - frame.x, point[1] - frame.y), frame.turned)
    about_x, about_y = radians(frame.tilt_x), radians(frame.tilt_y)
    away = -y * sin(about_x)
    depth = x * sin(about_y) + away * cos(about_y)
    scale = _EYE / max(_EYE + depth, 1)
    across = x * cos(about_y) - away * sin(about_y)
    return frame.x + across * scale, frame.y + y * cos(about_x) * scale


def whole_look(style: Style) -> Look:
    """All that a style says, as a look to be laid over another."""
    return Look(**{each.name: getattr(style, each.name) for each in fields(Look)})


def words_look(style: Style, spans: Sequence[Span]) -> Style:
    """How words of a caption look, by the first of them; without any, as the caption does.

    :param style: the caption's
    """
    return style_of_words(style, spans[0]) if spans else style


def levels_of(
    caption: Caption,
    spans: Sequence[Span],
    named: Mapping[str, Look],
    default: str | None,
    speaker: str | None,
) -> dict[str, Level]:
    """What says each property.

    :param spans: the words that are asked about; none for the caption as a whole
    :param named: the styles of the project
    :param default: the style of captions that name none
    :param speaker: the style that the caption's speaker has
    """
    own = set(said_by(look_of_caption(caption)))
    if caption.placement is not None:
        own.update(_OF_PLACE)
    levels: dict[str, Level] = dict.fromkeys(PROPERTIES, "shipped")
    nothing = Look()
    style = named.get(caption.style or "") or named.get(default or "", nothing)
    said: list[tuple[Level, set[str]]] = [
        ("style", set(said_by(style))),
        ("speaker", set(said_by(named.get(speaker or "", nothing)))),
        ("caption", own),
    ]
    if spans:
        said.append(("words", set().union(*(_said_by_words(span) for span in spans))))
    for level, names in said:
        levels.update(dict.fromkeys(names, level))
    return levels


def _said_by_words(span: Span) -> set[str]:
    return set(said_by(look_of_span(span))) | ({"weight"} if span.bold else set())
