"""Projects as they stand: their films, their tracks, and what their records say."""

import json
import time
import uuid
from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass, replace
from functools import lru_cache
from typing import Any

from sqlalchemy import (
    Connection,
    Engine,
    Row,
    Select,
    Text,
    and_,
    bindparam,
    cast,
    delete,
    func,
    insert,
    select,
    update,
)

from dunlin.core.captions import Extras, Look
from dunlin.core.captions.look import look_of_stored
from dunlin.core.messages import Told, message
from dunlin.core.project.targets import (
    PROJECT,
    SPEAKERS,
    SPECS,
    STYLES,
    TERMS,
    TRACKS,
    TRANSCRIPT,
)
from dunlin.core.specs import Spec, shipped_specs
from dunlin.core.timecode import FrameRate
from dunlin.store.faults import DamagedProject, told_as_damage
from dunlin.store.films import FILM_COLUMNS, Film, film_to_come, read_film
from dunlin.store.house import HOUSE
from dunlin.store.log.records import read_records
from dunlin.store.tables import CaptionRow, FilmRow, ProjectRow, RecordRow, TargetRow, TrackRow

__all__ = ["DamagedRow", "Project", "Projects", "TrackInfo", "UnknownProject"]

_FIRST_SPEC = "streaming"


class UnknownProject(Told, LookupError):
    """There is no project of that id."""

    def __init__(self) -> None:
        super().__init__(message("projects.gone"))


@dataclass(frozen=True)
class TrackInfo:
    """A track without its captions."""

    id: str
    name: str
    language: str
    spec_id: str | None
    """The spec it is judged by, where that is not the project's."""
    extras: Extras
    style: str | None = None
    """Name of the style of captions that name none; None for the one that ships."""
    translates: str | None = None
    """Id of the track that it is a translation of, if it is one; that may have been removed."""


@dataclass(frozen=True)
class Project:
    """One film and its tracks; until it is brought in, a `film_to_come` stands in its place."""

    id: str
    created_ms: int
    opened_ms: int
    revision: int
    words_run: str | None
    words_revision: int
    """The project's, when the transcript was last changed."""
    film: Film
    records: Mapping[str, Mapping[str, Any]]

    @property
    def title(self) -> str:
        return str(self.records[PROJECT].get("title", ""))

    @property
    def spec_id(self) -> str:
        return str(self.records[PROJECT].get("spec", _FIRST_SPEC))

    @property
    def tracks(self) -> tuple[TrackInfo, ...]:
        """In the order in which they were added."""
        listed = sorted(self.records[TRACKS].items(), key=lambda item: item[1]["at"])
        return tuple(_track_info(id_, entry) for id_, entry in listed)

    @property
    def speakers(self) -> tuple[dict[str, str], ...]:
        """Name and colour of each who speaks, in the order of their keys."""
        listed = sorted(self.records[SPEAKERS].items(), key=lambda item: item[1]["at"])
        return tuple({"name": name, "colour": entry["colour"]} for name, entry in listed)

    @property
    def terms(self) -> tuple[str, ...]:
        """Names and terms as they are spelled, in the order in which they were added."""
        return tuple(sorted(self.records[TERMS], key=self.records[TERMS].__getitem__))

    def track(self, track_id: str) -> TrackInfo:
        """:raises StopIteration: when it has none of that id"""
        return next(track for track in self.tracks if track.id == track_id)

    def spec_of(self, track_id: str | None = None) -> Spec:
        """The spec it is judged by, or one of its tracks: the copy that it took."""
        own = self.track(track_id).spec_id if track_id else None
        copies = self.records[SPECS]
        for id_ in (own, self.spec_id, _FIRST_SPEC):
            if id_ is None:
                continue
            if id_ in copies:
                return _spec(copies[id_])
            if id_ in shipped_specs():
                return shipped_specs()[id_]
        raise AssertionError("the first spec ships with Dunlin")

    @property
    def styles(self) -> dict[str, Look]:
        """What the styles say, by their names, in their order."""
        entries = self.records[STYLES]
        ordered = sorted(entries, key=lambda name: (entries[name]["at"], name))
        return {name: look_of_stored(entries[name]["look"]) for name in ordered}

    def look_through(self) -> None:
        """Works out all that it says of itself. :raises Exception: when something of it is damaged"""
        for track in self.tracks:
            self.spec_of(track.id)
        _ = (
            self.title,
            self.speakers,
            self.styles,
            self.terms,
            self.film.rate,
            self.film.duration_ms,
        )


@dataclass(frozen=True)
class DamagedRow:
    """What is known of a project that cannot be read."""

    id: str
    title: str
    opened_ms: int


# What a project is shown by; shot changes and waivers are many, and read where they are needed.
_SHOWN = (PROJECT, TRACKS, SPEAKERS, TERMS, SPECS, STYLES)


_WORDS_REVISION = func.coalesce(
    select(TargetRow.revision)
    .where(TargetRow.project_id == ProjectRow.id, TargetRow.address == TRANSCRIPT)
    .scalar_subquery(),
    0,
)
# As it is stored: with its quotes, and whatever else it came to be.
_TITLE = (
    select(cast(RecordRow.value, Text))
    .where(
        RecordRow.project_id == ProjectRow.id,
        RecordRow.address == PROJECT,
        RecordRow.key == "title",
    )
    .scalar_subquery()
)
# The film it shows is one of the values of its own record.
_SHOWS = and_(
    RecordRow.project_id == ProjectRow.id, RecordRow.address == PROJECT, RecordRow.key == "film"
)
_PROJECTS = (
    select(ProjectRow.__table__, _WORDS_REVISION.label("words_revision"), *FILM_COLUMNS)
    .outerjoin(RecordRow, _SHOWS)
    .outerjoin(FilmRow, FilmRow.id == func.json_extract(RecordRow.value, "$"))
    .where(ProjectRow.id != HOUSE)
)
# Each edit asks for it: it is put together once.
_OF_TRACK = _PROJECTS.join(TrackRow, TrackRow.project_id == ProjectRow.id).where(
    TrackRow.id == bindparam("track")
)


class Projects:
    """The projects in a database. What is in one is changed by its log alone."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def add(
        self,
        title: str,
        film: Film | None,
        *,
        language: str = "en",
        id_: str | None = None,
        rate: FrameRate | None = None,
    ) -> Project:
        """A new project with one empty track.

        :param rate: of the film, where that is still to come
        """
        project_id, track_id = id_ or uuid.uuid4().hex, uuid.uuid4().hex
        now = time.time_ns() // 1_000_000
        track: dict[str, Any] = {
            "at": 0, "name": "", "language": language, "spec": None, "extras": [], "style": None,
        }  # fmt: skip
        first_spec = shipped_specs()[_FIRST_SPEC].model_dump(mode="json")
        records: dict[tuple[str, str], Any] = {
            (PROJECT, "title"): title,
            (PROJECT, "spec"): _FIRST_SPEC,
            (SPECS, _FIRST_SPEC): first_spec,
            (TRACKS, track_id): track,
        }
        if film:
            film = replace(film, id=film.id or project_id, project_id=project_id)
            records[PROJECT, "film"] = film.id
        if rate:
            records[PROJECT, "rate"] = asdict(rate)
        with self._writing.begin() as connection:
            if usual := _style_of_new_projects(connection):
                name, look = usual
                records[STYLES, name] = {"at": 0, "look": look}
                track["style"] = name
            connection.execute(
                insert(ProjectRow).values(id=project_id, created_ms=now, opened_ms=now)
            )
            if film:
                connection.execute(insert(FilmRow).values(**asdict(film)))
            connection.execute(insert(TrackRow).values(id=track_id, project_id=project_id))
            connection.execute(
                insert(RecordRow),
                [
                    {"project_id": project_id, "address": address, "key": key, "value": value}
                    for (address, key), value in records.items()
                ],
            )
        return self.get(project_id)

    def get(self, project_id: str) -> Project:
        """:raises UnknownProject: :raises DamagedProject: when what is stored of it cannot be read"""
        project = self._read(_PROJECTS.where(ProjectRow.id == project_id))
        if project is None:
            raise UnknownProject
        return project

    def needs(self, project_id: str) -> None:
        """:raises UnknownProject: when there is none of that id; it may be damaged"""
        with self._engine.connect() as connection:
            there = select(ProjectRow.id).where(ProjectRow.id == project_id)
            if connection.scalar(there) is None or project_id == HOUSE:
                raise UnknownProject

    def all(self) -> list[Project]:
        """Those that can be read; the one that was opened last comes first."""
        return [found for found in self._each() if isinstance(found, Project)]

    def damaged(self) -> list[DamagedRow]:
        """Those that cannot be read."""
        return [found for found in self._each() if isinstance(found, DamagedRow)]

    def _each(self) -> Iterator[Project | DamagedRow]:
        """Each project by itself, so that a damaged one stands in the way of none."""
        newest_first = (
            select(ProjectRow.id, ProjectRow.opened_ms, _TITLE)
            .where(ProjectRow.id != HOUSE)
            .order_by(ProjectRow.opened_ms.desc(), ProjectRow.id)
        )
        with self._engine.connect() as connection:
            rows = connection.execute(newest_first).all()
        for id_, opened_ms, title in rows:
            try:
                project = self.get(id_)
                self._look_at_captions(project)
                yield project
            except DamagedProject:
                yield DamagedRow(id_, str(title or "").strip('"'), opened_ms)
            except UnknownProject:
                # Removed a moment ago.
                continue

    def _look_at_captions(self, project: Project) -> None:
        """:raises DamagedProject: when a caption holds what is none of JSON"""
        broken = (
            select(CaptionRow.id)
            .where(CaptionRow.track_id.in_(list(project.records[TRACKS])))
            .where(func.json_valid(CaptionRow.spans) == 0)
            .limit(1)
        )
        with self._engine.connect() as connection:
            if connection.scalar(broken) is not None:
                raise DamagedProject

    def of_track(self, track_id: str) -> Project:
        """:raises UnknownProject: :raises DamagedProject: when what is stored of it cannot be read"""
        project = self._read(_OF_TRACK, track=track_id)
        if not project or track_id not in project.records[TRACKS]:
            raise UnknownProject
        return project

    def _read(self, asked: Select[Any], **values: str) -> Project | None:
        """The project that a statement asks for. :raises DamagedProject: when it cannot be read"""
        with self._engine.connect() as connection, told_as_damage():
            row = connection.execute(asked, values).first()
            if row is None:
                return None
            project = _project(connection, row)
            project.look_through()
        return project

    def caption_count(self, project: Project) -> int:
        """Number of captions in all of a project's tracks."""
        with self._engine.connect() as connection:
            return (
                connection.scalar(
                    select(func.count())
                    .select_from(CaptionRow)
                    .where(CaptionRow.track_id.in_(list(project.records[TRACKS])))
                )
                or 0
            )

    def begin_run(self, project_id: str, run: str) -> None:
        """Shows the words of a run as the transcript while they are heard, where there is none yet."""
        with self._writing.begin() as connection:
            connection.execute(
                update(ProjectRow)
                .where(ProjectRow.id == project_id, ProjectRow.words_run.is_(None))
                .values(words_run=run)
            )

    def make_room_for_track(self, project_id: str) -> str:
        """Id of a track that the log may add to the project's tracks."""
        id_ = uuid.uuid4().hex
        with self._writing.begin() as connection:
            connection.execute(insert(TrackRow).values(id=id_, project_id=project_id))
        return id_

    def opened(self, project_id: str) -> None:
        """Remembers that a project was opened now."""
        with self._writing.begin() as connection:
            connection.execute(
                update(ProjectRow)
                .where(ProjectRow.id == project_id)
                .values(opened_ms=time.time_ns() // 1_000_000)
            )

    def remove(self, project_id: str) -> None:
        """Forgets a project and everything in it."""
        with self._writing.begin() as connection:
            connection.execute(delete(ProjectRow).where(ProjectRow.id == project_id))

    def specs(self) -> dict[str, Spec]:
        """All specs by id: those that ship, and those that the house keeps."""
        with self._engine.connect() as connection:
            kept = read_records(connection, HOUSE, [SPECS])[SPECS]
        return shipped_specs() | {id_: _spec(kept_spec) for id_, kept_spec in kept.items()}


def _project(connection: Connection, row: Row[Any]) -> Project:
    records = read_records(connection, row.id, _SHOWN)
    film = row[-len(FILM_COLUMNS) :]
    rate = records[PROJECT].get("rate")
    return Project(
        row.id,
        row.created_ms,
        row.opened_ms,
        row.revision,
        row.words_run,
        row.words_revision,
        read_film(film) if film[0] is not None else film_to_come(rate and FrameRate(**rate)),
        records,
    )


def _spec(kept: Mapping[str, Any]) -> Spec:
    # JSON's way of looking at it: a list is a tuple's form there.
    return _spec_of_json(json.dumps(kept))


# Each edit asks for the same few.
@lru_cache(64)
def _spec_of_json(kept: str) -> Spec:
    return Spec.model_validate_json(kept)


def _style_of_new_projects(connection: Connection) -> tuple[str, Mapping[str, Any]] | None:
    """The name of the kept style that new projects begin with, and what it says."""
    kept = select(RecordRow.key, RecordRow.value).where(
        RecordRow.project_id == HOUSE, RecordRow.address == STYLES
    )
    found = (row for row in connection.execute(kept) if row.value.get("default"))
    return next(((row.key, row.value["look"]) for row in found), None)


def _track_info(id_: str, entry: Mapping[str, Any]) -> TrackInfo:
    kept = tuple((key, value) for key, value in entry["extras"])
    return TrackInfo(
        id_, entry["name"], entry["language"], entry["spec"], kept, entry.get("style"),
        entry.get("translates"),
    )  # fmt: skip
