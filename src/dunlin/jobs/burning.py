"""Burns a track's captions into the film."""

from typing import Any

from dunlin.core.styles import STYLES
from dunlin.jobs.context import JobContext
from dunlin.media.burn import burn
from dunlin.store.edits import EditLog

__all__ = ["burn_in"]


def burn_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    parameters = context.job.parameters
    track, revision = EditLog(context.engine).track(parameters["track_id"])
    context.settings.results.mkdir(parents=True, exist_ok=True)
    output = context.settings.results / f"{context.job.id}.mp4"
    burn(
        context.film,
        context.facts(),
        track,
        STYLES[parameters["style"]],
        output,
        crf=parameters["crf"],
        height=parameters["height"],
        progress=context.progress,
        cancelled=context.cancelled,
    )
    return {"file": output.name, "size_bytes": output.stat().st_size, "revision": revision}
