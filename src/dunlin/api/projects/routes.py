"""Projects: listed, made of a film, changed, removed."""

import shutil
import uuid
from dataclasses import asdict
from hashlib import sha256
from pathlib import Path, PurePath
from typing import Annotated

from fastapi import APIRouter, Query, Request
from starlette.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect

from dunlin.api.authors import EditKey, Who
from dunlin.api.projects.views import ProjectChange, ProjectView, project_view
from dunlin.api.services import Here, Services
from dunlin.api.wire import Language, Problem, Refusal
from dunlin.core.messages import message
from dunlin.jobs.queue import begin_jobs
from dunlin.media.fingerprint import keep_film_hash
from dunlin.media.probe import probe
from dunlin.store.projects import Film, Project
from dunlin.work.specs import change_project as changed_project
from dunlin.work.specs import change_track

__all__ = ["router"]

router = APIRouter(tags=["projects"], responses={404: {"model": Problem}})


@router.get("/projects")
def list_projects(here: Here) -> list[ProjectView]:
    return [project_view(here, project) for project in here.projects.all()]


@router.get("/projects/{project_id}")
def get_project(project_id: str, here: Here) -> ProjectView:
    return project_view(here, here.projects.get(project_id))


@router.post("/projects/{project_id}/opened", status_code=204)
def note_opened(project_id: str, here: Here) -> None:
    """Remembers that a project was opened now; those opened last come first in the list."""
    here.projects.opened(project_id)


@router.post(
    "/projects", status_code=201, responses={413: {"model": Problem}, 422: {"model": Problem}}
)
async def create_project(
    request: Request,
    here: Here,
    name: Annotated[str, Query(min_length=1, max_length=1000)],
    language: Annotated[Language, Query()] = "en",
) -> ProjectView:
    """Makes a project of a film. The body is the film, `name` only its label; `language` is spoken in it."""
    project_id = uuid.uuid4().hex
    folder = here.settings.films / project_id
    folder.mkdir(parents=True)
    try:
        size = await _receive(request, folder / "original", here.settings.upload_limit_gb)
        project = await run_in_threadpool(
            _add_project, here, project_id, folder, name, size, language
        )
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    return await run_in_threadpool(project_view, here, project)


async def _receive(request: Request, path: Path, limit_gb: float) -> int:
    """Streams the body to disk, hashes it, and gives its size."""
    limit, size, digest = int(limit_gb * 1e9), 0, sha256()
    too_large = Refusal(413, message("film.too-large", gigabytes=limit_gb))
    if int(request.headers.get("content-length") or 0) > limit:
        raise too_large
    try:
        with path.open("wb") as file:
            async for chunk in request.stream():
                size += len(chunk)
                if size > limit:
                    raise too_large
                digest.update(chunk)
                await run_in_threadpool(file.write, chunk)
        keep_film_hash(path, digest.hexdigest())
    except ClientDisconnect:
        raise Refusal(400, message("film.upload-broken-off")) from None
    except OSError as error:
        raise Refusal(507, message("film.not-stored", reason=error.strerror)) from None
    return size


def _add_project(
    here: Services, project_id: str, folder: Path, name: str, size: int, language: str
) -> Project:
    facts = probe(folder / "original")
    label = " ".join(name.split()) or "film"
    title = PurePath(label.replace("\\", "/")).stem or label
    film = Film(label, size, asdict(facts))
    project = here.projects.add(title[:300], film, language=language, id_=project_id)
    begin_jobs(here.queue, project)
    return project


@router.patch("/projects/{project_id}", responses={422: {"model": Problem}})
def change_project(
    project_id: str, change: ProjectChange, here: Here, who: Who, key: EditKey = None
) -> ProjectView:
    """Changes a project's title or spec, or the language of its first track."""
    project = here.projects.get(project_id)
    values = {"title": change.title, "spec": change.spec_id}
    values = {name: value for name, value in values.items() if value is not None}
    changed_project(here, project, values, who, key=key)
    if change.language is not None:
        change_track(here, project, project.tracks[0].id, {"language": change.language}, who)
    return project_view(here, here.projects.get(project_id))


@router.delete("/projects/{project_id}", status_code=204)
def remove_project(project_id: str, here: Here) -> None:
    project = here.projects.get(project_id)
    jobs = here.jobs.of_project(project_id)
    for job in jobs:
        here.queue.cancel(job.id)
    here.projects.remove(project.id)
    shutil.rmtree(here.settings.films / project.id, ignore_errors=True)
    for job in jobs:
        (here.settings.results / f"{job.id}.mp4").unlink(missing_ok=True)
