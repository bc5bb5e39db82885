"""What stands on a host's shelves: collections, films, and their caption tracks with what these said before."""

import secrets
import threading
import time
import uuid
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal, TypeAlias

from sqlalchemy import Engine, create_engine, delete, event, func, select
from sqlalchemy.orm import Session

from dunlin.core.formats import Context, FormatError, read_file
from dunlin.stand_ins.video_host.tables import (
    Base,
    CollectionRow,
    FilmRow,
    TrackRow,
    UploadRow,
    WritingRow,
)

__all__ = [
    "Arrival",
    "ChangedMeanwhile",
    "FilmOnShelf",
    "NoWebVTT",
    "NotThere",
    "Shelf",
    "TrackOnShelf",
    "Writing",
]

MachineState: TypeAlias = Literal["none", "making", "made", "failed"]
_PROOF_BYTES = 32


class NotThere(LookupError):
    """There is no such film, track, collection or upload."""


class NoWebVTT(ValueError):
    """Words that are no WebVTT."""


class ChangedMeanwhile(Exception):
    """A track is another one than whoever writes it has seen, or is there already."""


@dataclass(frozen=True)
class TrackOnShelf:
    """A language of a film."""

    language: str
    is_open: bool
    by_machine: bool
    version: int
    proof: str
    changed_ms: int
    cues: int
    by: str


@dataclass(frozen=True)
class FilmOnShelf:
    """A film with its languages."""

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
    machine: MachineState
    tracks: tuple[TrackOnShelf, ...]


@dataclass(frozen=True)
class Writing:
    """What a track said once."""

    version: int
    words: str
    cues: int
    by: str
    came_ms: int


@dataclass(frozen=True)
class Arrival:
    """A film on its way in; `film` is what became of it."""

    id: str
    told: dict[str, Any]
    film: str | None


class Shelf:
    """A host's database and folder of films."""

    def __init__(self, folder: Path) -> None:
        self.films_folder, self.uploads_folder = folder / "films", folder / "uploads"
        for each in (self.films_folder, self.uploads_folder):
            each.mkdir(parents=True, exist_ok=True)
        self.engine: Engine = create_engine(
            f"sqlite:///{folder / 'host.db'}", connect_args={"timeout": 20}
        )

        @event.listens_for(self.engine, "connect")
        def _prepare(connection: Any, record: Any) -> None:
            for pragma in ("journal_mode=WAL", "foreign_keys=ON"):
                connection.execute(f"PRAGMA {pragma}")

        Base.metadata.create_all(self.engine)
        # Between what a writer has seen and what it writes nobody else may write.
        self._writing = threading.Lock()

    def collections(self) -> list[tuple[str, str, int]]:
        """Ids, names, and how many films, by their names."""
        query = (
            select(CollectionRow.id, CollectionRow.name, func.count(FilmRow.id))
            .outerjoin(FilmRow, FilmRow.collection == CollectionRow.id)
            .group_by(CollectionRow.id)
            .order_by(CollectionRow.name)
        )
        with Session(self.engine) as session:
            return [(id_, name, count) for id_, name, count in session.execute(query)]

    def collection_called(self, name: str) -> str:
        """The id of a collection, which is made where there is none."""
        with Session(self.engine) as session:
            found = session.scalar(select(CollectionRow.id).where(CollectionRow.name == name))
            if found:
                return found
            row = CollectionRow(id=uuid.uuid4().hex, name=name)
            session.add(row)
            session.commit()
            return row.id

    def needs_collection(self, id_: str) -> None:
        """:raises NotThere:"""
        with Session(self.engine) as session:
            if session.get(CollectionRow, id_) is None:
                raise NotThere

    def films(
        self, collection: str | None, search: str, after: str | None, count: int
    ) -> tuple[list[FilmOnShelf], str | None]:
        """Films, those that came last first, and where the next ones go on; None at the end."""
        query = select(FilmRow).order_by(FilmRow.came_ms.desc(), FilmRow.id.desc())
        if collection:
            query = query.where(FilmRow.collection == collection)
        if search:
            query = query.where(FilmRow.title.icontains(search, autoescape=True))
        if after:
            came, _, id_ = after.partition("-")
            if not came.isdecimal():
                raise NotThere
            came_ms = int(came)
            query = query.where(
                (FilmRow.came_ms < came_ms) | ((FilmRow.came_ms == came_ms) & (FilmRow.id < id_))
            )
        with Session(self.engine) as session:
            rows = list(session.scalars(query.limit(count + 1)))
            more = f"{rows[count - 1].came_ms}-{rows[count - 1].id}" if len(rows) > count else None
            return [_film(session, row) for row in rows[:count]], more

    def film(self, id_: str) -> FilmOnShelf:
        """:raises NotThere:"""
        with Session(self.engine) as session:
            row = session.get(FilmRow, id_)
            if row is None:
                raise NotThere
            return _film(session, row)

    def film_file(self, id_: str) -> Path:
        return self.films_folder / id_

    def add_film(self, **values: Any) -> str:
        """Puts a film on the shelf whose file is in its place already."""
        with Session(self.engine) as session:
            session.add(FilmRow(came_ms=_now(), **values))
            session.commit()
        return str(values["id"])

    def say_machine(self, id_: str, state: MachineState) -> None:
        with Session(self.engine) as session:
            if row := session.get(FilmRow, id_):
                row.machine = state
                session.commit()

    def remove_film(self, id_: str) -> None:
        """:raises NotThere:"""
        self.film(id_)
        with Session(self.engine) as session:
            session.execute(delete(FilmRow).where(FilmRow.id == id_))
            session.commit()
        self.film_file(id_).unlink(missing_ok=True)

    def writing(self, film: str, language: str, version: int | None = None) -> Writing:
        """What a track says, or said.

        :raises NotThere:
        """
        with Session(self.engine) as session:
            track = session.get(TrackRow, (film, language.lower()))
            row = session.get(WritingRow, version or track.version) if track else None
            if row is None or (row.film, row.key) != (film, language.lower()):
                raise NotThere
            return _writing(row)

    def history(self, film: str, language: str) -> list[Writing]:
        """All that a track said, the newest first.

        :raises NotThere:
        """
        query = select(WritingRow).where(
            WritingRow.film == film, WritingRow.key == language.lower()
        )
        with Session(self.engine) as session:
            rows = list(session.scalars(query.order_by(WritingRow.version.desc())))
        if not rows:
            raise NotThere
        return [_writing(row) for row in rows]

    def write_track(
        self,
        film: str,
        language: str,
        words: str,
        *,
        is_open: bool,
        by: str,
        seen: int | None = None,
        by_machine: bool = False,
    ) -> tuple[TrackOnShelf, bool]:
        """Puts a track in a language, or in the place of the one that is there.

        :param seen: the version that whoever writes has seen; None where there was none
        :returns: the track, and whether it is new
        :raises NotThere: when the film is not there
        :raises ChangedMeanwhile: when the track is of another version than was seen
        :raises NoWebVTT:
        """
        cues = _cues_in(words)
        key = language.lower()
        with self._writing, Session(self.engine) as session:
            if session.get(FilmRow, film) is None:
                raise NotThere
            track = session.get(TrackRow, (film, key))
            if (track.version if track else None) != seen:
                raise ChangedMeanwhile
            row = WritingRow(film=film, key=key, words=words, cues=cues, by=by, came_ms=_now())
            session.add(row)
            session.flush()
            if track is None:
                track = TrackRow(
                    film=film, key=key, proof=secrets.token_urlsafe(_PROOF_BYTES), language=language,
                    is_open=is_open, by_machine=by_machine, version=row.version,
                )  # fmt: skip
                session.add(track)
            else:
                track.is_open, track.by_machine, track.version = is_open, by_machine, row.version
            session.flush()
            found = _track(session, track)
            session.commit()
        return found, seen is None

    def open_track(self, film: str, language: str, *, is_open: bool) -> TrackOnShelf:
        """Opens a track to viewers, or makes it a draft again.

        :raises NotThere:
        """
        with Session(self.engine) as session:
            track = session.get(TrackRow, (film, language.lower()))
            if track is None:
                raise NotThere
            track.is_open = is_open
            session.flush()
            found = _track(session, track)
            session.commit()
        return found

    def remove_track(self, film: str, language: str) -> None:
        """Takes a track away; its history stays.

        :raises NotThere:
        """
        with Session(self.engine) as session:
            track = session.get(TrackRow, (film, language.lower()))
            if track is None:
                raise NotThere
            session.delete(track)
            session.commit()

    def begin_upload(self, told: dict[str, Any]) -> Arrival:
        row = UploadRow(id=uuid.uuid4().hex, told=told, film=None, began_ms=_now())
        with Session(self.engine) as session:
            session.add(row)
            session.flush()
            (self.uploads_folder / row.id).touch()
            arrival = Arrival(row.id, row.told, row.film)
            session.commit()
        return arrival

    def upload(self, id_: str) -> Arrival:
        """:raises NotThere:"""
        with Session(self.engine) as session:
            row = session.get(UploadRow, id_)
            if row is None:
                raise NotThere
            return Arrival(row.id, row.told, row.film)

    def upload_file(self, id_: str) -> Path:
        """Where what came of an upload is; all of it may be in its place already, when the host died before it was a film."""
        arriving = self.uploads_folder / id_
        whole = self.film_file(id_)
        return whole if whole.is_file() and not arriving.is_file() else arriving

    def end_upload(self, id_: str, film: str) -> None:
        """Remembers what an upload became."""
        with Session(self.engine) as session:
            if row := session.get(UploadRow, id_):
                row.film = film
                session.commit()

    def forget_upload(self, id_: str) -> None:
        with Session(self.engine) as session:
            session.execute(delete(UploadRow).where(UploadRow.id == id_))
            session.commit()
        (self.uploads_folder / id_).unlink(missing_ok=True)


def _cues_in(words: str) -> int:
    """:raises NoWebVTT:"""
    if not words.startswith("WEBVTT"):
        raise NoWebVTT("it does not begin with that word")
    try:
        return len(read_file(words.encode(), "track.vtt", Context(), "webvtt").document.captions)
    except FormatError as error:
        raise NoWebVTT(str(error)) from None


def _film(session: Session, row: FilmRow) -> FilmOnShelf:
    tracks = session.scalars(select(TrackRow).where(TrackRow.film == row.id).order_by(TrackRow.key))
    return FilmOnShelf(
        row.id, row.collection, row.title, row.about, row.language, row.name, row.size_bytes, row.sha256,
        row.duration_ms, row.came_ms, row.machine,  # type: ignore[arg-type]
        tuple(_track(session, track) for track in tracks),
    )  # fmt: skip


def _track(session: Session, row: TrackRow) -> TrackOnShelf:
    writing = session.get_one(WritingRow, row.version)
    return TrackOnShelf(
        row.language, row.is_open, row.by_machine, row.version, row.proof, writing.came_ms,
        writing.cues, writing.by,
    )  # fmt: skip


def _writing(row: WritingRow) -> Writing:
    return Writing(row.version, row.words, row.cues, row.by, row.came_ms)


def _now() -> int:
    return time.time_ns() // 1_000_000
