"""Jobs that are asked for about every film as soon as it is there."""

from typing import Any, Protocol

from dunlin.store.jobs import Job
from dunlin.store.projects import Project

__all__ = ["TakesJobs", "begin_jobs"]


class TakesJobs(Protocol):
    """Where jobs are asked for."""

    def add(self, project_id: str, kind: str, parameters: dict[str, Any]) -> Job:
        """Asks for a job about the film that the project shows."""


def begin_jobs(queue: TakesJobs, project: Project) -> None:
    """Asks for what is worked out about a project's film."""
    if project.film.has_sound:
        queue.add(project.id, "peaks", {})
        queue.add(project.id, "speech", {})
    if not project.film.facts["browser_plays"]:
        queue.add(project.id, "copy", {})
    if project.film.facts["video_codec"]:
        queue.add(project.id, "shots", {})
