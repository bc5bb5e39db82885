"""How captions look: complete styles, and looks that say a part of one, laid over each other."""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from typing import Literal, TypeAlias

from dunlin.core.captions.model import Caption, Case, Placement, Span

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
    "style_of_words",
    "styled",
]


Weight: TypeAlias = Literal[400, 700, 900]


@dataclass(frozen=True)
class Look:
    """A part of how words look; what is None is left to what lies below.

    Sizes are parts of the picture's height, places parts of its width and height, colours `#RRGGBB`.
    """

    font: str | None = None
    weight: Weight | None = None
    italic: bool | None = None
    underline: bool | None = None
    size: float | None = None
    colour: str | None = None
    background: str | None = None
    outline_colour: str | None = None
    outline: float | None = None
    shadow: float | None = None
    margin: float | None = None
    side_margin: float | None = None
    anchor: Literal["top", "middle", "bottom"] | None = None
    align: Literal["left", "center", "right"] | None = None
    x: float | None = None
    y: float | None = None
    width: float | None = None
    vertical: Literal["rl", "lr"] | None = None
    case: Case | None = None


@dataclass(frozen=True)
class Style:
    """The whole look of captions, under a name."""

    id: str
    name: str
    font: str = "Noto Sans"
    weight: Weight = 700
    """Regular, bold or black, as CSS counts."""
    italic: bool = False
    underline: bool = False
    size: float = 0.07
    """Height of the line, from ascent to descent; 50 pixels on a 720-line picture."""
    colour: str = "#FFFFFF"
    background: str | None = None
    """Colour of a filled ground behind the words."""
    outline_colour: str = "#14191B"
    outline: float = 0.0046
    shadow: float = 0.0014
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
    case: Case | None = None
    language: str = "en"
    """BCP 47 tag of the words: whose forms Chinese characters have, and from which side lines run."""


_PROPERTIES = tuple(each.name for each in fields(Look))


def styled(style: Style, *looks: Look) -> Style:
    """The style with looks laid over it, each over those before it. The one place where looks meet."""
    said = {
        name: value
        for look in looks
        for name in _PROPERTIES
        if (value := getattr(look, name)) is not None
    }
    return replace(style, **said) if said else style


def look_of_caption(caption: Caption) -> Look:
    """What a caption says of its look itself."""
    place = caption.placement
    if place is None:
        return _NOTHING if caption.case is None else Look(case=caption.case)
    return Look(
        anchor=place.anchor,
        align=place.align,
        x=place.x,
        y=place.y,
        width=place.width,
        vertical=place.vertical,
        case=caption.case,
    )


def look_of_span(span: Span) -> Look:
    """What words say of their look: styles are put on, never taken off."""
    if span.is_plain:
        return _NOTHING
    return Look(
        italic=span.italic or None,
        underline=span.underline or None,
        colour=span.colour,
        background=span.background,
    )


def style_of_words(style: Style, span: Span) -> Style:
    """The whole look of words in a caption; bold ones are bolder than those around them, as `bolder`
    is in CSS Fonts 4, 2.2.1."""
    if span.is_plain:
        return style
    look = styled(style, look_of_span(span))
    return replace(look, weight=bolder(style.weight)) if span.bold else look


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

    def base_of(self, caption: Caption) -> Style:
        """The style that a caption is set in, before what is said of it alone."""
        named = self.styles.get(caption.style or "", self.default)
        speaker = self.speakers.get(caption.speaker or "")
        return styled(named, speaker) if speaker else named

    def style_of(self, caption: Caption) -> Style:
        """The style of a caption's plain words: its named style, its speaker's look, its own."""
        return styled(self.base_of(caption), look_of_caption(caption))


def placement_of(style: Style) -> Placement:
    """Where a style puts a caption."""
    return Placement(style.anchor, style.align, style.x, style.y, style.width, style.vertical)
