"""Burns a track's captions into the film."""

from typing import Any

from dunlin.core.styles.two_languages import both_in_picture
from dunlin.core.versions.window import picture_of
from dunlin.jobs.context import JobContext
from dunlin.media.burn import burn, script_size
from dunlin.work.styles import sheet_of
from dunlin.work.versions import in_version

__all__ = ["burn_in"]


def burn_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    parameters = context.job.parameters
    track_id, version_id = parameters["track_id"], parameters.get("version")
    project = context.folder.projects.get(context.job.project_id)
    captions, revision = context.folder.log.track(track_id)
    sheet, version = sheet_of(project, track_id), None
    if version_id:
        there = in_version(context.folder, project, track_id, version_id)
        captions, sheet, version = there.captions, there.sheet, there.version
    drawn, languages = list(captions), [project.track(track_id).language]
    if above := parameters.get("above"):
        film_size = script_size(context.facts)
        picture = picture_of(version, film_size) if version else film_size
        other = project.track(above)
        drawn, sheet = both_in_picture(
            captions, context.folder.log.track(above)[0], sheet, sheet_of(project, above), picture,
            other.language,
        )  # fmt: skip
        languages.append(other.language)
    context.folder.settings.results.mkdir(parents=True, exist_ok=True)
    output = context.folder.settings.results / f"{context.job.id}.mp4"
    burn(
        context.film_file,
        context.facts,
        drawn,
        sheet,
        output,
        crf=parameters["crf"],
        height=parameters["height"],
        version=version,
        progress=context.progress,
        cancelled=context.cancelled,
    )
    return {
        "language": "+".join(languages),
        "version": version.name if version else None,
        "file": output.name,
        "size_bytes": output.stat().st_size,
        "revision": revision,
    }
