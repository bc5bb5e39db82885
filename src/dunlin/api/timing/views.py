"""Times that are asked for and answered."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dunlin.api.tracks.views import EditView
from dunlin.api.wire import MOST_MS, View
from dunlin.core.captions import Times
from dunlin.core.messages import message
from dunlin.core.timing.cueing import Cueing, Key
from dunlin.core.timing.retiming import BelowZero, Edges, Piece, RetimingError
from dunlin.core.timing.typed import TypedField

__all__ = [
    "Anchor",
    "By",
    "CueRequest",
    "CueView",
    "FitRequest",
    "InPieces",
    "PieceView",
    "RateChange",
    "RetimingRequest",
    "RetimingView",
    "ShotRequest",
    "ShotsView",
    "ThroughAnchors",
    "TypedRequest",
    "pieces_of",
]


class ShotRequest(BaseModel):
    at_ms: Annotated[int, Field(ge=0, le=MOST_MS)]


class ShotsView(View):
    """Milliseconds of the shot changes."""

    shots: list[int]


class By(BaseModel):
    """Later by an amount such as `+500ms`, `-3f` or `2.5`, or earlier by a negative one."""

    kind: Literal["by"] = "by"
    amount: Annotated[str, Field(max_length=40)]


class Anchor(BaseModel):
    old_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    new_ms: Annotated[int, Field(ge=0, le=MOST_MS)]


class ThroughAnchors(BaseModel):
    """Stretched so that each anchor's old time becomes its new one."""

    kind: Literal["anchors"] = "anchors"
    anchors: Annotated[list[Anchor], Field(min_length=1, max_length=200)]


class RateChange(BaseModel):
    """Made for a film at one frame rate, shown with it at another; `25`, `29.97`, `30000/1001`."""

    kind: Literal["rate"] = "rate"
    from_fps: str
    to_fps: str


class PieceView(View):
    """From `from_ms` until `to_ms`, or the end, a time becomes `time * rate + offset_ms`."""

    from_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    to_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None
    offset_ms: Annotated[float, Field(ge=-MOST_MS, le=MOST_MS)]
    rate: Annotated[float, Field(ge=0.2, le=5)] = 1.0
    absent: bool = False
    """Whether the film has no such part: its captions and words are left out."""


def pieces_of(views: Sequence[PieceView]) -> tuple[Piece, ...]:
    """:raises RetimingError: when they are not in the order of their starts"""
    pieces = tuple(Piece(p.from_ms, p.to_ms, p.offset_ms, p.rate, p.absent) for p in views)
    if list(pieces) != sorted(pieces, key=lambda piece: piece.from_ms):
        raise RetimingError(message("timing.pieces-out-of-order"))
    return pieces


class InPieces(BaseModel):
    """Each piece by an amount of its own."""

    kind: Literal["pieces"] = "pieces"
    pieces: Annotated[list[PieceView], Field(min_length=1, max_length=1000)]


class RetimingRequest(BaseModel):
    """How captions shall be moved; nothing is, until the times that are answered are edited in."""

    way: Annotated[By | ThroughAnchors | RateChange | InPieces, Field(discriminator="kind")]
    captions: list[str] | None = None
    """Only these."""
    from_ms: int | None = None
    """Only those that come in at this time or later."""
    to_ms: int | None = None
    """Only those that come in before this time."""
    edges: Edges = "both"
    below_zero: BelowZero = "hold"
    on_frames: bool = True


class RetimingView(View):
    """New times, those that would have started below zero, and those that are dropped for it."""

    times: list[Times]
    below_zero: list[str]
    dropped: list[str]


class TypedRequest(BaseModel):
    """A time typed for a caption: `62.5`, `1:02.5`, `00:01:02:12`, or an amount such as `-3f`."""

    caption: str
    field: TypedField
    text: Annotated[str, Field(max_length=40)]
    on_frames: bool = False


class FitRequest(BaseModel):
    """Which captions are fitted to which part of the sound; all of it, if it is not said."""

    captions: list[str] | None = None
    from_ms: Annotated[int, Field(ge=0, le=MOST_MS)] = 0
    to_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None


class CueRequest(BaseModel):
    """A key pressed while cueing along, and the hand that pressed it."""

    state: Cueing
    key: Key
    at_ms: Annotated[float, Field(ge=-1000, le=MOST_MS)]
    reaction_ms: Annotated[int, Field(ge=-500, le=1000)] = 0
    snap_ms: Annotated[int, Field(ge=0, le=1000)] = 0
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class CueView(View):
    """Where cueing stands, and the edit that the key made, if it made one."""

    state: Cueing
    edit: EditView | None
    ended: bool
