"""Tells every open window what changed, whoever changed it: this server, a worker, or a command."""

import asyncio
import logging
from collections.abc import AsyncIterator, Sequence
from dataclasses import dataclass
from typing import Any, TypeAlias

from sqlalchemy import Connection, Engine, func, select
from sqlalchemy.exc import SQLAlchemyError

from dunlin.store.jobs import Job, Jobs
from dunlin.store.log import Author, Changed, Done
from dunlin.store.tables import LogRow

__all__ = ["Event", "Feed", "JobChanged", "ProjectChanged"]

_log = logging.getLogger(__name__)

_LOOK_EVERY_SECONDS = 0.15
_AGAIN_AFTER_SECONDS = 1.0


@dataclass(frozen=True, eq=False)
class ProjectChanged:
    """Entries that a project's log has more than before, taken together."""

    project_id: str
    done: Done
    windows: frozenset[str]


@dataclass(frozen=True)
class JobChanged:
    """A job as it is now."""

    project_id: str
    job: Job


Event: TypeAlias = ProjectChanged | JobChanged


class Feed:
    """Watches the database, and hands what is new to every listener.

    SQLite's `data_version` changes whenever another connection commits, so looking is one cheap
    query, and nobody has to remember to tell.
    """

    def __init__(self, engine: Engine, jobs: Jobs) -> None:
        self._engine = engine
        self._jobs = jobs
        self._listeners: set[asyncio.Queue[Event | None]] = set()
        self.looking = asyncio.Event()
        """Set once what is new from then on is told."""
        self._seq: int | None = None
        self._job_version = 0

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
        """Looks for what is new, for ever; a database that cannot be read now is looked at again."""
        while True:
            try:
                await self._watch()
            except SQLAlchemyError:
                _log.exception("what happens cannot be read; it is tried again")
                await asyncio.sleep(_AGAIN_AFTER_SECONDS)

    async def _watch(self) -> None:
        with self._engine.connect() as connection:
            seen = None
            while True:
                version = connection.exec_driver_sql("PRAGMA data_version").scalar()
                if self._seq is None:
                    self._seq = _newest_entry(connection)
                    self._job_version = self._jobs.newest_version()
                    self.looking.set()
                if version != seen:
                    self._tell(self._news(connection))
                    seen = version
                # Without this the connection would go on seeing the same state.
                connection.rollback()
                await asyncio.sleep(_LOOK_EVERY_SECONDS)

    def _news(self, connection: Connection) -> Sequence[Event]:
        assert self._seq is not None
        rows = _entries_since(connection, self._seq)
        jobs = self._jobs.changed_since(self._job_version)
        self._seq = rows[-1].seq if rows else self._seq
        self._job_version = jobs[-1].version if jobs else self._job_version
        return [
            *(_together(connection, entries) for entries in _by_author(rows)),
            *(JobChanged(job.project_id, job) for job in jobs),
        ]

    def _tell(self, happened: Sequence[Event]) -> None:
        for queue in self._listeners:
            for event in happened:
                queue.put_nowait(event)


def _newest_entry(connection: Connection) -> int:
    return connection.scalar(select(func.coalesce(func.max(LogRow.seq), 0))) or 0


def _entries_since(connection: Connection, seq: int) -> Sequence[Any]:
    columns = (
        LogRow.seq, LogRow.project_id, LogRow.revision, LogRow.target, LogRow.actor,
        LogRow.window, LogRow.touched, LogRow.near,
    )  # fmt: skip
    return connection.execute(select(*columns).where(LogRow.seq > seq).order_by(LogRow.seq)).all()


def _by_author(rows: Sequence[Any]) -> list[list[Any]]:
    """New entries by project, and those in a row of one person together: what can be taken back now is told to who did it."""
    runs: list[list[Any]] = []
    newest: dict[str, list[Any]] = {}
    for row in rows:
        run = newest.get(row.project_id)
        if run is None or run[-1].actor != row.actor:
            newest[row.project_id] = run = []
            runs.append(run)
        run.append(row)
    return runs


def _together(connection: Connection, rows: Sequence[Any]) -> ProjectChanged:
    """New entries of one project and person as what they did together."""
    changed: dict[str, Changed] = {}
    for row in rows:
        known = changed.get(row.target)
        if known is None:
            known = Changed(frozenset(), before=_before(connection, row))
        touched = known.touched | frozenset(row.touched)
        near = (known.near | frozenset(row.near)) - touched
        changed[row.target] = Changed(touched, near, known.before)
    last = rows[-1]
    author = Author(last.actor, last.window)
    done = Done(last.project_id, last.revision, "", author, changed)
    return ProjectChanged(last.project_id, done, frozenset(row.window for row in rows))


def _before(connection: Connection, row: Any) -> int:
    """The revision of the entry before one, of the same target."""
    return (
        connection.scalar(
            select(func.max(LogRow.revision)).where(
                LogRow.project_id == row.project_id,
                LogRow.target == row.target,
                LogRow.revision < row.revision,
            )
        )
        or 0
    )
