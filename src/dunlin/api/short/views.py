"""Looks, and tracks in short form, as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.tracks.views import GestureRequest
from dunlin.api.wire import View
from dunlin.core.captions.look import StyleName
from dunlin.core.short.model import Fit, Rhythm, Seen, ShortLook, Weighing
from dunlin.core.short.moving import Deed

__all__ = [
    "DeedRequest",
    "HeadingRequest",
    "KeepLookRequest",
    "LookSpecimensView",
    "OfferedView",
    "PhraseView",
    "ShortLookView",
    "ShortRequest",
    "ShortView",
    "TightView",
]


class ShortLookView(View):
    """A look that captions can be set in."""

    look: ShortLook
    kept: bool
    """Whether it is kept for all projects; else it ships."""
    default: bool
    """Whether upright films begin with it."""


class LookSpecimensView(View):
    """A render script with a cell for each look, in which words of the film are told over and over."""

    names: list[str]
    script: str
    loop_ms: int
    """How long it takes until they are told from the beginning."""


class TightView(View):
    """A caption that a viewer does not see all of."""

    caption: str
    text: str
    wider: float
    """By what part of the room it has it is wider than that."""


class OfferedView(View):
    """An emoji that goes with a word of a caption."""

    caption: str
    offset: int
    """Character of its text that the word begins with."""
    text: str
    emoji: str


class ShortView(View):
    """How a track is cut in short form."""

    look: str | None
    """Name of its look, and of its style; null where it is not in short form."""
    rhythm: Rhythm
    weighing: Weighing
    fit: Fit
    seen: Seen
    version: str | None
    """Id of the version whose picture the words are fitted into; null is the film's own."""
    examples: list[str]
    """What is shown at once, for each amount, of the words near a time."""
    words: int
    weighty: int
    tight: list[TightView]
    offered: list[OfferedView]
    """Emoji for words that have one of their own, and none by them yet."""


class ShortRequest(GestureRequest):
    """Sets a track in a look."""

    look: ShortLook
    seen: Seen = Seen()
    version: str | None = None
    styles_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's, when its styles were read that the look was made of; null for a look that is not of this project."""


class DeedRequest(GestureRequest):
    """Does something to a word of a caption."""

    caption: str
    offset: Annotated[int, Field(ge=0)]
    """Character of its text that the word begins with."""
    deed: Deed
    known: "Known | None" = None


class Known(BaseModel):
    """What shall be known of a word; what is left out stays."""

    emphasis: Annotated[int, Field(ge=0, le=2)] | None = None
    emoji: Annotated[str, Field(min_length=1, max_length=40)] | None = None
    emoji_place: str | None = Field(default=None, pattern="^(above|beside|caption)$")
    emoji_motion: str | None = Field(default=None, pattern="^(pop|sway|turn)$")


class PhraseView(View):
    """Words that follow each other in what is said, and when."""

    text: str
    start_ms: int
    end_ms: int


class HeadingRequest(GestureRequest):
    """Puts a heading over the beginning; without words it takes it away."""

    text: Annotated[str, Field(max_length=200)]
    style: StyleName
    """Of headings; made of the track's look where there is none."""
    instead: str | None = None
    """Id of the heading that it comes in the place of."""


class KeepLookRequest(BaseModel):
    """Keeps a look for all projects under its name."""

    look: ShortLook
    default: bool = False
