"""What is looked for in captions, and what was found."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import View
from dunlin.core.captions.searching import Sought

__all__ = ["FindRequest", "FoundView", "HitView", "ReplaceRequest"]


class FindRequest(BaseModel):
    """What is looked for in which tracks, and what would be put in its place."""

    text: Annotated[str, Field(min_length=1, max_length=500)]
    word: bool = False
    exact: bool = False
    pattern: bool = False
    replacement: Annotated[str, Field(max_length=500)] = ""
    tracks: Annotated[list[str], Field(min_length=1, max_length=200)]

    @property
    def sought(self) -> Sought:
        return Sought(self.text, self.word, self.exact, self.pattern)


class Place(BaseModel):
    track: str
    caption: str
    start: Annotated[int, Field(ge=0)]


class ReplaceRequest(FindRequest):
    """The hits that are replaced; all, if none are named. Each track is as it was at a revision."""

    only: Annotated[list[Place], Field(max_length=10_000)] | None = None
    base_revision: Annotated[int, Field(ge=0)]


class HitView(View):
    track: str
    caption: str
    start: int
    end: int
    put: str


class FoundView(View):
    """How often it stands, and the first of the places."""

    revision: int
    """Of the project as it was looked through: what is replaced names it."""
    count: int
    hits: list[HitView]
