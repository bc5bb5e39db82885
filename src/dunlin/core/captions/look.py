"""How words look: a part of it, as a caption, some of its words or a style says it.

The words are those of CSS and TTML 2; sizes are parts of the picture, so that a look is the same on every film.
"""

from collections.abc import Mapping
from dataclasses import dataclass, fields
from typing import Annotated, Any, Literal, TypeAlias

from pydantic import Field, StringConstraints

from dunlin.core.captions.bounds import Colour, Milliseconds, PathData, PictureShare

__all__ = [
    "MOMENTARY",
    "PROPERTIES",
    "WORD_STATES",
    "Case",
    "Entrance",
    "Look",
    "Moment",
    "StyleName",
    "Telling",
    "Weight",
    "WordLook",
    "look_of_stored",
    "said_by",
    "stored_look",
]

Case: TypeAlias = Literal["written", "upper", "lower", "sentence"]
"""How letters are shown: as they are written, or in a case whatever they are written in."""

Weight: TypeAlias = Literal[400, 700, 900]
"""Regular, bold or black, as CSS counts."""

Entrance: TypeAlias = Literal["cut", "fade", "rise", "grow", "wipe", "type"]
"""How a caption comes, or goes the other way round: at once, out of nothing, from below, from small, uncovered from
where its lines begin, or letter by letter."""

Telling: TypeAlias = Literal["cut", "wash", "slide", "draw", "rise", "grow", "type"]
"""How it is told which word is spoken: at once, by a colour that goes through its letters, by a ground that goes over from
the word before, by one that is drawn behind the words as they are spoken, or by the word coming from below, from small, or letter by letter."""

Family: TypeAlias = Annotated[
    str, StringConstraints(min_length=1, max_length=100, pattern=r"^[^,\\{}\x00-\x1f]+$")
]
"""Name of a family of fonts, as a script can have it: without commas and codes."""

StyleName: TypeAlias = Annotated[
    str,
    StringConstraints(
        strip_whitespace=True, min_length=1, max_length=100, pattern=r"^[^,/\\{}\x00-\x1f]+$"
    ),
]
"""Name of a style, as a file of captions can have it: without commas and codes."""

_Share: TypeAlias = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
_Size: TypeAlias = Annotated[float, Field(gt=0, le=2, allow_inf_nan=False)]
_Edge: TypeAlias = Annotated[float, Field(ge=0, le=0.2, allow_inf_nan=False)]
_Factor: TypeAlias = Annotated[float, Field(ge=0.1, le=5, allow_inf_nan=False)]
_Spacing: TypeAlias = Annotated[float, Field(ge=-0.5, le=2, allow_inf_nan=False)]
_Degrees: TypeAlias = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)]
_Length: TypeAlias = Annotated[int, Field(ge=0, le=10_000)]


@dataclass(frozen=True)
class Moment:
    """How a caption is at a moment of its time; what is None is on its way from the moment before to the one after."""

    at_ms: Milliseconds
    """From the caption's in."""
    x: PictureShare | None = None
    y: PictureShare | None = None
    size: _Size | None = None
    turn: _Degrees | None = None
    colour: Colour | None = None
    opacity: _Share | None = None


MOMENTARY = tuple(each.name for each in fields(Moment) if each.name != "at_ms")
"""Names of all that can be otherwise from moment to moment."""

_MOST_MOMENTS = 5_000
"""Three minutes of a sign that is followed frame by frame."""


@dataclass(frozen=True)
class WordLook:
    """How words look otherwise than those around them, while they are spoken, or because they weigh more; what is None is
    as there."""

    font: Family | None = None
    weight: Weight | None = None
    italic: bool | None = None
    underline: bool | None = None
    case: Case | None = None
    scale: Annotated[float, Field(ge=0.3, le=3, allow_inf_nan=False)] | None = None
    """Of their size."""
    colour: Colour | None = None
    opacity: _Share | None = None
    background: Colour | None = None
    """Of a ground behind them."""
    background_opacity: _Share | None = None


@dataclass(frozen=True)
class Look:
    """A part of how words look; what is None is left to what lies below.

    Sizes are parts of the picture's height (of an upright one, see `base_size`), places parts of its width and
    height, colours `#RRGGBB`, transparency as the part that is not let through, angles degrees.
    """

    font: Family | None = None
    weight: Weight | None = None
    italic: bool | None = None
    underline: bool | None = None
    strike: bool | None = None
    size: _Size | None = None
    """Height of the line, from ascent to descent."""
    stretch: _Factor | None = None
    """Width of the letters, against how they are drawn in the font."""
    letter_spacing: _Spacing | None = None
    """Between letters, as a part of the size."""
    line_spacing: _Factor | None = None
    """From line to line, as a part of the size."""
    second_line: _Factor | None = None
    """Of the size: how large lines below the first are that are broken by hand."""
    case: Case | None = None

    colour: Colour | None = None
    opacity: _Share | None = None
    outline_colour: Colour | None = None
    outline_opacity: _Share | None = None
    outline: _Edge | None = None
    """Width of the edge around letters; 0 for none."""
    outline_softness: _Edge | None = None
    shadow_colour: Colour | None = None
    shadow_opacity: _Share | None = None
    shadow: _Edge | None = None
    """How far the shadow lies from the letters; 0 for none."""
    shadow_direction: _Degrees | None = None
    """Where it falls: 0 to the right, 90 downwards."""
    shadow_softness: _Edge | None = None
    depth: bool | None = None
    """The letters reach all the way to their shadow, as if they were cut from a board."""
    background: Colour | None = None
    background_opacity: _Share | None = None
    background_shape: Literal["lines", "caption", "torn"] | None = None
    """Around each line, around the whole caption, or so as a strip of paper is torn off."""
    background_padding: _Edge | None = None
    background_corners: _Edge | None = None
    """Radius of its corners."""

    margin: _Share | None = None
    side_margin: _Share | None = None
    anchor: Literal["top", "middle", "bottom"] | None = None
    align: Literal["left", "center", "right"] | None = None
    x: PictureShare | None = None
    y: PictureShare | None = None
    width: PictureShare | None = None
    vertical: Literal["rl", "lr"] | None = None
    turn: _Degrees | None = None
    """Clockwise, about the caption's own point."""
    tilt_x: _Degrees | None = None
    """In depth, about the horizontal line through that point: the upper part goes away from who looks."""
    tilt_y: _Degrees | None = None
    """In depth, about the upright line through it: the right part goes away."""

    window: PathData | None = None
    """What of the picture it is seen through, or behind: an outline in parts of its width and height."""
    window_keeps: Literal["inside", "outside"] | None = None

    shape: PathData | None = None
    """Of a caption without words: an outline that is filled, as large as the box around it is made: as tall as `size`, as
    wide as `width`, or without one as it is tall."""
    layer: Literal["beneath", "above"] | None = None
    """Whether it is drawn beneath all others, or above them."""

    comes: Entrance | None = None
    comes_ms: _Length | None = None
    goes: Entrance | None = None
    goes_ms: _Length | None = None
    moments: Annotated[tuple[Moment, ...], Field(max_length=_MOST_MOMENTS)] | None = None
    """How it is at times in between, in even steps from each to the next."""

    spoken: WordLook | None = None
    """Of the word that is being spoken, where it is known when words are."""
    said: WordLook | None = None
    """Of those before it."""
    to_come: WordLook | None = None
    """Of those after it."""
    spoken_by: Telling | None = None
    spoken_ground: Literal["box", "line"] | None = None
    """What the ground of spoken words is: a box around them, or a line beneath."""
    emphasis: WordLook | None = None
    """Of words of weight."""
    emphasis_2: WordLook | None = None
    """Of those of weight that are set apart from the others."""


PROPERTIES = tuple(each.name for each in fields(Look))
"""Names of all that a look can say."""


WORD_STATES = ("spoken", "said", "to_come", "emphasis", "emphasis_2")
"""Names of all that a look says of some of its words."""


def said_by(look: Any) -> dict[str, Any]:
    """What a look says, or another thing whose parts may be left open, by its names; nothing of what it leaves open."""
    return {name: value for name, value in vars(look).items() if value is not None}


def stored_look(look: Look) -> dict[str, Any]:
    """What a look says, in numbers, strings, lists and objects alone, as JSON has them."""
    said = said_by(look)
    if look.moments:
        said["moments"] = [said_by(moment) for moment in look.moments]
    return said | {name: said_by(said[name]) for name in WORD_STATES if name in said}


def look_of_stored(stored: Mapping[str, Any]) -> Look:
    """A look of what `stored_look` gave."""
    parts: dict[str, Any] = {
        name: WordLook(**stored[name]) for name in WORD_STATES if name in stored
    }
    if moments := stored.get("moments"):
        parts["moments"] = tuple(Moment(**moment) for moment in moments)
    return Look(**{**stored, **parts})
