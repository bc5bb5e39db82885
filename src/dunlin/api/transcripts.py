"""Recognising speech, and the words that come of it."""

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query

from dunlin.api.schemas import EngineView, JobView, Problem, RecogniseRequest, WordsView
from dunlin.api.services import Here
from dunlin.engines import engine_called, engines

__all__ = ["router"]

router = APIRouter(tags=["transcripts"], responses={404: {"model": Problem}})


@router.get("/engines")
def list_engines(here: Here) -> list[EngineView]:
    """Recognisers that can work here, the best first."""
    return [
        EngineView.model_validate(
            {"name": e.name, "title": e.title, "models": e.models()}, from_attributes=True
        )
        for e in engines(here.settings.model_folders).values()
    ]


@router.post(
    "/projects/{project_id}/recognise",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def recognise(project_id: str, request: RecogniseRequest, here: Here) -> JobView:
    """Asks for a film's speech to be recognised."""
    project = here.projects.get(project_id)
    if not project.film.has_sound:
        raise HTTPException(422, "this film has no sound; its captions are written by hand")
    engine = engine_called(request.engine, here.settings.model_folders)
    base = request.language.split("-")[0].lower()
    if not any(not model.languages or base in model.languages for model in engine.models()):
        raise HTTPException(
            422,
            f"{engine.title} has no model for {request.language}; put one into the folder"
            f" {here.settings.model_folders[-1]}",
        )
    running = [
        job
        for job in here.jobs.of_project(project_id)
        if job.kind == "recognise" and job.state in ("waiting", "running")
    ]
    if running:
        raise HTTPException(409, "this film's speech is being recognised already")
    return JobView.model_validate(here.queue.add(project_id, "recognise", request.model_dump()))


@router.get("/projects/{project_id}/words")
def get_words(
    project_id: str, here: Here, first: Annotated[int, Query(ge=0, le=2**31)] = 0
) -> WordsView:
    """Words from a position on; more come while recognition goes on."""
    run = here.projects.get(project_id).words_run
    words = here.words.of(project_id, run, first)
    return WordsView.model_validate({"run": run, "first": first, "words": words})
