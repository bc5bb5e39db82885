"""Tells every open tab what changed, whoever changed it: this server, a worker, or a command."""

import asyncio
from collections.abc import AsyncIterator, Sequence
from dataclasses import dataclass
from typing import Any, TypeAlias

from sqlalchemy import Engine, func, select

from dunlin.store.jobs import Job, Jobs
from dunlin.store.tables import EditRow, ProjectRow, TrackRow

__all__ = ["EditMade", "Event", "Feed", "JobChanged", "JudgedAnew", "WordsWritten"]

_LOOK_EVERY_SECONDS = 0.15


@dataclass(frozen=True)
class EditMade:
    """A row of the edit log."""

    project_id: str
    track_id: str
    revision: int
    actor: str
    touched: tuple[str, ...]
    near: tuple[str, ...]


@dataclass(frozen=True)
class JudgedAnew:
    """A track's captions are judged otherwise, without an edit: by another spec, or with a waiver."""

    project_id: str
    track_id: str


@dataclass(frozen=True)
class WordsWritten:
    """A project's transcript is another one, or some of its words are."""

    project_id: str
    revision: int


@dataclass(frozen=True)
class JobChanged:
    project_id: str
    job: Job


Event: TypeAlias = EditMade | JobChanged | JudgedAnew | WordsWritten


class Feed:
    """Watches the database, and hands what is new to every listener.

    SQLite's `data_version` changes whenever another connection commits, so looking is one cheap
    query, and nobody has to remember to tell.
    """

    def __init__(self, engine: Engine, jobs: Jobs) -> None:
        self._engine = engine
        self._jobs = jobs
        self._listeners: set[asyncio.Queue[Event | None]] = set()

    async def listen(self) -> AsyncIterator[Event]:
        """What happens from now on, until the server ends."""
        queue: asyncio.Queue[Event | None] = asyncio.Queue()
        self._listeners.add(queue)
        try:
            while (event := await queue.get()) is not None:
                yield event
        finally:
            self._listeners.discard(queue)

    def close(self) -> None:
        """Ends all listening."""
        for queue in self._listeners:
            queue.put_nowait(None)

    async def watch(self) -> None:
        """Looks for what is new, for ever."""
        with self._engine.connect() as connection:
            seq, judged, job_version = self._newest(connection)
            written = self._transcripts(connection)
            seen = None
            while True:
                version = connection.exec_driver_sql("PRAGMA data_version").scalar()
                if version != seen:
                    seen = version
                    edits = self._edits_since(connection, seq)
                    jobs = self._jobs.changed_since(job_version)
                    seq = edits[-1][0] if edits else seq
                    job_version = jobs[-1].version if jobs else job_version
                    tracks = self._judged_since(connection, judged)
                    judged = max((moment for moment, _ in tracks), default=judged)
                    self._tell([made for _, made in edits])
                    self._tell([track for _, track in tracks])
                    before, written = written, self._transcripts(connection)
                    self._tell(
                        [
                            WordsWritten(project_id, revision)
                            for project_id, revision in written.items()
                            if revision != before.get(project_id, 0)
                        ]
                    )
                    self._tell([JobChanged(job.project_id, job) for job in jobs])
                # Without this the connection would go on seeing the same state.
                connection.rollback()
                await asyncio.sleep(_LOOK_EVERY_SECONDS)

    def _tell(self, happened: Sequence[Event]) -> None:
        for queue in self._listeners:
            for event in happened:
                queue.put_nowait(event)

    def _newest(self, connection: Any) -> tuple[int, int, int]:
        seq = connection.scalar(select(func.coalesce(func.max(EditRow.seq), 0)))
        judged = connection.scalar(select(func.coalesce(func.max(TrackRow.judged), 0)))
        return seq, judged, self._jobs.newest_version()

    @staticmethod
    def _transcripts(connection: Any) -> dict[str, int]:
        """The revision of each project's transcript."""
        rows = connection.execute(select(ProjectRow.id, ProjectRow.words_revision))
        return dict(rows.all())

    @staticmethod
    def _judged_since(connection: Any, moment: int) -> list[tuple[int, JudgedAnew]]:
        rows = connection.execute(
            select(TrackRow.judged, TrackRow.project_id, TrackRow.id).where(
                TrackRow.judged > moment
            )
        )
        return [(judged, JudgedAnew(project, track)) for judged, project, track in rows]

    @staticmethod
    def _edits_since(connection: Any, seq: int) -> list[tuple[int, EditMade]]:
        rows = connection.execute(
            select(
                EditRow.seq,
                TrackRow.project_id,
                EditRow.track_id,
                EditRow.revision,
                EditRow.actor,
                EditRow.touched,
                EditRow.near,
            )
            .join(TrackRow, TrackRow.id == EditRow.track_id)
            .where(EditRow.seq > seq)
            .order_by(EditRow.seq)
        )
        return [
            (seq, EditMade(project, track, revision, actor, tuple(touched), tuple(near)))
            for seq, project, track, revision, actor, touched, near in rows
        ]
