"""What Dunlin asks of a host of films, whichever it is."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from dunlin.core.messages import Told
from dunlin.media.ffmpeg import Cancelled

__all__ = [
    "Account",
    "Cancelled",
    "Collection",
    "FilmPage",
    "HostError",
    "HostFilm",
    "HostTrack",
    "NewFilm",
    "TrackChangedThere",
    "VideoHost",
]


class HostError(Told):
    """A host is not reached, does not let us, or says what makes no sense."""


class TrackChangedThere(HostError):
    """A track on the host is another one than the one that was sent last."""


@dataclass(frozen=True)
class Account:
    """Whom a token is of, what it may do, and until when (milliseconds since 1970; None is for good)."""

    host: str
    name: str
    scopes: tuple[str, ...]
    expires_ms: int | None


@dataclass(frozen=True)
class Collection:
    """A collection of films on a host."""

    id: str
    name: str
    films: int


@dataclass(frozen=True)
class HostTrack:
    """A language of a film on a host."""

    language: str
    is_open: bool
    """Whether viewers see it; else it is a draft."""
    by_machine: bool
    version: str
    """Another one after each change; what it says means nothing here."""
    changed_ms: int
    page: str
    """Where it can be read on the film, drafts too."""


@dataclass(frozen=True)
class HostFilm:
    """A film on a host."""

    id: str
    collection: str
    title: str
    language: str
    name: str
    """Of its file."""
    size_bytes: int
    sha256: str
    duration_ms: int
    tracks: tuple[HostTrack, ...]
    page: str


@dataclass(frozen=True)
class FilmPage:
    """Some films of a host, and what asks for the next ones; None at the end."""

    films: tuple[HostFilm, ...]
    next: str | None


@dataclass(frozen=True)
class NewFilm:
    """A film to be sent."""

    file: Path
    name: str
    title: str
    collection: str
    language: str
    sha256: str


class VideoHost(Protocol):
    """A host. Whatever is asked of it raises HostError where it fails."""

    def account(self) -> Account:
        """Who we are there."""

    def collections(self) -> tuple[Collection, ...]:
        """By their names."""

    def films(
        self, collection: str | None = None, search: str = "", after: str | None = None
    ) -> FilmPage:
        """Films there, the newest first.

        :param after: what the page before told
        """

    def film(self, id_: str) -> HostFilm | None:
        """None when it is not there any more."""

    def fetch_film(
        self,
        film: HostFilm,
        to: Path,
        progress: Callable[[float], None] = lambda part: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> None:
        """Brings a film's file here, going on behind what of it is at `to` already.

        :raises Cancelled: when `cancelled` came true
        """

    def words(self, film: str, language: str) -> bytes:
        """What a track says there, as WebVTT."""

    def send_track(
        self, film: str, language: str, webvtt: bytes, *, is_open: bool, over: str | None
    ) -> HostTrack:
        """Sends captions as a language of a film.

        :param over: version of the track whose place they take; None where there is none
        :raises TrackChangedThere: when there is another version, or one where there was none
        """

    def open_track(self, film: str, language: str, *, is_open: bool) -> HostTrack:
        """Shows a track to viewers, or hides it."""

    def send_film(
        self,
        film: NewFilm,
        begun: str | None,
        begin: Callable[[str], None],
        progress: Callable[[float], None] = lambda part: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> HostFilm:
        """Sends a film, going on behind what of it is there.

        :param begun: what `begin` was told when this film was sent before and did not come through
        :param begin: is told what names the sending, before the first byte goes
        :raises Cancelled: when `cancelled` came true
        """
