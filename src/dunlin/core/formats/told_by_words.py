"""What styles and captions say of their looks, told by the words themselves: for formats that have no looks, but emphasis,
colours, backgrounds and places."""

from collections.abc import Callable
from dataclasses import replace
from functools import cache
from typing import Any

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Placement, Span, joined
from dunlin.core.formats.model import Document
from dunlin.core.formats.named_styles import NamedStyles, StyleNames

__all__ = ["looks_said", "told_by_words"]

_CARRIED = (
    "italic", "underline", "weight", "colour", "background", "anchor", "align", "x", "y", "width", "vertical", "case",
)  # fmt: skip
"""What of a look words and places can tell without it."""
_WHITE = "#FFFFFF"
_BOLD = 600


def told_by_words(document: Document, styles: NamedStyles | None = None) -> Document:
    """A document whose words say themselves that they are italic, underlined, in a colour or on a background, and whose
    captions say where they stand, where their style or their look does.

    What is bold is told of captions whose style or look is bolder than the style of all others; where all are bold, none
    is told apart.

    :param styles: of a format that has some: what they keep of a caption's whole look is in a style that the caption names,
        and not told by its words; without them captions keep the names of their styles, and what they say of their look
        beyond words
    """
    captions = document.captions
    usual = document.styles.get(document.style or "")
    is_bold = usual is None or usual.weight is None or usual.weight >= _BOLD
    if not document.styles and all(each.look is None for each in captions):
        bare = not styles or all(each.style is None for each in captions)
        without = captions if bare else tuple(replace(each, style=None) for each in captions)
        return replace(document, captions=without)
    names = StyleNames(styles) if styles else None
    said_by_all = looks_said(document)

    # A track has a few looks, and thousands of captions in them.
    @cache
    def parted(
        style: str | None, speaker: str | None, look: Look | None
    ) -> tuple[dict[str, Any], str | None]:
        """What words have to say of a look, and the name of the style that says the rest."""
        said = said_by_all(style, speaker, look)
        kept = styles.kept(Look(**said)) if styles else None
        if names is None or kept is None:
            return said, None
        left = {key: value for key, value in said.items() if getattr(kept, key) is None}
        return left, names.name_of(kept, _name_of(style, speaker, document))

    def told(caption: Caption) -> Caption:
        if caption.is_shape:
            return caption
        said, name = parted(caption.style, caption.speaker, caption.look)
        bold = not is_bold and said.get("weight", 0) >= _BOLD
        worded = _told(caption, said, bold)
        return replace(worded, style=name) if styles else worded

    captions = tuple(map(told, captions))
    if names is None:
        return replace(document, captions=captions)
    return replace(document, captions=captions, styles=names.looks, style=None, speakers={})


def looks_said(
    document: Document,
) -> Callable[[str | None, str | None, Look | None], dict[str, Any]]:
    """What the style of a name, that of a speaker and a caption's own look say, each over those before it."""
    styles = document.styles
    usual = styles.get(document.style or "")

    @cache
    def said(style: str | None, speaker: str | None, look: Look | None) -> dict[str, Any]:
        named = styles.get(style, usual) if style else usual
        own = styles.get(document.speakers.get(speaker or "", ""))
        return {
            name: value
            for each in (named, own, look)
            if each
            for name, value in said_by(each).items()
        }

    return said


def _name_of(style: str | None, speaker: str | None, document: Document) -> str:
    """The name of the style that says most of a caption's look, among those it has."""
    named = style if style in document.styles else None
    return named or document.speakers.get(speaker or "") or document.style or "Style"


def _told(caption: Caption, said: dict[str, Any], bold: bool) -> Caption:
    if not said:
        return caption
    look = replace(caption.look, **dict.fromkeys(_CARRIED)) if caption.look else None
    return replace(
        caption,
        spans=joined(_span(span, said, bold) for span in caption.spans),
        placement=caption.placement or _place(said),
        case=caption.case or said.get("case"),
        look=look if look and said_by(look) else None,
    )


def _place(said: dict[str, Any]) -> Placement | None:
    place = Placement(
        said.get("anchor", "bottom"), said.get("align", "center"),
        said.get("x"), said.get("y"), said.get("width"), said.get("vertical"),
    )  # fmt: skip
    return None if place == Placement() else place


def _span(span: Span, said: dict[str, Any], bold: bool) -> Span:
    own = span.look or Look()
    if span.spoken and span.spoken.emphasis:
        kinds = ("emphasis", "emphasis_2")[: span.spoken.emphasis]
        weighty = next((said[kind] for kind in reversed(kinds) if said.get(kind)), None)
        said = said | (said_by(weighty) if weighty else {})
        bold = bold or (weighty is not None and (weighty.weight or 0) >= _BOLD)
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
