"""What styles and captions say of their looks, told by the words themselves: for formats that have no looks, but emphasis,
colours, backgrounds and places."""

from dataclasses import replace
from typing import Any

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Placement, Span, joined, with_extra
from dunlin.core.formats.model import Document
from dunlin.core.styles.model import STYLES

__all__ = ["told_by_words"]

_CARRIED = (
    "italic", "underline", "weight", "colour", "background", "anchor", "align", "x", "y", "width", "vertical",
)  # fmt: skip
"""What of a look words and places can tell without it."""
_WHITE = "#FFFFFF"
_BOLD = 600


def told_by_words(document: Document) -> Document:
    """A document whose words say themselves that they are italic, underlined, in a colour or on a background, and whose
    captions say where they stand, where their style or their look does.

    What is bold is told of captions whose style or look is bolder than the style of all others; where all are bold, none
    is told apart.
    """
    usual = document.styles.get(document.style or "")
    is_bold = usual is None or usual.weight is None or usual.weight >= _BOLD
    if not document.styles and all(caption.look is None for caption in document.captions):
        return document
    captions = tuple(
        _told(caption, _said(caption, document, usual), is_bold) for caption in document.captions
    )
    return replace(document, captions=captions)


def _said(caption: Caption, document: Document, usual: Look | None) -> dict[str, Any]:
    """What a caption's style, its speaker's and its own look say, each over those before it."""
    styles = document.styles
    style = styles.get(caption.style, usual) if caption.style else usual
    speaker = styles.get(document.speakers.get(caption.speaker or "", ""))
    said: dict[str, Any] = {}
    for look in (style, speaker, caption.look):
        if look:
            said |= said_by(look)
    return said


def _told(caption: Caption, said: dict[str, Any], is_usually_bold: bool) -> Caption:
    if not said or caption.is_shape:
        return caption
    look = replace(caption.look, **dict.fromkeys(_CARRIED)) if caption.look else None
    extras = caption.extras
    if edge := _edge(said):
        extras = with_extra(extras, "ttml:outline", edge)
    bold = not is_usually_bold and said.get("weight", 0) >= _BOLD
    return replace(
        caption,
        spans=joined(_span(span, said, bold) for span in caption.spans),
        placement=caption.placement or _place(said),
        look=look if look and said_by(look) else None,
        extras=extras,
    )


_SIZE = STYLES["house"].size
_THICKEST = 10


def _edge(said: dict[str, Any]) -> str | None:
    """An outline as IMSC has it: its colour, and its width in parts of a hundred of the letters' size, ten at the most
    (IMSC 1.1, 7.8.4.8)."""
    width = said.get("outline")
    if not width:
        return None
    share = min(round(width / said.get("size", _SIZE) * 100, 2), _THICKEST)
    return f"{said.get('outline_colour', STYLES['house'].outline_colour)} {share:g}%"


def _place(said: dict[str, Any]) -> Placement | None:
    place = Placement(
        said.get("anchor", "bottom"), said.get("align", "center"),
        said.get("x"), said.get("y"), said.get("width"), said.get("vertical"),
    )  # fmt: skip
    return None if place == Placement() else place


def _span(span: Span, said: dict[str, Any], bold: bool) -> Span:
    own = span.look or Look()
    colour = said.get("colour")
    ground = said.get("background") if said.get("background_opacity", 1) else None
    return replace(
        span,
        italic=span.italic or bool(said.get("italic") and own.italic is not False),
        underline=span.underline or bool(said.get("underline") and own.underline is not False),
        bold=span.bold or (bold and (own.weight is None or own.weight >= _BOLD)),
        colour=span.colour or (colour if colour != _WHITE else None),
        background=span.background or ground,
    )
