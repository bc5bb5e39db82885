"""Takes caption tracks out of the film, as tracks of the project."""

import tempfile
from pathlib import Path
from typing import Any

from dunlin.core.formats import Context, read_file
from dunlin.core.project.targets import TRACKS
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.tracks_inside import tracks_inside, write_track_inside
from dunlin.work.apart import apart
from dunlin.work.replacing import new_track
from dunlin.work.styles import styles_of_file

__all__ = ["take_tracks_out"]


def take_tracks_out(context: JobContext) -> dict[str, Any]:
    """Each becomes a track of its own, as one edit each: a job that is taken up again takes no track twice."""
    folder, film, job = context.folder, context.film_file, context.job
    asked = [track for track in tracks_inside(film) if track.stream in job.parameters["streams"]]
    taken: list[str] = []
    with tempfile.TemporaryDirectory(
        prefix=f".{job.id}-", suffix=".part", dir=folder.settings.results
    ) as name:
        for number, track in enumerate(asked):
            if context.cancelled():
                raise Cancelled

            def progress(part: float, done: int = number) -> None:
                context.progress((done + part) / len(asked))

            path = write_track_inside(
                film, track, context.facts.duration_ms, Path(name), progress, context.cancelled
            )
            reading = apart(read_file, path.read_bytes(), path.name, Context(context.film.rate))
            context.needs_same_film()
            project = folder.projects.get(job.project_id)
            document = reading.document
            fields: dict[str, Any] = {
                "name": track.title,
                "style": document.style,
                "language": track.language or document.language or project.tracks[0].language,
            }
            _, steps = new_track(folder, project, document.captions, **fields)
            styles = styles_of_file(project, document.styles)
            key = f"{job.id}-{track.stream}"
            done = folder.log.edit(
                project.id, [*([styles] if styles else []), *steps], context.author, key=key
            )
            taken += done.changed[TRACKS].touched
    return {"tracks": taken}
