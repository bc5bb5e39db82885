"""Brings a film from a host into its project, with the captions that people made there."""

import uuid
from dataclasses import asdict, replace
from hashlib import file_digest
from typing import Any

from dunlin.core.captions import InsertCaptions
from dunlin.core.formats import Context, read_file
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project import captions_of
from dunlin.hosts import Cancelled, HostFilm, VideoHost
from dunlin.jobs.beginning import begin_jobs
from dunlin.jobs.context import JobContext
from dunlin.media.fingerprint import keep_film_hash
from dunlin.media.probe import probe
from dunlin.store.films import Film
from dunlin.store.log import Step, new_caption_id
from dunlin.work.apart import apart
from dunlin.work.films import bring_film
from dunlin.work.hosts import host_by, remember_film_there
from dunlin.work.replacing import new_track

__all__ = ["fetch_film"]


def fetch_film(context: JobContext) -> dict[str, Any]:
    """What of the film is here stays when the host breaks off, and the job goes on behind it when it is asked for again."""
    folder, job = context.folder, context.job
    connection, id_ = job.parameters["connection"], job.parameters["film"]
    host = host_by(folder, connection)
    there = host.film(id_)
    if there is None:
        raise BadInput(message("packing.film-gone-there"))
    if there.size_bytes > folder.settings.upload_limit_gb * 1e9:
        raise BadInput(message("film.too-large", gigabytes=folder.settings.upload_limit_gb))
    project = folder.projects.get(job.project_id)
    if not project.film.id:
        _bring(context, host, there)
    taken = _take_tracks(context, host, there)
    remember_film_there(folder, job.project_id, connection, there, taken, context.author)
    return {"film": there.title, "tracks": list(taken)}


def _bring(context: JobContext, host: VideoHost, there: HostFilm) -> None:
    folder, job = context.folder, context.job
    folder.settings.results.mkdir(parents=True, exist_ok=True)
    # Under the job's name: a project that is removed takes it along.
    coming = folder.settings.results / f"{job.id}.coming"
    try:
        host.fetch_film(there, coming, context.progress, context.cancelled)
        context.step("reading")
        with coming.open("rb") as file:
            digest = file_digest(file, "sha256").hexdigest()
        if digest != there.sha256:
            coming.unlink()
            raise BadInput(message("hosts.other-hash"))
        facts = probe(coming)
    except (Cancelled, OSError):
        # Called off, or there is no room for it: what came is in the way.
        coming.unlink(missing_ok=True)
        raise
    project = folder.projects.get(job.project_id)
    film = Film(
        there.name, there.size_bytes, asdict(facts), id=uuid.uuid4().hex, project_id=project.id
    )
    place = folder.film_file(film)
    place.parent.mkdir(parents=True)
    coming.replace(place)
    keep_film_hash(place, digest)
    bring_film(folder, project, film, context.author, key=f"{job.id}-film")
    if context.queue:
        begin_jobs(context.queue, folder.projects.get(project.id))


def _take_tracks(context: JobContext, host: VideoHost, there: HostFilm) -> dict[str, str]:
    """Takes along the captions that people made, and gives which versions these are, by their languages."""
    folder, job = context.folder, context.job
    taken = {}
    for track in there.tracks:
        if track.by_machine:
            continue
        words = host.words(there.id, track.language)
        try:
            reading = apart(read_file, words, f"{track.language}.vtt", Context())
        except Told:
            # A film is none the worse for captions that cannot be read.
            continue
        project = folder.projects.get(job.project_id)
        first = project.tracks[0]
        captions = reading.document.captions
        if first.language == track.language and not len(folder.log.track(first.id)[0]):
            own = tuple(replace(caption, id=new_caption_id()) for caption in captions)
            steps = [Step(captions_of(first.id), InsertCaptions(own))]
        else:
            _, steps = new_track(folder, project, captions, language=track.language)
        folder.log.edit(project.id, steps, context.author, key=f"{job.id}-{track.language}")
        taken[track.language] = track.version
    return taken
