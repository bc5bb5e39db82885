"""Makes films that are on no packing list: with a track's captions in the picture, or with tracks inside."""

from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from dunlin.core.delivery.encoding import Encoding
from dunlin.core.delivery.model import BurnedFilm, FilmWithTracks, InsideTrack, Thing, tracks_in
from dunlin.core.delivery.naming import what_it_is
from dunlin.core.project import captions_of
from dunlin.jobs.context import JobContext
from dunlin.work.packing.making import prepared
from dunlin.work.versions import version_of

__all__ = ["burn_in", "put_tracks_in"]

_ENCODING: TypeAdapter[Encoding] = TypeAdapter(Encoding)


def burn_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    asked = context.job.parameters
    track, version_id = asked["track_id"], asked.get("version")
    encoding = _ENCODING.validate_python(asked["encoding"])
    thing = BurnedFilm(track, encoding, version_id, asked.get("above"))
    project = context.folder.projects.get(context.job.project_id)
    version = version_of(context.folder, project, track, version_id) if version_id else None
    revision = context.folder.log.revision(project.id, captions_of(track)) or 0
    told = {"version": version.name if version else None, "revision": revision}
    return _made(context, thing) | told


def put_tracks_in(context: JobContext) -> dict[str, Any]:
    """The result stays in the results folder under the job's id."""
    asked = context.job.parameters
    tracks = tuple(
        InsideTrack(track, track == asked["default"], track in asked["forced"])
        for track in asked["tracks"]
    )
    return _made(context, FilmWithTracks(tracks, asked["container"])) | {"version": None}


def _made(context: JobContext, thing: Thing) -> dict[str, Any]:
    folder = context.folder
    project = folder.projects.get(context.job.project_id)
    write = prepared(folder, project, thing)
    languages = [project.track(track).language for track in tracks_in(thing)]
    folder.settings.results.mkdir(parents=True, exist_ok=True)
    output: Path = folder.settings.results / f"{context.job.id}{what_it_is(thing)[1]}"
    write(output, context.progress, context.cancelled)
    return {
        "language": "+".join(languages),
        "file": output.name,
        "size_bytes": output.stat().st_size,
    }
