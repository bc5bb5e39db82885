"""Projects: listed, made of a film or without one, given another film, changed, removed."""

import shutil
from dataclasses import asdict, replace
from pathlib import PurePath
from typing import Annotated

from fastapi import Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.films.receiving import received_film
from dunlin.api.films.views import FilmView, film_view
from dunlin.api.projects.views import (
    DamagedView,
    FilmChoice,
    ProjectChange,
    ProjectRequest,
    ProjectView,
    project_view,
)
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Language, Problem, attachment
from dunlin.core.timecode import parse_rate
from dunlin.jobs.beginning import begin_jobs
from dunlin.work.films import bring_film, remove_film, show_film
from dunlin.work.rescue import rescued
from dunlin.work.specs import change_project as changed_project
from dunlin.work.specs import change_track

__all__ = ["router"]

router = subject_router("projects", 404)


@router.get("/projects")
def list_projects(here: Here) -> list[ProjectView]:
    return [project_view(here, project) for project in here.projects.all()]


@router.get("/damaged-projects")
def list_damaged_projects(here: Here) -> list[DamagedView]:
    """Those that cannot be read; what can be of them is in their `rescue`."""
    return [DamagedView.model_validate(row) for row in here.projects.damaged()]


@router.get(
    "/projects/{project_id}/rescue",
    response_class=Response,
    responses={200: {"content": {"application/zip": {}}}},
)
def rescue_project(project_id: str, here: Here) -> Response:
    """What can still be read of a project, as a ZIP: captions, words, and all that is stored of it."""
    return Response(
        rescued(here, project_id),
        media_type="application/zip",
        headers=attachment(f"{project_id}.rescued.zip"),
    )


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
    async with received_film(request, here, name) as film:
        title = _title(film.label)
        project = await run_in_threadpool(here.projects.add, title, film, language=language)

    def begin() -> ProjectView:
        begin_jobs(here.queue, project)
        return project_view(here, project)

    return await run_in_threadpool(begin)


@router.post("/projects/without-film", status_code=201, responses={422: {"model": Problem}})
def create_without_film(request: ProjectRequest, here: Here) -> ProjectView:
    """Makes a project whose film is still to come."""
    rate = parse_rate(request.fps) if request.fps else None
    title = _title(request.title)
    return project_view(here, here.projects.add(title, None, language=request.language, rate=rate))


def _title(name: str) -> str:
    """The title that the name of a file gives a project."""
    return (PurePath(name.replace("\\", "/")).stem or name)[:300]


@router.get("/projects/{project_id}/films")
def list_films(project_id: str, here: Here) -> list[FilmView]:
    """The film it shows and those it showed before, the newest first."""
    project = here.projects.get(project_id)
    return [film_view(film) for film in here.films.of_project(project.id)]


@router.post(
    "/projects/{project_id}/films",
    status_code=201,
    responses={413: {"model": Problem}, 422: {"model": Problem}},
)
async def add_film(
    project_id: str,
    request: Request,
    here: Here,
    who: Who,
    name: Annotated[str, Query(min_length=1, max_length=1000)],
    key: EditKey = None,
) -> ProjectView:
    """Brings a film, the body, into a project, which shows it from now on; captions stay at their times."""
    project = await run_in_threadpool(here.projects.get, project_id)
    async with received_film(request, here, name) as film:
        film = replace(film, project_id=project.id)
        done = await run_in_threadpool(bring_film, here, project, film, who, key=key)

    def begin() -> ProjectView:
        shown = here.projects.get(project_id)
        if done.again:
            remove_film(here, film)
        else:
            begin_jobs(here.queue, shown)
        return project_view(here, shown)

    return await run_in_threadpool(begin)


@router.put("/projects/{project_id}/film", responses={422: {"model": Problem}})
def set_film(
    project_id: str, choice: FilmChoice, here: Here, who: Who, key: EditKey = None
) -> ProjectView:
    """Has a project show one of its earlier films again."""
    project = here.projects.get(project_id)
    show_film(here, project, here.films.get(choice.film_id), who, key=key)
    return project_view(here, here.projects.get(project_id))


@router.delete("/films/{film_id}", status_code=204, responses={409: {"model": Problem}})
def delete_film(film_id: str, here: Here) -> None:
    """Deletes a film that its project does not show."""
    film = here.films.get(film_id)
    for job in here.jobs.of_project(film.project_id):
        if job.film_id == film_id:
            here.queue.cancel(job.id)
    remove_film(here, film)


@router.patch("/projects/{project_id}", responses={422: {"model": Problem}})
def change_project(
    project_id: str, change: ProjectChange, here: Here, who: Who, key: EditKey = None
) -> ProjectView:
    """Changes a project's title or spec, the rate that its film will have, or the language of its first track."""
    project = here.projects.get(project_id)
    rate = asdict(parse_rate(change.fps)) if change.fps else None
    values = {"title": change.title, "spec": change.spec_id, "rate": rate}
    values = {name: value for name, value in values.items() if value is not None}
    changed_project(here, project, values, who, key=key)
    if change.language is not None:
        change_track(here, project, project.tracks[0].id, {"language": change.language}, who)
    return project_view(here, here.projects.get(project_id))


@router.delete("/projects/{project_id}", status_code=204)
def remove_project(project_id: str, here: Here) -> None:
    """Forgets a project and all that is in it, also when it is damaged."""
    here.projects.needs(project_id)
    jobs = here.jobs.of_project(project_id)
    for job in jobs:
        here.queue.cancel(job.id)
    films = here.films.of_project(project_id)
    here.projects.remove(project_id)
    for film in films:
        shutil.rmtree(here.film_folder(film), ignore_errors=True)
    for job in jobs:
        for file in here.settings.results.glob(f"{job.id}*"):
            file.unlink(missing_ok=True)
