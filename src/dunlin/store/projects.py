"""Projects, their films, their tracks, and the delivery specs they are judged by."""

import time
import uuid
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy import Engine, delete, func, insert, literal_column, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import Extras
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
    picture_ends_ms: int | None = None
    shots: list[int] | None = None
    """Milliseconds of the shot changes; None until they were looked for."""

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
    spec_id: str | None
    extras: Extras


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
    words_revision: int = 0
    speakers: tuple[dict[str, str], ...] = ()
    """Name and colour of each who speaks."""
    terms: tuple[str, ...] = ()
    """Names and terms as they are spelled."""

    def track(self, track_id: str) -> TrackInfo:
        """:raises StopIteration: when it has none of that id"""
        return next(track for track in self.tracks if track.id == track_id)


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
                    select(
                        TrackRow.id,
                        TrackRow.name,
                        TrackRow.language,
                        TrackRow.revision,
                        TrackRow.spec_id,
                        TrackRow.extras,
                    )
                    .where(TrackRow.project_id == row["id"])
                    .order_by(literal_column("tracks.rowid"))
                )
                film = Film(
                    row["label"],
                    row["size_bytes"],
                    row["facts"],
                    row["has_copy"],
                    row["sound_ends_ms"],
                    row["picture_ends_ms"],
                    row["shots"],
                )
                projects.append(
                    Project(
                        row["id"], row["title"], row["created_ms"], row["opened_ms"],
                        row["spec_id"], row["words_run"], film, tuple(map(_track_info, tracks)),
                        row["words_revision"], tuple(row["speakers"]), tuple(row["terms"]),
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

    def change_shots(self, project_id: str, shots: list[int]) -> None:
        """Sets the shot changes of a project's film, by which its captions are judged."""
        self.change_film(project_id, shots=shots)
        for track in self.get(project_id).tracks:
            self.change_track(track.id)

    def add_track(self, project_id: str, name: str, language: str) -> str:
        """Adds an empty track, and gives its id."""
        id_ = uuid.uuid4().hex
        with self._writing.begin() as connection:
            connection.execute(
                insert(TrackRow).values(
                    id=id_, project_id=project_id, name=name, language=language, revision=0
                )
            )
        return id_

    def change_track(self, track_id: str, **values: Any) -> None:
        """Sets columns of a track; what judges its captions may be among them."""
        with self._writing.begin() as connection:
            connection.execute(
                update(TrackRow)
                .where(TrackRow.id == track_id)
                .values(judged=time.time_ns() // 1000, **values)
            )

    def remove_track(self, track_id: str) -> None:
        """Forgets a track and its captions."""
        with self._writing.begin() as connection:
            connection.execute(delete(TrackRow).where(TrackRow.id == track_id))

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
            spec = spec.model_copy(update={"id": f"{spec.id}-own"})
        with self._writing.begin() as connection:
            statement = upsert(SpecRow).values(id=spec.id, document=write_spec(spec))
            connection.execute(
                statement.on_conflict_do_update(set_={"document": statement.excluded.document})
            )
            by_project = select(ProjectRow.id).where(ProjectRow.spec_id == spec.id)
            connection.execute(
                update(TrackRow)
                .where(
                    (TrackRow.spec_id == spec.id)
                    | (TrackRow.spec_id.is_(None) & TrackRow.project_id.in_(by_project))
                )
                .values(judged=time.time_ns() // 1000)
            )
        return spec

    def remove_spec(self, spec_id: str) -> bool:
        """Forgets a spec that was added; False when there is none of that id."""
        with self._writing.begin() as connection:
            return connection.execute(delete(SpecRow).where(SpecRow.id == spec_id)).rowcount > 0

    def spec_of(self, project: Project, track_id: str | None = None) -> Spec:
        """The spec a project is judged by, or one of its tracks."""
        specs = self.specs()
        own = project.track(track_id).spec_id if track_id else None
        return specs.get(own or "") or specs.get(project.spec_id) or specs["streaming"]


def _track_info(row: Any) -> TrackInfo:
    id_, name, language, revision, spec_id, extras = row
    kept = tuple((key, value) for key, value in extras)
    return TrackInfo(id_, name, language, revision, spec_id, kept)
