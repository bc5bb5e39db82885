"""Projects, their films, their tracks, and the delivery specs they are judged by."""

import time
import uuid
from dataclasses import asdict, dataclass, replace
from typing import Any

from sqlalchemy import Engine, delete, func, insert, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.specs import Spec, read_spec, shipped_specs, write_spec
from dunlin.core.timecode import FrameRate
from dunlin.store.tables import CaptionRow, FilmRow, ProjectRow, SpecRow, TrackRow

__all__ = ["Film", "Project", "Projects", "TrackInfo", "UnknownProject"]


class UnknownProject(LookupError):
    """There is no project of that id."""


@dataclass(frozen=True)
class Film:
    """A film as it was brought in; `facts` is its probe as plain data."""

    label: str
    size_bytes: int
    facts: dict[str, Any]
    has_copy: bool = False
    sound_ends_ms: int | None = None

    @property
    def rate(self) -> FrameRate:
        return FrameRate(**self.facts["frame_rate"])

    @property
    def has_sound(self) -> bool:
        return bool(self.facts["audio_streams"])


@dataclass(frozen=True)
class TrackInfo:
    """A track without its captions."""

    id: str
    name: str
    language: str
    revision: int


@dataclass(frozen=True)
class Project:
    """One film and its tracks."""

    id: str
    title: str
    created_ms: int
    opened_ms: int
    spec_id: str
    words_run: str | None
    film: Film
    tracks: tuple[TrackInfo, ...]


class Projects:
    """The projects in a database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def add(
        self, title: str, film: Film, *, language: str = "en", id_: str | None = None
    ) -> Project:
        """A new project with one empty track."""
        project_id = id_ or uuid.uuid4().hex
        now = time.time_ns() // 1_000_000
        with self._writing.begin() as connection:
            connection.execute(
                insert(ProjectRow).values(
                    id=project_id, title=title, created_ms=now, opened_ms=now, spec_id="streaming"
                )
            )
            connection.execute(insert(FilmRow).values(project_id=project_id, **asdict(film)))
            connection.execute(
                insert(TrackRow).values(
                    id=uuid.uuid4().hex,
                    project_id=project_id,
                    name="",
                    language=language,
                    revision=0,
                )
            )
        return self.get(project_id)

    def get(self, project_id: str) -> Project:
        """:raises UnknownProject:"""
        found = self._listed(ProjectRow.id == project_id)
        if not found:
            raise UnknownProject(project_id)
        return found[0]

    def all(self) -> list[Project]:
        """The one that was opened last comes first."""
        return self._listed()

    def of_track(self, track_id: str) -> Project:
        """:raises UnknownProject:"""
        with self._engine.connect() as connection:
            owner = connection.scalar(select(TrackRow.project_id).where(TrackRow.id == track_id))
        return self.get(owner or "")

    def _listed(self, *where: Any) -> list[Project]:
        with self._engine.connect() as connection:
            rows = connection.execute(
                select(ProjectRow.__table__, FilmRow.__table__)
                .join(FilmRow, FilmRow.project_id == ProjectRow.id)
                .where(*where)
                .order_by(ProjectRow.opened_ms.desc(), ProjectRow.id)
            ).mappings()
            projects = []
            for row in rows:
                tracks = connection.execute(
                    select(TrackRow.id, TrackRow.name, TrackRow.language, TrackRow.revision)
                    .where(TrackRow.project_id == row["id"])
                    .order_by(TrackRow.id)
                )
                film = Film(
                    row["label"],
                    row["size_bytes"],
                    row["facts"],
                    row["has_copy"],
                    row["sound_ends_ms"],
                )
                projects.append(
                    Project(
                        row["id"], row["title"], row["created_ms"], row["opened_ms"],
                        row["spec_id"], row["words_run"], film, tuple(TrackInfo(*t) for t in tracks),
                    )
                )  # fmt: skip
        return projects

    def caption_count(self, project_id: str) -> int:
        """Number of captions in all of a project's tracks."""
        with self._engine.connect() as connection:
            return (
                connection.scalar(
                    select(func.count())
                    .select_from(CaptionRow)
                    .join(TrackRow, TrackRow.id == CaptionRow.track_id)
                    .where(TrackRow.project_id == project_id)
                )
                or 0
            )

    def change(self, project_id: str, **values: Any) -> None:
        """Sets columns of a project."""
        with self._writing.begin() as connection:
            connection.execute(
                update(ProjectRow).where(ProjectRow.id == project_id).values(**values)
            )

    def change_film(self, project_id: str, **values: Any) -> None:
        """Sets columns of a project's film."""
        with self._writing.begin() as connection:
            connection.execute(
                update(FilmRow).where(FilmRow.project_id == project_id).values(**values)
            )

    def change_language(self, track_id: str, language: str) -> None:
        with self._writing.begin() as connection:
            connection.execute(
                update(TrackRow).where(TrackRow.id == track_id).values(language=language)
            )

    def opened(self, project_id: str) -> None:
        """Remembers that a project was opened now."""
        self.change(project_id, opened_ms=time.time_ns() // 1_000_000)

    def remove(self, project_id: str) -> None:
        """Forgets a project and everything in it."""
        with self._writing.begin() as connection:
            connection.execute(delete(ProjectRow).where(ProjectRow.id == project_id))

    def specs(self) -> dict[str, Spec]:
        """All specs by id: those that ship, and those that were added."""
        with self._engine.connect() as connection:
            added = connection.execute(select(SpecRow.id, SpecRow.document).order_by(SpecRow.id))
            return shipped_specs() | {id_: read_spec(document) for id_, document in added}

    def add_spec(self, spec: Spec) -> Spec:
        """Keeps a spec; one with the id of a shipped one gets an id of its own."""
        if spec.id in shipped_specs():
            spec = replace(spec, id=f"{spec.id}-own")
        with self._writing.begin() as connection:
            statement = upsert(SpecRow).values(id=spec.id, document=write_spec(spec))
            connection.execute(
                statement.on_conflict_do_update(set_={"document": statement.excluded.document})
            )
        return spec

    def spec_of(self, project: Project) -> Spec:
        """The spec a project is judged by."""
        specs = self.specs()
        return specs.get(project.spec_id) or specs["streaming"]
