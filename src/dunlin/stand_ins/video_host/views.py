"""What goes over the wire of a host."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from dunlin.stand_ins.video_host.tokens import Scope

__all__ = [
    "AccountView",
    "ChangeTrackRequest",
    "CollectionView",
    "FilmView",
    "FilmsView",
    "ProblemView",
    "TokenMadeView",
    "TokenRequest",
    "TokenView",
    "TrackView",
    "UploadRequest",
    "UploadView",
    "WritingView",
]

Tag = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{1,8}){0,4}$", max_length=35)]
"""A BCP 47 tag."""


class _View(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class ProblemView(_View):
    """Why something was not done: a name for programs, and a sentence for people."""

    problem: str
    says: str


class AccountView(_View):
    """Whom a token was made for, what it may do, and until when (milliseconds since 1970)."""

    host: str
    name: str
    scopes: list[str]
    expires_ms: int | None


class CollectionView(_View):
    id: str
    name: str
    films: int


class TrackView(_View):
    """A language of a film. Its version is also the `ETag` of what it says."""

    language: str
    is_open: bool
    by_machine: bool
    version: int
    changed_ms: int
    cues: int
    by: str
    page: str
    """Where it can be read, drafts too by whoever has this address."""


class FilmView(_View):
    id: str
    collection: str
    title: str
    about: str
    language: str
    name: str
    size_bytes: int
    sha256: str
    duration_ms: int
    came_ms: int
    machine: Literal["none", "making", "made", "failed"]
    tracks: list[TrackView]
    page: str


class FilmsView(_View):
    films: list[FilmView]
    next: str | None
    """What `after` has to be for the next ones."""


class WritingView(_View):
    """What a track said once."""

    version: int
    cues: int
    by: str
    came_ms: int


class UploadRequest(BaseModel):
    """A film that is to come."""

    title: Annotated[str, Field(min_length=1, max_length=300)]
    about: Annotated[str, Field(max_length=5000)] = ""
    collection: Annotated[str, Field(max_length=32)]
    language: Tag
    name: Annotated[str, Field(min_length=1, max_length=300)]
    size_bytes: Annotated[int, Field(ge=1, le=1 << 40)]
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class UploadView(_View):
    id: str
    offset: int
    """Bytes that are there."""
    film: FilmView | None
    """What became of it, once all is there."""


class ChangeTrackRequest(BaseModel):
    is_open: bool


class TokenRequest(BaseModel):
    name: Annotated[str, Field(min_length=1, max_length=200)]
    scopes: Annotated[list[Scope], Field(min_length=1)]
    days: Annotated[float, Field(gt=0, le=366)] = 30


class TokenView(_View):
    id: str
    name: str
    scopes: list[str]
    expires_ms: int
    made_ms: int


class TokenMadeView(TokenView):
    token: str
    """Told this once."""
