"""Findings, mends and waivers as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.tracks.views import EditView
from dunlin.api.wire import View
from dunlin.core.messages import Message
from dunlin.core.specs import Measures, RuleName

__all__ = [
    "FindingKey",
    "MendRequest",
    "MendView",
    "MendedView",
    "MendsView",
    "ShapeView",
    "WaiverRequest",
]


class ShapeView(View):
    """A caption as it is, or would be, with its measures."""

    id: str
    in_ms: int
    out_ms: int
    text: str
    measures: Measures


class MendView(View):
    """A finding, and what can be done about it."""

    rule: RuleName
    caption: str
    before: list[ShapeView]
    after: list[ShapeView]
    reason: Message | None
    """Why nothing can be done; None when something can."""


class MendsView(View):
    revision: int
    mends: list[MendView]


class FindingKey(BaseModel):
    rule: RuleName
    caption: str


class MendRequest(BaseModel):
    """Mends the chosen findings, or all of the rules named, or all there are."""

    gesture: Annotated[str, Field(min_length=1, max_length=64)]
    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the window had seen of the track; None is the newest."""
    chosen: Annotated[list[FindingKey], Field(max_length=20_000)] | None = None
    only: list[RuleName] = []


class MendedView(View):
    """What mending did."""

    mended: int
    left: int
    edit: EditView | None


class WaiverRequest(FindingKey):
    reason: Annotated[str, Field(min_length=1, max_length=500)]
