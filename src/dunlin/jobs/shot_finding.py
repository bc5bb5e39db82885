"""Finds the shot changes, and keeps small pictures of the film: what captions are judged by."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.shots import shot_changes
from dunlin.work.shots import set_shots

__all__ = ["find_shots"]


def find_shots(context: JobContext) -> dict[str, Any]:
    shots = shot_changes(
        context.film_file, context.facts, context.progress, context.cancelled, context.film_folder
    )
    set_shots(context.folder, context.film, shots, context.author)
    return {"count": len(shots)}
