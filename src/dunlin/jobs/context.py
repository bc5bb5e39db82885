"""What a job is given to work with."""

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from sqlalchemy import Engine

from dunlin.core.timecode import FrameRate
from dunlin.media.probe import Probe
from dunlin.store.jobs import Job, Jobs
from dunlin.store.projects import Projects
from dunlin.store.settings import Settings

__all__ = ["JobContext", "Work", "facts_of"]

_TELL_EVERY_SECONDS = 0.4


class JobContext:
    """A running job: its project, and how to say how far it is."""

    def __init__(self, job: Job, engine: Engine, settings: Settings) -> None:
        self.job = job
        self.engine = engine
        self.settings = settings
        self._jobs = Jobs(engine)
        self._told = 0.0
        self._cancelled = False

    @property
    def film_folder(self) -> Path:
        return self.settings.films / self.job.project_id

    @property
    def film(self) -> Path:
        return self.film_folder / "original"

    def facts(self) -> Probe:
        return facts_of(Projects(self.engine).get(self.job.project_id).film.facts)

    def progress(self, part: float) -> None:
        """Says which part is done; more often than people can see is passed over."""
        now = time.monotonic()
        if now - self._told >= _TELL_EVERY_SECONDS:
            self._told = now
            self._jobs.change(self.job.id, progress=part)
            self._cancelled = self._jobs.get(self.job.id).cancel_asked

    def step(self, name: str) -> None:
        """Says what is being done now."""
        self._jobs.change(self.job.id, step=name)

    def cancelled(self) -> bool:
        """Whether the user called it off, as far as was seen when progress was last told."""
        return self._cancelled


Work = Callable[[JobContext], dict[str, Any]]
"""Does one kind of job and gives its result, as plain data."""


def facts_of(stored: dict[str, Any]) -> Probe:
    """The probe that was stored as plain data."""
    return Probe(**(stored | {"frame_rate": FrameRate(**stored["frame_rate"])}))
