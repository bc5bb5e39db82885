"""The queue, and the worker that empties it."""

import logging
import shutil
import threading
import time
from dataclasses import asdict
from typing import Any

from huey import Huey, RedisHuey, SqliteHuey
from huey.consumer import Consumer
from sqlalchemy import func
from sqlalchemy.exc import SQLAlchemyError

from dunlin.core.messages import Told, message
from dunlin.jobs.burning import burn_in, put_tracks_in
from dunlin.jobs.context import JobContext, Work
from dunlin.jobs.drafting import draft_translation
from dunlin.jobs.fetching import fetch_film
from dunlin.jobs.following import follow_marks
from dunlin.jobs.packing import make_packing_list
from dunlin.jobs.playable_copy import make_playable_copy
from dunlin.jobs.recognition import hear_again, recognise
from dunlin.jobs.shot_finding import find_shots
from dunlin.jobs.sound_peaks import draw_peaks
from dunlin.jobs.timing import find_speech_stretches, find_sync, fit_script, fit_words
from dunlin.jobs.tracks_inside import take_tracks_out
from dunlin.jobs.voices import guess_speakers
from dunlin.media.ffmpeg import Cancelled
from dunlin.settings import Settings
from dunlin.store.faults import storage_fault
from dunlin.store.jobs import Job
from dunlin.store.tables import JobRow
from dunlin.work.folder import DataFolder
from dunlin.work.fonts import know_fonts

__all__ = ["KINDS", "JobQueue"]

KINDS: dict[str, Work] = {
    "peaks": draw_peaks,
    "copy": make_playable_copy,
    "recognise": recognise,
    "burn": burn_in,
    "shots": find_shots,
    "speech": find_speech_stretches,
    "sync": find_sync,
    "fit": fit_script,
    "fit-words": fit_words,
    "guess-speakers": guess_speakers,
    "hear-again": hear_again,
    "follow": follow_marks,
    "draft": draft_translation,
    "tracks-inside": put_tracks_in,
    "pack": make_packing_list,
    "tracks-out": take_tracks_out,
    "fetch": fetch_film,
}
_FILMS = frozenset({"burn", "tracks-inside"})
"""Kinds of jobs that write films: each takes the whole machine, so that one is done after the other. Of packing lists, those
do that have films."""

_log = logging.getLogger(__name__)

_WORKERS = 3
_BEAT_SECONDS = 2
# A worker that has been silent for as long as this is gone.
_SILENT_MS = 8_000
_MOST_ATTEMPTS = 2


class JobQueue:
    """Jobs go in on one side; `workers()` do them, here or in another process."""

    def __init__(self, folder: DataFolder) -> None:
        self._folder = folder
        self._settings = folder.settings
        self._jobs = folder.jobs
        self._running: set[str] = set()
        self._huey = _huey(folder.settings, "dunlin")
        self._films = _huey(folder.settings, "dunlin-films")
        self._task = self._huey.task(name="dunlin.job")(self._run)
        self._film_task = self._films.task(name="dunlin.film")(self._run)

    def add(self, project_id: str, kind: str, parameters: dict[str, Any]) -> Job:
        """Asks for a job of one of `KINDS`, about the film that the project shows."""
        film = self._folder.projects.get(project_id).film
        job = self._jobs.add(project_id, kind, parameters, film.id or None)
        self._put(job)
        return job

    def _put(self, job: Job) -> None:
        writes_film = job.kind in _FILMS or job.parameters.get("films", False)
        (self._film_task if writes_film else self._task)(job.id)

    def cancel(self, job_id: str) -> Job:
        """Calls a job off: at once when it waits, else as soon as it looks up."""
        waiting = self._jobs.change(
            job_id, only_in=("waiting",), state="cancelled", ended_ms=_now(), cancel_asked=True
        )
        if not waiting:
            self._jobs.change(job_id, only_in=("running",), cancel_asked=True)
        return self._jobs.get(job_id)

    def retry(self, job_id: str) -> Job:
        """Asks again for a job that failed or was called off."""
        again = self._jobs.change(
            job_id,
            only_in=("failed", "cancelled"),
            state="waiting",
            attempts=0,
            progress=0.0,
            cancel_asked=False,
            error=None,
            step="",
            started_ms=None,
            ended_ms=None,
        )
        job = self._jobs.get(job_id)
        if again:
            self._put(job)
        return job

    def hand_back(self) -> None:
        """Gives the jobs that run here back, to be taken up again: stopping is no failed attempt."""
        for job_id in list(self._running):
            back = self._jobs.change(
                job_id,
                only_in=("running",),
                state="waiting",
                started_ms=None,
                attempts=func.max(JobRow.attempts - 1, 0),
            )
            if back:
                self._put(self._jobs.get(job_id))

    def workers(self) -> tuple[Consumer, Consumer]:
        """Consumers that work once they are started, until the process is told to end: one for films, and one for all else."""
        self._take_up_lost()
        threading.Thread(target=self._watch, daemon=True, name="watch").start()
        often = {"periodic": False, "initial_delay": 0.05, "max_delay": 0.4}
        return (
            Consumer(self._films, workers=1, **often),
            Consumer(self._huey, workers=_WORKERS, **often),
        )

    def _run(self, job_id: str) -> None:
        """Does one job. Whatever happens, its row says so."""
        if not self._jobs.start(job_id):
            return
        job = self._jobs.get(job_id)
        self._running.add(job_id)
        try:
            know_fonts(self._folder)
            result = KINDS[job.kind](JobContext(job, self._folder, self))
        except Cancelled:
            self._jobs.end(job_id, "cancelled")
        except Told as error:
            self._jobs.end(job_id, "failed", error=asdict(error.message))
        except (OSError, SQLAlchemyError) as error:
            # Where the row cannot be written either, the job is found without a beat and taken up again.
            fault = storage_fault(error)
            told = fault.message if fault else message("as-said.words", words=error)
            _log.warning("job %s (%s): %s", job_id, job.kind, told)
            self._jobs.end(job_id, "failed", error=asdict(told))
        except Exception:
            if not self._jobs.exists(job_id):
                # Its project was removed while it ran: there is nobody left to tell.
                return
            _log.exception("job %s (%s) failed", job_id, job.kind)
            self._jobs.end(job_id, "failed", error=asdict(message("jobs.went-wrong")))
        else:
            self._jobs.end(job_id, "done", progress=1.0, result=result)
        finally:
            self._running.discard(job_id)

    def _watch(self) -> None:
        """Says that the jobs here live, and looks after those whose worker was killed."""
        while True:
            time.sleep(_BEAT_SECONDS)
            try:
                for job_id in list(self._running):
                    self._jobs.beat(job_id)
                self._take_up_silent()
            except (SQLAlchemyError, OSError):
                # Later beats may get through; without any, all jobs here would be taken for dead.
                _log.exception("a beat could not be written; it is tried again")

    def _take_up_silent(self) -> None:
        for job in self._jobs.in_state("running"):
            if job.id in self._running or _now() - (job.beat_ms or 0) < _SILENT_MS:
                continue
            if job.cancel_asked:
                self._remove_drafts(job)
                self._jobs.end(job.id, "cancelled")
            elif job.attempts >= _MOST_ATTEMPTS:
                self._remove_drafts(job)
                self._jobs.end(
                    job.id,
                    "failed",
                    error=asdict(message("jobs.worker-stopped", count=job.attempts)),
                )
            elif self._jobs.change(job.id, only_in=("running",), state="waiting", started_ms=None):
                self._remove_drafts(job)
                _log.warning("job %s (%s) is taken up again", job.id, job.kind)
                self._put(job)

    def _remove_drafts(self, job: Job) -> None:
        """What a killed worker had half written."""
        drafts = [
            *self._settings.results.glob(f".{job.id}*.part"),
            *self._settings.results.glob(f"{job.id}*.draft"),
            *(self._settings.films / (job.film_id or job.project_id)).glob(".*.part"),
        ]
        for draft in drafts:
            if draft.is_dir():
                shutil.rmtree(draft, ignore_errors=True)
            else:
                draft.unlink(missing_ok=True)

    def _take_up_lost(self) -> None:
        """Queues waiting jobs that no queue holds: their asker was killed before it could."""
        queued = {
            task.args[0]
            for queue in (self._huey, self._films)
            for task in queue.pending()
            if task.args
        }
        for job in self._jobs.in_state("waiting"):
            if job.id not in queued:
                self._put(job)


def _now() -> int:
    return time.time_ns() // 1_000_000


def _huey(settings: Settings, name: str) -> Huey:
    if settings.queue_url:
        return RedisHuey(name, url=settings.queue_url, results=False)
    return SqliteHuey(name, filename=str(settings.data / "queue.db"), results=False)
