"""Puts caption tracks into a film, without drawing them."""

from typing import Any

from dunlin.core.formats import FORMATS
from dunlin.jobs.context import JobContext
from dunlin.media.fonts import fonts_named
from dunlin.media.muxing import CodedTrack, caption_format, write_with_tracks
from dunlin.store.projects import Project
from dunlin.work.delivering import caption_file, document_of
from dunlin.work.folder import DataFolder

__all__ = ["put_tracks_in"]


def put_tracks_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    asked = context.job.parameters
    project = context.folder.projects.get(context.job.project_id)
    container, default, forced = asked["container"], asked["default"], asked["forced"]
    tracks = [
        _coded(context.folder, project, track_id, caption_format(container), default, forced)
        for track_id in asked["tracks"]
    ]
    context.folder.settings.results.mkdir(parents=True, exist_ok=True)
    output = context.folder.settings.results / f"{context.job.id}.{container}"
    write_with_tracks(
        context.film_file, context.facts, tracks, output, context.progress, context.cancelled
    )
    return {
        "language": "+".join(track.language for track in tracks),
        "version": None,
        "file": output.name,
        "size_bytes": output.stat().st_size,
    }


def _coded(
    folder: DataFolder,
    project: Project,
    track_id: str,
    format_name: str,
    default: str | None,
    forced: list[str],
) -> CodedTrack:
    format_ = FORMATS[format_name]
    info = project.track(track_id)
    file = caption_file(project, track_id, document_of(folder, project, track_id), format_)
    return CodedTrack(
        file.data,
        format_.ENDINGS[0],
        info.language,
        info.name,
        track_id == default,
        track_id in forced,
        tuple(fonts_named(file.data.decode())) if format_name == "ass" else (),
    )
