"""Finds the shot changes, and keeps small pictures of the film: what captions are judged by."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.shots import SHOTS_FILES, shot_changes, shots_found
from dunlin.work.shots import set_shots

__all__ = ["find_shots"]


def find_shots(context: JobContext) -> dict[str, Any]:
    if context.take_what_is_known(*SHOTS_FILES):
        shots = shots_found(context.film_folder)
    else:
        shots = shot_changes(
            context.film_file,
            context.facts,
            context.progress,
            context.cancelled,
            context.film_folder,
        )
    set_shots(context.folder, context.film, shots, context.author)
    return {"count": len(shots)}
