"""Translations: begun, linked to their source, and how far they are."""

from tempfile import TemporaryFile
from typing import IO, Annotated

from fastapi import Query, Request, Response
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import TrackInfoView, track_info_view
from dunlin.api.translating.views import (
    ConcordanceView,
    DraftsRequest,
    LinkView,
    ProgressRequest,
    RememberedView,
    RoomOfferView,
    RoomView,
    SourceRequest,
    SuggestionsView,
    TakenView,
    TermFoundView,
    TranslationRequest,
    TranslationView,
    TranslatorView,
)
from dunlin.api.wire import Language, Problem, Refusal, attachment, json_answer
from dunlin.core.language.memory.tmx import read_tmx, written_tmx
from dunlin.core.language.room import room_of
from dunlin.core.messages import BadInput, message
from dunlin.core.project.targets import TRACKS, links_of
from dunlin.engines.translators import translator_called, translators
from dunlin.engines.translators.hearing_english import HearingEnglish
from dunlin.store.log import Author
from dunlin.store.memory import Remembered
from dunlin.store.projects import Project
from dunlin.work.against import source_of, terms_for
from dunlin.work.drafting import to_draft
from dunlin.work.hearing import needs_sound
from dunlin.work.judging import judge_of
from dunlin.work.translating import (
    begin_translation,
    remembered_for,
    set_progress,
    translate_from,
)

__all__ = ["router"]

_MOST_OF_FILE = 512 << 20
"""Bytes of a memory that comes in."""

router = subject_router("translating", 404, 409, 422)


@router.post("/projects/{project_id}/translations", status_code=201)
def add_translation(
    project_id: str, request: TranslationRequest, here: Here, who: Who, key: EditKey = None
) -> TrackInfoView:
    """Adds a track in another language, linked to the one that it translates."""
    project = here.projects.get(project_id)
    done = begin_translation(
        here, project, request.source, request.language, who, name=request.name.strip(),
        spec_id=request.spec_id, beginning=request.beginning, key=key,
    )  # fmt: skip
    # Asked for again after a lost answer, it is the one that was made then.
    [made] = done.changed[TRACKS].touched
    added = here.projects.get(project_id)
    return track_info_view(here, added, added.track(made))


@router.get("/tracks/{track_id}/translation", response_model=TranslationView)
def read_translation(
    track_id: str, here: Here, who: Who, since: Annotated[int | None, Query(ge=0)] = None
) -> Response:
    """What the captions of a translation know of their source; what became otherwise after a revision, where one is given."""
    return json_answer(_view(here, here.projects.of_track(track_id), track_id, who, since))


@router.get("/tracks/{track_id}/captions/{caption_id}/room")
def read_room(track_id: str, caption_id: str, here: Here) -> RoomView:
    """How much room a caption's words have, and what would make more."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    if caption_id not in track:
        raise Refusal(404, message("edits.no-such-caption", caption=caption_id))
    room = room_of(track, track.index(caption_id), judge_of(here, project, track_id))
    offers = [RoomOfferView.model_validate(offer) for offer in room.offers]
    return RoomView(revision=revision, left=room.left, silence_ms=room.silence_ms, offers=offers)


@router.get("/tracks/{track_id}/captions/{caption_id}/suggestions")
def read_suggestions(track_id: str, caption_id: str, here: Here) -> SuggestionsView:
    """What was translated before that is like the source of a caption, and the terms that stand in it."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    if caption_id not in track:
        raise Refusal(404, message("edits.no-such-caption", caption=caption_id))
    remembered = remembered_for(here, project, track_id, caption_id)
    terms = terms_for(here, project, track_id, caption_id)
    return SuggestionsView(
        remembered=[_remembered(one) for one in remembered],
        terms=[TermFoundView.model_validate(term) for term in terms],
    )


@router.get("/memory")
def search_memory(
    here: Here,
    text: Annotated[str, Query(max_length=500)],
    source: Annotated[Language, Query()],
    target: Annotated[Language, Query()],
) -> ConcordanceView:
    """What is remembered with some words, in either of two languages."""
    found = here.memory.with_words(text, source, target)
    return ConcordanceView(found=[_remembered(one) for one in found], count=here.memory.count())


@router.get("/memory.tmx", response_class=StreamingResponse)
def write_memory(
    here: Here, source: Language | None = None, target: Language | None = None
) -> StreamingResponse:
    """What is remembered, or what is of two languages, as a TMX file."""
    pieces = written_tmx(here.memory.pairs(source, target))
    return StreamingResponse(
        pieces, media_type="application/x-tmx+xml", headers=attachment("memory.tmx")
    )


@router.post("/memory", responses={413: {"model": Problem}})
async def take_memory(request: Request, here: Here, name: str = "") -> TakenView:
    """Takes in a TMX file, sent as it is; what is remembered already is not kept twice."""
    with TemporaryFile() as file:
        size = 0
        async for chunk in request.stream():
            size += len(chunk)
            if size > _MOST_OF_FILE:
                raise Refusal(413, message("memory.too-large", megabytes=_MOST_OF_FILE >> 20))
            file.write(chunk)
        taken = await run_in_threadpool(_taken, here, file, name)
        return TakenView(taken=taken, count=here.memory.count())


def _taken(here: Services, file: IO[bytes], name: str) -> int:
    """Takes a file in whole, or nothing of it."""
    file.seek(0)
    for _ in read_tmx(file, name):
        pass
    file.seek(0)
    return here.memory.take_in(read_tmx(file, name))


def _remembered(one: Remembered) -> RememberedView:
    pair = one.pair
    return RememberedView(
        alike=one.alike,
        source=pair.source,
        target=pair.target,
        origin=pair.origin,
        when_ms=pair.when_ms,
    )


@router.get("/tracks/{track_id}/translators")
def list_translators(track_id: str, here: Here) -> list[TranslatorView]:
    """Engines that draft from the language of a track's source into its own; those that are broken say why."""
    project = here.projects.of_track(track_id)
    source_id = source_of(project, track_id)
    if source_id is None:
        return []
    source, target = project.track(source_id).language, project.track(track_id).language
    return [
        TranslatorView(name=one.name, title=one.title, fault=one.fault)
        for one in translators(here.settings)
        if one.fault or one.knows(source, target)
    ]


@router.post("/tracks/{track_id}/translation/drafts", status_code=202)
def ask_for_drafts(track_id: str, request: DraftsRequest, here: Here, who: Who) -> JobView:
    """Asks an engine for drafts of captions that have no words yet."""
    project = here.projects.of_track(track_id)
    todo = to_draft(here, project, track_id, request.captions, anew=request.anew)
    if not todo.wanted:
        raise BadInput(message("drafts.nothing-to-draft"))
    engine = translator_called(request.engine, todo.source, todo.target, here.settings)
    if isinstance(engine, HearingEnglish):
        needs_sound(project)
    asked = {"track_id": track_id, "person": who.person, **request.model_dump()}
    return JobView.model_validate(here.queue.add(project.id, "draft", asked))


@router.put("/tracks/{track_id}/translation", response_model=TranslationView)
def put_source(
    track_id: str, request: SourceRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Makes a track the translation of another one, or of none; its captions are linked by their times."""
    project = here.projects.of_track(track_id)
    translate_from(here, project, track_id, request.source, who, key=key)
    return json_answer(_view(here, here.projects.get(project.id), track_id, who))


@router.put("/tracks/{track_id}/translation/progress", response_model=TranslationView)
def put_progress(
    track_id: str, request: ProgressRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Says how far captions of a translation are; a confirmed one is of what its source says now."""
    project = here.projects.of_track(track_id)
    base = request.base_revision
    set_progress(
        here, project, track_id, request.progress, who, base=base, gesture=request.gesture, key=key
    )
    return json_answer(_view(here, project, track_id, who, base))


def _view(
    here: Services, project: Project, track_id: str, who: Author, since: int | None = None
) -> TranslationView:
    address = links_of(track_id)
    with here.log.moment(project.id) as now:
        entries, _ = here.log.record(project.id, address)
        touched = (
            set(entries) if since is None else here.log.since(project.id, address, since).touched
        )
        links = {
            id_: LinkView.model_construct(**entries[id_])
            for id_ in sorted(touched)
            if id_ in entries
        }
        can_undo, can_redo = here.log.history(project.id, [address], who.person)
        return TranslationView.model_construct(
            source=source_of(project, track_id),
            base=since or 0,
            revision=now.newest,
            links=links,
            gone=sorted(id_ for id_ in touched if id_ not in entries),
            can_undo=can_undo,
            can_redo=can_redo,
        )
