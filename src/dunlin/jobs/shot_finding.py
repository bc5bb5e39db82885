"""Finds the shot changes, which captions are judged by."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.shots import shot_changes
from dunlin.store.projects import Projects

__all__ = ["find_shots"]


def find_shots(context: JobContext) -> dict[str, Any]:
    shots = shot_changes(context.film, context.facts(), context.progress, context.cancelled)
    Projects(context.engine).change_shots(context.job.project_id, shots)
    return {"count": len(shots)}
