"""Jobs as rows: what is asked for, how far it is, what came of it."""

import time
import uuid
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Engine, func, insert, select, update

from dunlin.core.messages import Told, message
from dunlin.store.tables import JobRow

__all__ = ["Job", "Jobs", "UnknownJob"]


class UnknownJob(Told, LookupError):
    """There is no job of that id."""

    def __init__(self) -> None:
        super().__init__(message("jobs.gone"))


@dataclass(frozen=True)
class Job:
    """A job as it stands now. Times are milliseconds since 1970."""

    id: str
    project_id: str
    film_id: str | None
    """The film it is about; None where there is none yet."""
    kind: str
    state: str
    progress: float
    step: str
    parameters: dict[str, Any]
    result: dict[str, Any] | None
    error: dict[str, Any] | None
    """Why it failed: code and values of a message."""
    attempts: int
    cancel_asked: bool
    created_ms: int
    started_ms: int | None
    ended_ms: int | None
    beat_ms: int | None
    version: int

    @property
    def left_ms(self) -> int | None:
        """Time left, by how far it came since it started; None while that says nothing."""
        if self.state != "running" or self.started_ms is None or self.progress < 0.02:
            return None
        passed = _now() - self.started_ms
        return round(passed * (1 - self.progress) / self.progress)


_COLUMNS = [getattr(JobRow, name) for name in Job.__dataclass_fields__]


def _now() -> int:
    return time.time_ns() // 1_000_000


class Jobs:
    """The jobs in a database. Every change gives a job a new, greater version."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def add(
        self, project_id: str, kind: str, parameters: dict[str, Any], film_id: str | None = None
    ) -> Job:
        job_id = uuid.uuid4().hex
        with self._writing.begin() as connection:
            connection.execute(
                insert(JobRow).values(
                    id=job_id,
                    project_id=project_id,
                    film_id=film_id,
                    kind=kind,
                    state="waiting",
                    parameters=parameters,
                    created_ms=_now(),
                    version=_next_version(),
                )
            )
        return self.get(job_id)

    def get(self, job_id: str) -> Job:
        """:raises UnknownJob:"""
        found = self._where(JobRow.id == job_id)
        if not found:
            raise UnknownJob
        return found[0]

    def exists(self, job_id: str) -> bool:
        return bool(self._where(JobRow.id == job_id))

    def of_project(self, project_id: str) -> list[Job]:
        """Newest first."""
        return self._where(JobRow.project_id == project_id)

    def in_state(self, state: str) -> list[Job]:
        return self._where(JobRow.state == state)

    def results_of(self, kind: str, count: int) -> list[dict[str, Any]]:
        """What the last so many jobs of a kind found, newest first."""
        with self._engine.connect() as connection:
            rows = connection.execute(
                select(JobRow.result)
                .where(JobRow.kind == kind, JobRow.state == "done")
                .order_by(JobRow.created_ms.desc())
                .limit(count)
            )
            return [result for (result,) in rows if result]

    def changed_since(self, version: int) -> list[Job]:
        """Jobs with a greater version, oldest change first."""
        found = self._where(JobRow.version > version)
        return sorted(found, key=lambda job: job.version)

    def newest_version(self) -> int:
        with self._engine.connect() as connection:
            return connection.scalar(select(func.coalesce(func.max(JobRow.version), 0))) or 0

    def _where(self, *conditions: Any) -> list[Job]:
        with self._engine.connect() as connection:
            rows = connection.execute(
                select(*_COLUMNS).where(*conditions).order_by(JobRow.created_ms.desc(), JobRow.id)
            )
            return [Job(*row) for row in rows]

    def change(self, job_id: str, *, only_in: tuple[str, ...] = (), **values: Any) -> bool:
        """Sets columns of a job, if it is in one of the states.

        :returns: whether it was
        """
        conditions = [JobRow.id == job_id]
        if only_in:
            conditions.append(JobRow.state.in_(only_in))
        with self._writing.begin() as connection:
            result = connection.execute(
                update(JobRow).where(*conditions).values(version=_next_version(), **values)
            )
            return bool(result.rowcount)

    def start(self, job_id: str) -> bool:
        """Takes a waiting job on; False when somebody else did, or it was called off."""
        now = _now()
        return self.change(
            job_id,
            only_in=("waiting",),
            state="running",
            started_ms=now,
            beat_ms=now,
            progress=0.0,
            error=None,
            attempts=JobRow.attempts + 1,
        )

    def beat(self, job_id: str) -> None:
        """Says that the worker of a job lives; nobody needs to be told, so its version stays."""
        with self._writing.begin() as connection:
            connection.execute(update(JobRow).where(JobRow.id == job_id).values(beat_ms=_now()))

    def end(self, job_id: str, state: str, **values: Any) -> None:
        """Marks a running job as `done`, `failed` or `cancelled`."""
        self.change(job_id, only_in=("running",), state=state, ended_ms=_now(), **values)


def _next_version() -> Any:
    """Greater than every version given before, also those of jobs that are gone: the time helps."""
    newest = select(func.coalesce(func.max(JobRow.version), 0) + 1).scalar_subquery()
    return func.max(newest, time.time_ns() // 1000)
