"""How captions look: complete styles, and looks that say a part of one, laid over each other."""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from functools import cached_property, lru_cache
from typing import Any, Literal

from dunlin.core.captions.look import (
    PROPERTIES,
    Case,
    Entrance,
    Look,
    Moment,
    Telling,
    Weight,
    WordLook,
    said_by,
)
from dunlin.core.captions.model import Caption, Placement, Span

__all__ = [
    "STYLES",
    "Look",
    "Style",
    "StyleSheet",
    "Weight",
    "bolder",
    "look_of_caption",
    "look_of_span",
    "placement_of",
    "sheet_with",
    "style_of_words",
    "styled",
]


@dataclass(frozen=True)
class Style:
    """The whole look of captions, under a name; what its properties mean stands at `Look`."""

    id: str
    name: str
    font: str = "Noto Sans"
    weight: Weight = 700
    italic: bool = False
    underline: bool = False
    strike: bool = False
    size: float = 0.07
    """50 pixels on a 720-line picture."""
    stretch: float = 1.0
    letter_spacing: float = 0.0
    line_spacing: float = 1.0
    second_line: float = 1.0
    case: Case = "written"

    colour: str = "#FFFFFF"
    opacity: float = 1.0
    outline_colour: str = "#14191B"
    outline_opacity: float = 1.0
    outline: float = 0.0046
    outline_softness: float = 0.0
    shadow_colour: str = "#14191B"
    shadow_opacity: float = 1.0
    shadow: float = 0.002
    shadow_direction: float = 45.0
    shadow_softness: float = 0.0
    depth: bool = False
    background: str | None = None
    """Colour of a filled ground behind the words; None for none."""
    background_opacity: float = 1.0
    background_shape: Literal["lines", "caption", "torn"] = "lines"
    background_padding: float = 0.009
    background_corners: float = 0.0

    margin: float = 0.055
    """Distance of the lowest line from the picture's lower edge, or of the highest from the upper."""
    side_margin: float = 0.06
    """Part of the picture's width kept free on either side."""
    anchor: Literal["top", "middle", "bottom"] = "bottom"
    align: Literal["left", "center", "right"] = "center"
    x: float | None = None
    y: float | None = None
    width: float | None = None
    """Part of the picture's width that lines may take before they wrap; None is what the side margins leave."""
    vertical: Literal["rl", "lr"] | None = None
    turn: float = 0.0
    tilt_x: float = 0.0
    tilt_y: float = 0.0

    window: str | None = None
    window_keeps: Literal["inside", "outside"] = "inside"

    shape: str | None = None
    layer: Literal["beneath", "above"] | None = None

    comes: Entrance = "cut"
    comes_ms: int = 200
    goes: Entrance = "cut"
    goes_ms: int = 200
    moments: tuple[Moment, ...] | None = None

    spoken: WordLook | None = None
    said: WordLook | None = None
    to_come: WordLook | None = None
    spoken_by: Telling = "cut"
    spoken_ground: Literal["box", "line"] = "box"
    emphasis: WordLook | None = None
    emphasis_2: WordLook | None = None

    language: str = "en"
    """BCP 47 tag of the words: whose forms Chinese characters have, and from which side lines run."""

    # What was measured and written is kept by the style, and asked for with each frame of words that are told.
    def __hash__(self) -> int:
        return self._hash

    @cached_property
    def _hash(self) -> int:
        return hash(tuple(getattr(self, each.name) for each in fields(self)))

    def with_values(self, said: Mapping[str, Any]) -> "Style":
        """The same style with other values of some of its properties."""
        # A file has tens of thousands of codes: setting all fields one by one takes ten times as long.
        style = object.__new__(Style)
        own = style.__dict__
        own.update(self.__dict__)
        own.pop("_hash", None)
        own.update(said)
        return style


def styled(style: Style, *looks: Look) -> Style:
    """The style with looks laid over it, each over those before it. The one place where looks meet."""
    said = {
        name: value
        for look in looks
        for name in PROPERTIES
        if (value := getattr(look, name)) is not None
    }
    return style.with_values(said) if said else style


def look_of_caption(caption: Caption) -> Look:
    """What a caption says of its look itself."""
    place, look = caption.placement, caption.look or _NOTHING
    if place is None:
        return look if caption.case is None else replace(look, case=caption.case)
    return replace(
        look,
        anchor=place.anchor,
        align=place.align,
        x=place.x,
        y=place.y,
        width=place.width,
        vertical=place.vertical,
        case=caption.case or look.case,
    )


def look_of_span(span: Span) -> Look:
    """What words say of their look: styles are put on, never taken off."""
    if span.is_plain:
        return _NOTHING
    said: dict[str, Any] = {
        "italic": span.italic or None,
        "underline": span.underline or None,
        "colour": span.colour,
        "background": span.background,
    }
    return Look(**(said | said_by(span.look) if span.look else said))


def style_of_words(style: Style, span: Span) -> Style:
    """The whole look of words in a caption; bold ones are bolder than those around them, as `bolder`
    is in CSS Fonts 4, 2.2.1."""
    if span.is_plain:
        return style
    return _with_words(
        style, span.look, span.italic, span.underline, span.colour, span.background, span.bold
    )


# The words of a caption are measured over and over while its lines are broken.
@lru_cache(1024)
def _with_words(
    style: Style, own: Look | None, italic: bool, underline: bool, colour: str | None,
    background: str | None, bold: bool,
) -> Style:  # fmt: skip
    look = look_of_span(Span("", italic, bold, underline, colour, background, look=own))
    # The ground behind a caption is drawn once, and is not that of words in it.
    words = styled(replace(style, background=None), look)
    return replace(words, weight=bolder(style.weight)) if bold and not look.weight else words


def bolder(weight: Weight) -> Weight:
    """The weight of bold words among others of a weight."""
    return 900 if weight >= 600 else 700


_NOTHING = Look()
_HOUSE = Style("house", "House")

STYLES: dict[str, Style] = {_HOUSE.id: _HOUSE}
"""Style by id; `house` looks right on any picture: white, bold, with a dark edge."""


@dataclass(frozen=True)
class StyleSheet:
    """The styles of a track: named ones, the one of all others, and the looks that speakers have."""

    default: Style = _HOUSE
    styles: Mapping[str, Style] = field(default_factory=dict)
    speakers: Mapping[str, Look] = field(default_factory=dict)

    def in_language(self, language: str) -> "StyleSheet":
        """The same styles for words of a language.

        :param language: BCP 47 tag
        """
        if language == self.default.language:
            return self
        styles = {id_: replace(style, language=language) for id_, style in self.styles.items()}
        return replace(self, default=replace(self.default, language=language), styles=styles)

    def named_of(self, caption: Caption) -> Style:
        """The style that a caption names, or that of those which name none."""
        return self.styles.get(caption.style or "", self.default)

    def base_of(self, caption: Caption) -> Style:
        """The style that a caption is set in, before what is said of it alone."""
        named = self.named_of(caption)
        speaker = self.speakers.get(caption.speaker or "")
        return styled(named, speaker) if speaker else named

    def style_of(self, caption: Caption) -> Style:
        """The style of a caption's plain words: its named style, its speaker's look, its own."""
        return styled(self.base_of(caption), look_of_caption(caption))


def sheet_with(styles: Mapping[str, Look], default: str | None = None) -> StyleSheet:
    """A sheet of styles that say a part of their look each, over the one that ships.

    :param default: name of the one of captions that name none
    """
    whole = {
        name: replace(styled(_HOUSE, look), id=name, name=name) for name, look in styles.items()
    }
    return StyleSheet(whole.get(default or "", _HOUSE), whole)


def placement_of(style: Style) -> Placement:
    """Where a style puts a caption."""
    return Placement(style.anchor, style.align, style.x, style.y, style.width, style.vertical)
