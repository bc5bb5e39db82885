"""Burns a track's captions into the film."""

from typing import Any

from dunlin.jobs.context import JobContext
from dunlin.media.burn import burn
from dunlin.work.styles import sheet_of

__all__ = ["burn_in"]


def burn_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    parameters = context.job.parameters
    track, revision = context.folder.log.track(parameters["track_id"])
    context.folder.settings.results.mkdir(parents=True, exist_ok=True)
    output = context.folder.settings.results / f"{context.job.id}.mp4"
    burn(
        context.film_file,
        context.facts,
        track,
        sheet_of(context.folder.projects.get(context.job.project_id), parameters["track_id"]),
        output,
        crf=parameters["crf"],
        height=parameters["height"],
        progress=context.progress,
        cancelled=context.cancelled,
    )
    language = (
        context.folder.projects.get(context.job.project_id).track(parameters["track_id"]).language
    )
    return {
        "language": language,
        "file": output.name,
        "size_bytes": output.stat().st_size,
        "revision": revision,
    }
