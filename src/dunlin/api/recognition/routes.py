"""Recognising what is said, fitting words to the sound again, and telling voices apart."""

from dunlin.api.authors import Who
from dunlin.api.jobs.views import JobView
from dunlin.api.recognition.views import (
    EngineView,
    HearRequest,
    HowToHear,
    ModelView,
    RecogniseRequest,
)
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Problem
from dunlin.core.messages import BadInput, message
from dunlin.core.speech.languages import AUTO
from dunlin.engines import engine_called, engines, hears
from dunlin.engines.aligning import aligner_for
from dunlin.work.hearing import needs_sound, needs_words_at_rest

__all__ = ["router"]

# The sound of a part is held in memory.
_LONGEST_PART_MS = 1_800_000
_LAST_HEARD = 50

router = subject_router("transcripts", 404)


@router.get("/engines")
def list_engines(here: Here) -> list[EngineView]:
    """Recognisers that can work here, the best first, with how fast their models were when they last did."""
    speeds: dict[tuple[str, str], float] = {}
    for result in here.jobs.results_of("recognise", _LAST_HEARD):
        if "model" in result:
            speeds.setdefault((result["engine"], result["model"]), result["speed"])
    return [
        EngineView(
            name=e.name,
            title=e.title,
            models=[
                ModelView.model_validate(m).model_copy(
                    update={"speed": speeds.get((e.name, m.name))}
                )
                for m in e.models()
            ],
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
    needs_words_at_rest(here, project_id)
    return JobView.model_validate(
        here.queue.add(project_id, "recognise", request.model_dump() | {"person": who.person})
    )


def _check_hears(here: Services, project_id: str, request: HowToHear) -> None:
    """:raises BadInput: when there is nothing to hear, or nothing that understands it"""
    project = here.projects.get(project_id)
    needs_sound(project)
    if request.stream >= project.film.facts["audio_streams"]:
        raise BadInput(message("sound.no-such-stream", stream=request.stream + 1))
    engine = engine_called(request.engine, here.settings.model_folders)
    fit = [m for m in engine.models() if request.model in (None, m.name) and not m.is_broken]
    know_many = any(not model.languages for model in fit)
    if request.language == AUTO:
        if know_many:
            return
        raise BadInput(message("engines.one-language-only", engine=engine.title))
    if isinstance(request, RecogniseRequest) and request.as_english:
        if know_many:
            return
        raise BadInput(
            message("engines.not-as-english", engine=engine.title, language=request.language)
        )
    if hears(engine, request.language, request.model):
        return
    folder = here.settings.model_folders[-1]
    raise BadInput(
        message("engines.no-such-model", engine=engine.title, model=request.model,
                language=request.language, folder=folder)
        if request.model
        else message("engines.no-model", engine=engine.title, language=request.language, folder=folder)
    )  # fmt: skip


@router.post(
    "/projects/{project_id}/transcript/fit",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def fit_transcript(project_id: str, here: Here, who: Who) -> JobView:
    """Asks for the words whose times were shared out to be fitted to the sound."""
    project = here.projects.get(project_id)
    needs_sound(project)
    if aligner_for(project.tracks[0].language, here.settings.model_folders) is None:
        raise BadInput(message("words.no-aligner", language=project.tracks[0].language))
    needs_words_at_rest(here, project_id)
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
        raise BadInput(message("sound.part-ends-first"))
    if request.to_ms - request.from_ms > _LONGEST_PART_MS:
        raise BadInput(message("sound.part-too-long"))
    needs_words_at_rest(here, project_id)
    return JobView.model_validate(here.queue.add(project_id, "hear-again", request.model_dump()))


@router.post(
    "/projects/{project_id}/transcript/voices",
    status_code=202,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def listen_for_voices(project_id: str, here: Here) -> JobView:
    """Asks for a first guess of who speaks; the job's result has passages, voices and sureness."""
    project = here.projects.get(project_id)
    needs_sound(project)
    needs_words_at_rest(here, project_id)
    if not here.words.of(project_id, project.words_run, 0, 1):
        raise BadInput(message("words.none-yet"))
    return JobView.model_validate(here.queue.add(project_id, "guess-speakers", {}))
