"""Things of packing lists on their way to hosts of films, and how they are there."""

import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal, TypeAlias

from dunlin.core.delivery.model import (
    BurnedFilm,
    CaptionFile,
    Destination,
    FilmWithTracks,
    Item,
    Thing,
    tracks_in,
)
from dunlin.core.messages import BadInput, Message, Told, message
from dunlin.hosts import HostTrack, NewFilm, TrackChangedThere, VideoHost
from dunlin.store.made import Made
from dunlin.store.projects import Project
from dunlin.store.sent import Sent
from dunlin.work.folder import DataFolder
from dunlin.work.hosts import film_there, host_by, version_taken

__all__ = [
    "Parcel",
    "There",
    "ThereState",
    "how_it_is_there",
    "is_sent",
    "needs_destination",
    "send",
]

_SENT_AS = "webvtt"
_FILMS = (BurnedFilm, FilmWithTracks)
ThereState: TypeAlias = Literal["same", "changed", "gone"]


@dataclass(frozen=True)
class There:
    """How something that was sent is on its host."""

    state: ThereState | None
    """None where the host does not say."""
    problem: Message | None


def needs_destination(folder: DataFolder, project: Project, item: Item) -> None:
    """:raises Told: when a thing cannot be sent where it is to go"""
    if item.destination is None:
        return
    folder.connections.get(item.destination.connection)
    if isinstance(item.thing, CaptionFile):
        if item.thing.format != _SENT_AS:
            raise BadInput(message("packing.host-takes-webvtt"))
    elif not isinstance(item.thing, _FILMS):
        raise BadInput(message("packing.not-for-hosts"))
    elif not item.destination.collection:
        raise BadInput(message("packing.no-collection"))


def is_sent(item: Item, made: Made | None, sent: Sent | None) -> bool:
    """Whether what was made last of a thing is where it is to go, as far as is known here."""
    to = item.destination
    if to is None:
        return True
    if made is None or sent is None or sent.sent_ms is None:
        return False
    if (sent.connection, sent.sha256) != (to.connection, made.sha256):
        return False
    return not isinstance(item.thing, CaptionFile) or (
        sent.is_open == to.is_open and to.film in (None, sent.film)
    )


@dataclass(frozen=True)
class Parcel:
    """A thing that was made, and where it goes."""

    folder: DataFolder
    project: Project
    delivery_id: str
    item: Item
    made: Made
    destination: Destination

    @property
    def file(self) -> Path:
        return self.folder.settings.results / self.made.file

    @property
    def language(self) -> str:
        return self.project.track(next(tracks_in(self.item.thing))).language

    @property
    def sent_before(self) -> Sent | None:
        """How it was sent to that host last, if it was."""
        before = self.folder.sent.of(self.project.id, self.delivery_id).get(self.made.item_id)
        return before if before and before.connection == self.destination.connection else None

    def keep(self, **sent: Any) -> None:
        """Remembers how it was sent, or is being sent."""
        told = Sent(self.made.item_id, self.destination.connection, self.made.sha256, **sent)
        self.folder.sent.keep(self.project.id, self.delivery_id, told)


def send(
    parcel: Parcel, *, anew: bool, progress: Callable[[float], None], cancelled: Callable[[], bool]
) -> None:
    """Sends what was made of a thing, and remembers it.

    :param anew: whether captions go over what is there, although it is not what was sent last
    :raises Told: when the host does not take it
    """
    host = host_by(parcel.folder, parcel.destination.connection)
    if isinstance(parcel.item.thing, CaptionFile):
        _send_captions(parcel, host, anew=anew)
    else:
        _send_film(parcel, host, progress, cancelled)


def _send_captions(parcel: Parcel, host: VideoHost, *, anew: bool) -> None:
    film = parcel.destination.film or _film_of(parcel)
    words, is_open = parcel.file.read_bytes(), parcel.destination.is_open
    over = _sent_over(parcel, host, film, anew=anew)
    try:
        track = host.send_track(film, parcel.language, words, is_open=is_open, over=over)
    except TrackChangedThere:
        # They may have come through before, and the answer was lost.
        there = _track_there(host, film, parcel.language)
        if there is None or host.words(film, there.language) != words:
            if over is None:
                name = parcel.folder.connections.get(parcel.destination.connection).host
                raise BadInput(message("hosts.there-already", host=name)) from None
            raise
        track = host.open_track(film, there.language, is_open=is_open)
    parcel.keep(
        film=film, language=track.language, version=track.version, is_open=track.is_open, page=track.page, sent_ms=_now()
    )  # fmt: skip


def _film_of(parcel: Parcel) -> str:
    """The film on the host that captions are of: the one the project is of, or one that was sent of this list."""
    connection = parcel.destination.connection
    sent = (
        one.film
        for one in parcel.folder.sent.of(parcel.project.id, parcel.delivery_id).values()
        if one.film and one.language is None and one.connection == connection
    )
    film = film_there(parcel.project, connection) or next(sent, None)
    if film is None:
        raise BadInput(message("packing.no-film-there"))
    return film


def _sent_over(parcel: Parcel, host: VideoHost, film: str, *, anew: bool) -> str | None:
    """The version that captions take the place of: the one that was sent last or, anew, whichever is there."""
    before = parcel.sent_before
    if not anew and before and (before.film, before.language) == (film, parcel.language):
        return before.version
    if not anew and (taken := version_taken(parcel.project, film, parcel.language)):
        return taken
    track = _track_there(host, film, parcel.language)
    # Nobody has written what the machine made, so nobody misses it.
    return track.version if track and (anew or track.by_machine) else None


def _track_there(host: VideoHost, film: str, language: str) -> HostTrack | None:
    there = host.film(film)
    if there is None:
        raise BadInput(message("packing.film-gone-there"))
    return next((one for one in there.tracks if one.language.lower() == language.lower()), None)


def _send_film(
    parcel: Parcel,
    host: VideoHost,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> None:
    before, made = parcel.sent_before, parcel.made
    film = NewFilm(
        parcel.file, made.name, parcel.project.title, parcel.destination.collection, parcel.language,
        made.sha256,
    )  # fmt: skip
    there = host.send_film(
        film,
        before.begun if before and before.sha256 == made.sha256 else None,
        # From here on a sending that breaks off goes on, also in another job.
        lambda name: parcel.keep(begun=name),
        progress,
        cancelled,
    )
    parcel.keep(film=there.id, page=there.page, sent_ms=_now())


def how_it_is_there(folder: DataFolder, thing: Thing, sent: Sent) -> There:
    """Whether something that was sent is on its host as it was sent."""
    try:
        film = host_by(folder, sent.connection, tries=1).film(sent.film or "")
    except Told as told:
        return There(None, told.message)
    if film is None:
        return There("gone", None)
    if not isinstance(thing, CaptionFile):
        return There("same", None)
    track = next((one for one in film.tracks if one.language == sent.language), None)
    if track is None:
        return There("gone", None)
    same = (track.version, track.is_open) == (sent.version, sent.is_open)
    return There("same" if same else "changed", None)


def _now() -> int:
    return time.time_ns() // 1_000_000
