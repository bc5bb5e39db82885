"""What is looked for in captions, and what was found."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import View
from dunlin.core.captions.searching import Sought

__all__ = [
    "FindRequest",
    "FoundView",
    "HitView",
    "MatchRequest",
    "MatchView",
    "MatchesView",
    "ReplaceRequest",
]


class SoughtRequest(BaseModel):
    """What is looked for, and what would be put in its place."""

    text: Annotated[str, Field(min_length=1, max_length=500)]
    word: bool = False
    exact: bool = False
    pattern: bool = False
    replacement: Annotated[str, Field(max_length=500)] = ""

    @property
    def sought(self) -> Sought:
        return Sought(self.text, self.word, self.exact, self.pattern)


class FindRequest(SoughtRequest):
    """What is looked for in which tracks, and what would be put in its place."""

    tracks: Annotated[list[str], Field(min_length=1, max_length=200)]


class MatchRequest(SoughtRequest):
    """What is looked for in texts as they stand on the page, and what would be put in its place."""

    texts: Annotated[list[str], Field(max_length=100_000)]


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


class MatchView(View):
    """A place in one of the texts, by its index; characters are Unicode's."""

    text: int
    start: int
    end: int
    put: str


class MatchesView(View):
    """How often it stands in the texts, and the first of the places."""

    count: int
    matches: list[MatchView]


class FoundView(View):
    """How often it stands, and the first of the places."""

    revision: int
    """Of the project as it was looked through: what is replaced names it."""
    count: int
    hits: list[HitView]
