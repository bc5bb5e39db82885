"""Words about a film as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import View
from dunlin.core.language.digest.pieces import Piece
from dunlin.work.about import Again

__all__ = [
    "AboutPieceView",
    "AboutView",
    "AgainRequest",
    "AnswerView",
    "BeginRequest",
    "PiecesRequest",
]

_Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,64}$")]


class AboutPieceView(View):
    id: str
    piece: Piece


class AboutView(View):
    """Words about a film, in their order."""

    revision: int
    """The project's, when they were last changed."""
    pieces: list[AboutPieceView]
    has_words: bool
    """Whether anything is said that could be written of."""
    service: str | None
    """The host of the service that answers questions; null where nothing leaves this machine."""


class BeginRequest(BaseModel):
    base_revision: Annotated[int, Field(ge=0)] | None = None


class PiecesRequest(BaseModel):
    """Makes pieces these; null takes one away."""

    pieces: Annotated[dict[_Id, Piece | None], Field(min_length=1, max_length=500)]
    base_revision: Annotated[int, Field(ge=0)] | None = None


class AgainRequest(BaseModel):
    """Makes a piece longer or shorter, or another one."""

    how: Again
    base_revision: Annotated[int, Field(ge=0)] | None = None


class AnswerView(View):
    """A sentence that answers, and when it is said."""

    text: str
    from_ms: int
    to_ms: int
