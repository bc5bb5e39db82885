"""Hosts of films, and what is on them, as they go over the wire. No token is ever told."""

from typing import Annotated

from pydantic import BaseModel, Field, SecretStr

from dunlin.api.wire import View
from dunlin.core.messages import Message
from dunlin.work.packing.sending import ThereState

__all__ = [
    "CollectionView",
    "ConnectRequest",
    "ConnectionView",
    "HostFilmView",
    "HostFilmsView",
    "TakeFilmRequest",
    "ThereView",
]


class ConnectRequest(BaseModel):
    """Connects with a host by a token that was made there."""

    address: Annotated[str, Field(min_length=1, max_length=500)]
    token: Annotated[SecretStr, Field(min_length=1, max_length=500)]


class ConnectionView(View):
    id: str
    host: str
    """What the host calls itself."""
    name: str
    """What the token is called there."""
    origin: str
    scopes: tuple[str, ...]
    expires_ms: int | None


class CollectionView(View):
    id: str
    name: str
    films: int


class HostTrackView(View):
    language: str
    is_open: bool
    by_machine: bool
    page: str


class HostFilmView(View):
    id: str
    title: str
    language: str
    size_bytes: int
    duration_ms: int
    tracks: tuple[HostTrackView, ...]
    page: str


class HostFilmsView(View):
    films: tuple[HostFilmView, ...]
    next: str | None
    """What `after` has to be for the next ones."""


class TakeFilmRequest(BaseModel):
    """Makes a project of a film on a host."""

    film: Annotated[str, Field(min_length=1, max_length=200)]


class ThereView(View):
    """How something that was sent is on its host."""

    state: ThereState | None
    """Null where the host does not say."""
    problem: Message | None
