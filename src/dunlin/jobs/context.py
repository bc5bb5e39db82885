"""What a job is given to work with."""

import time
from collections.abc import Callable, Iterable, Iterator
from functools import cached_property
from pathlib import Path
from typing import Any

from dunlin.core.messages import Told, message
from dunlin.core.speech import SPEECH_RATE
from dunlin.engines.recogniser import Sound
from dunlin.jobs.beginning import TakesJobs
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.probe import Probe, probe_from
from dunlin.store.films import Film
from dunlin.store.jobs import Job
from dunlin.store.log import Author
from dunlin.work.folder import DataFolder
from dunlin.work.known_films import take_what_is_known

__all__ = ["FilmReplaced", "JobContext", "Work"]

_TELL_EVERY_SECONDS = 0.4


class FilmReplaced(Told):
    """Another film came in the place of the one that a job is about."""


class JobContext:
    """A running job: its project, and how to say how far it is."""

    def __init__(self, job: Job, folder: DataFolder, queue: TakesJobs | None = None) -> None:
        """:param queue: where what follows is asked for, if it is"""
        self.job = job
        self.folder = folder
        self.queue = queue
        self._told = 0.0
        self._cancelled = False

    @cached_property
    def film(self) -> Film:
        """The one it is about. :raises UnknownFilm: when it is about none"""
        return self.folder.films.get(self.job.film_id or "")

    @property
    def film_folder(self) -> Path:
        return self.folder.film_folder(self.film)

    @property
    def film_file(self) -> Path:
        return self.folder.film_file(self.film)

    def take_what_is_known(self, *files: str) -> bool:
        """Whether what the job would make was made of a film of the same content, and is beside this one now."""
        return take_what_is_known(self.folder, self.film, files)

    @property
    def author(self) -> Author:
        """Who asked for the job: what it changes is theirs to undo."""
        return Author(self.job.parameters.get("person") or "dunlin")

    @property
    def facts(self) -> Probe:
        return probe_from(self.film.facts)

    def needs_same_film(self) -> None:
        """:raises FilmReplaced: when the project shows another film by now, to which no times apply that
        were heard in this one"""
        if self.folder.projects.get(self.job.project_id).film.id != self.film.id:
            raise FilmReplaced(message("film.replaced-meanwhile"))

    def progress(self, part: float) -> None:
        """Says which part is done; more often than people can see is passed over."""
        now = time.monotonic()
        if now - self._told >= _TELL_EVERY_SECONDS:
            self._told = now
            self.folder.jobs.change(self.job.id, progress=part)
            self._cancelled = self.folder.jobs.get(self.job.id).cancel_asked

    def along(
        self, blocks: Iterable[Sound], from_part: float, to_part: float, seconds: float = 0
    ) -> Iterator[Sound]:
        """Blocks of the film's sound, as the part of the work between two parts goes along with them.

        :param seconds: how much sound there will be; 0 is all of the film's
        :raises Cancelled: when the job was called off
        """
        total = (seconds or self.facts.duration_ms / 1000) * SPEECH_RATE
        done = 0
        for block in blocks:
            if self.cancelled():
                raise Cancelled
            yield block
            done += len(block)
            self.progress(from_part + (to_part - from_part) * min(done / max(total, 1), 1))

    def step(self, name: str) -> None:
        """Says what is being done now."""
        self.folder.jobs.change(self.job.id, step=name)

    def cancelled(self) -> bool:
        """Whether the user called it off, as far as was seen when progress was last told."""
        return self._cancelled


Work = Callable[[JobContext], dict[str, Any]]
"""Does one kind of job and gives its result, as plain data."""
