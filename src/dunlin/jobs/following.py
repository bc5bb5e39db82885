"""Follows in the picture what a hand has marked."""

from typing import Any

from dunlin.core.styles.following import Mark
from dunlin.core.timecode import start_of_frame
from dunlin.jobs.context import JobContext
from dunlin.media.following import followed
from dunlin.work.following import keep_path

__all__ = ["follow_marks"]


def follow_marks(context: JobContext) -> dict[str, Any]:
    """The path stays beside the film, under the job's id."""
    marks = [Mark(**mark) for mark in context.job.parameters["marks"]]
    path = followed(
        context.film_file, context.facts, marks, context.progress, context.cancelled
    )  # fmt: skip
    keep_path(context.film_folder, context.job.id, path)
    rate = context.film.rate
    return {
        "first_ms": start_of_frame(path.seen[0].frame, rate),
        "end_ms": start_of_frame(path.seen[-1].frame + 1, rate),
    }
