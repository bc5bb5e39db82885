"""Captions made of words: what is asked, and what would be."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from dunlin.api.wire import MOST_WORDS, View
from dunlin.core.captions import Case
from dunlin.core.specs import RuleName, Weight

__all__ = [
    "CaptionsRequest",
    "LookedAt",
    "MakingChoice",
    "MakingView",
    "RuleCount",
    "ShapeChoice",
    "WouldBeView",
]


class ShapeChoice(BaseModel):
    """Captions of so many words a line, and so many lines."""

    words_per_line: Annotated[int, Field(ge=1, le=20)]
    lines: Annotated[int, Field(ge=1, le=4)]


class MakingChoice(BaseModel):
    """How captions are made of the words: by a spec's limits, or in a shape."""

    model_config = ConfigDict(extra="forbid")

    spec_id: str | None = None
    """None is the spec the track is judged by."""
    shape: ShapeChoice | None = None
    case: Case | None = None
    keep: bool = True
    """Whether captions that were timed or written by hand stay where their words did."""


class CaptionsRequest(MakingChoice):
    """Makes captions of the words, in place of those in the track."""

    looked_at: "LookedAt | None" = None
    """None makes all changes, whatever they are now."""
    keep_old: bool = False
    """Whether the captions there are stay too, as a track of their own."""
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class LookedAt(BaseModel):
    """A preview, and the changes of it that are made, by their numbers."""

    revision: int
    """The track's, when it was looked at."""
    words_revision: int
    """The transcript's, when it was looked at."""
    changes: Annotated[list[Annotated[int, Field(ge=0)]], Field(max_length=MOST_WORDS)]


class WouldBeView(View):
    """A caption as it would be: `rules` are those it would break."""

    in_ms: int
    out_ms: int
    text: str
    speaker: str | None
    change: int | None
    """The change it belongs to; None when it is in the track already."""
    goes: bool
    """Whether it is in the track now and would not be, with nothing in its place."""
    rules: list[RuleName]


class RuleCount(View):
    rule: RuleName
    weight: Weight
    count: int


class MakingView(View):
    """What would be made, and what would become of the captions there are."""

    revision: int
    words_revision: int
    captions: list[WouldBeView]
    gone: list[int]
    """How many captions each change takes away."""
    rules: list[RuleCount]
