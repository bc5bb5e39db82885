"""Recognising what is said, fitting words to the sound again, and telling voices apart."""

from fastapi import APIRouter, HTTPException

from dunlin.api.authors import Who
from dunlin.api.jobs.views import JobView
from dunlin.api.recognition.views import EngineView, HearRequest, RecogniseRequest
from dunlin.api.services import Here, Services
from dunlin.api.wire import Problem
from dunlin.engines import engine_called, engines, hears
from dunlin.engines.aligner import aligns

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
def recognise(project_id: str, request: RecogniseRequest, here: Here, who: Who) -> JobView:
    """Asks for a film's speech to be recognised."""
    _check_hears(here, project_id, request)
    if _recognising(here, project_id):
        raise HTTPException(409, "this film's speech is being recognised already")
    return JobView.model_validate(
        here.queue.add(project_id, "recognise", request.model_dump() | {"person": who.person})
    )


def _check_hears(here: Services, project_id: str, request: RecogniseRequest) -> None:
    """:raises HTTPException: when there is nothing to hear, or nothing that understands it"""
    film = here.projects.get(project_id).film
    if not film.has_sound:
        raise HTTPException(422, "this film has no sound; its captions are written by hand")
    if request.stream >= film.facts["audio_streams"]:
        raise HTTPException(422, f"this film has no sound {request.stream + 1}")
    engine = engine_called(request.engine, here.settings.model_folders)
    if hears(engine, request.language, request.model):
        return
    wanted = f"model {request.model}" if request.model else "model"
    raise HTTPException(
        422,
        f"{engine.title} has no {wanted} for {request.language}; put one into the folder"
        f" {here.settings.model_folders[-1]}",
    )


@router.post(
    "/projects/{project_id}/transcript/fit",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def fit_transcript(project_id: str, here: Here, who: Who) -> JobView:
    """Asks for the words whose times were shared out to be fitted to the sound."""
    project = here.projects.get(project_id)
    if not project.film.has_sound:
        raise HTTPException(422, "this film has no sound")
    if not aligns(project.tracks[0].language):
        raise HTTPException(422, "words are fitted to the sound in English only")
    if _recognising(here, project_id):
        raise HTTPException(409, "the speech is still being recognised")
    return JobView.model_validate(here.queue.add(project_id, "fit-words", {"person": who.person}))


@router.post(
    "/projects/{project_id}/transcript/hear",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def hear_again(project_id: str, request: HearRequest, here: Here) -> JobView:
    """Asks for a part of the film to be heard again; the job's result has its words."""
    _check_hears(here, project_id, request)
    if request.to_ms <= request.from_ms:
        raise HTTPException(422, "the part ends before it begins")
    if request.to_ms - request.from_ms > _LONGEST_PART_MS:
        raise HTTPException(422, "a part of up to half an hour is heard again; recognise the film")
    if _recognising(here, project_id):
        raise HTTPException(409, "the speech is still being recognised")
    return JobView.model_validate(here.queue.add(project_id, "hear-again", request.model_dump()))


@router.post(
    "/projects/{project_id}/transcript/voices",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def listen_for_voices(project_id: str, here: Here) -> JobView:
    """Asks for a first guess of who speaks; the job's result has passages, voices and sureness."""
    project = here.projects.get(project_id)
    if not project.film.has_sound:
        raise HTTPException(422, "this film has no sound")
    if _recognising(here, project_id):
        raise HTTPException(409, "the speech is still being recognised")
    if not here.words.of(project_id, project.words_run, 0, 1):
        raise HTTPException(422, "there are no words yet; recognise the speech first")
    return JobView.model_validate(here.queue.add(project_id, "guess-speakers", {}))


def _recognising(here: Services, project_id: str) -> bool:
    return any(
        job.kind == "recognise" and job.state in ("waiting", "running")
        for job in here.jobs.of_project(project_id)
    )
