"""Tracks: read whole, edited gesture by gesture, written out."""

import uuid
from typing import Annotated, Any
from urllib.parse import quote

from fastapi import APIRouter, HTTPException, Query, Response
from pydantic import BaseModel

from dunlin.api.schemas import (
    BurnRequest,
    CaptionsRequest,
    EditRequest,
    EditView,
    FormatView,
    JobView,
    LossView,
    Problem,
    SplitRequest,
    StepRequest,
    TrackView,
)
from dunlin.api.services import Here, Services
from dunlin.api.views import edit_view, track_view
from dunlin.core.captions import (
    Caption,
    Conflict,
    Operation,
    ReplaceCaptions,
    SplitCaption,
    spans_of,
)
from dunlin.core.formats import FORMATS, Context, Document
from dunlin.core.speech.words import split_moment, split_offset
from dunlin.core.text.segmentation import segmented
from dunlin.core.timecode import snap, start_of_frame
from dunlin.store.edits import Edited, Outdated

__all__ = ["router"]

router = APIRouter(tags=["tracks"], responses={404: {"model": Problem}})

_CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": EditView}}


@router.get("/tracks/{track_id}", response_model=TrackView)
def get_track(track_id: str, here: Here) -> Response:
    return _json(track_view(here, here.projects.of_track(track_id), track_id))


@router.post("/tracks/{track_id}/edits", response_model=EditView, responses=_CONFLICT)
def edit_track(track_id: str, request: EditRequest, here: Here) -> Response:
    """Carries out an operation. 409 gives the captions that changed meanwhile, as they are now."""
    return _edited(here, track_id, request.operation, request)


@router.post("/tracks/{track_id}/split", response_model=EditView, responses=_CONFLICT)
def split_caption(track_id: str, request: SplitRequest, here: Here) -> Response:
    """Splits a caption at a character of its text or at a time; the spoken words tell the other."""
    project = here.projects.of_track(track_id)
    track, _ = here.edits.track(track_id)
    if request.caption not in track:
        raise Conflict(f"caption {request.caption} is not in this track")
    caption, rate = track[request.caption], project.film.rate
    words = here.words.spoken_between(project.id, project.words_run, caption.in_ms, caption.out_ms)
    place = (caption.text, caption.in_ms, caption.out_ms)
    offset, moment = request.offset, request.at_ms
    if offset is None and moment is not None:
        offset = split_offset(place[0], moment, *place[1:], words)
    if offset is None:
        raise Conflict("a caption is split between two of its words")
    if moment is None:
        moment = split_moment(place[0], offset, *place[1:], words)
    moment = snap(moment, rate)
    gap_ms = start_of_frame(here.projects.spec_of(project).least_gap_frames, rate)
    at_ms = max(caption.in_ms + 1, moment - gap_ms)
    if at_ms + gap_ms >= caption.out_ms:
        gap_ms = 0
    operation = SplitCaption(request.caption, offset, at_ms, request.new_id, gap_ms)
    return _edited(here, track_id, operation, request)


@router.post("/tracks/{track_id}/undo", response_model=EditView, responses={204: {}})
def undo(track_id: str, request: StepRequest, here: Here) -> Response:
    """Takes back the newest gesture; 204 when there is none."""
    return _stepped(here, track_id, here.edits.undo(track_id, actor=request.actor), request.actor)


@router.post("/tracks/{track_id}/redo", response_model=EditView, responses={204: {}})
def redo(track_id: str, request: StepRequest, here: Here) -> Response:
    """Does again what was undone last; 204 when there is nothing."""
    return _stepped(here, track_id, here.edits.redo(track_id, actor=request.actor), request.actor)


@router.post(
    "/tracks/{track_id}/captions-from-words",
    response_model=EditView,
    responses={422: {"model": Problem}},
)
def captions_from_words(track_id: str, request: CaptionsRequest, here: Here) -> Response:
    """Puts captions made of the recognised words in place of those in the track, in one edit."""
    project = here.projects.of_track(track_id)
    words = here.words.of(project.id, project.words_run)
    if not words:
        raise HTTPException(422, "there are no words yet; recognise the speech first")
    track, revision = here.edits.track(track_id)
    language = next(t.language for t in project.tracks if t.id == track_id)
    cuts = segmented(words, here.projects.spec_of(project), project.film.rate, language)
    captions = tuple(
        Caption(uuid.uuid4().hex[:12], cut.in_ms, cut.out_ms, spans_of("\n".join(cut.lines)))
        for cut in cuts
    )
    operation = ReplaceCaptions(tuple(caption.id for caption in track), captions)
    edited = here.edits.edit(
        track_id, operation, base_revision=revision, gesture=request.gesture, actor=request.actor
    )
    return _json(edit_view(here, project, track_id, edited, request.actor))


@router.get("/tracks/{track_id}/formats")
def list_track_formats(track_id: str, here: Here) -> list[FormatView]:
    """The formats a track can be written in, each with what it cannot hold of this one."""
    track, _ = here.edits.track(track_id)
    document = Document(tuple(track))
    return [
        FormatView(
            name=name,
            title=module.TITLE,
            ending=module.ENDINGS[0],
            losses=[LossView.model_validate(loss) for loss in module.losses(document)],
        )
        for name, module in FORMATS.items()
    ]


@router.get(
    "/tracks/{track_id}/file",
    response_class=Response,
    responses={200: {"content": {"text/plain": {}}}, 422: {"model": Problem}},
)
def write_track(
    track_id: str, here: Here, format_name: Annotated[str, Query(alias="format")]
) -> Response:
    """The track as a caption file to keep."""
    if format_name not in FORMATS:
        raise HTTPException(422, f"there is no format called {format_name}")
    project = here.projects.of_track(track_id)
    track, _ = here.edits.track(track_id)
    language = next(t.language for t in project.tracks if t.id == track_id)
    module = FORMATS[format_name]
    data = module.write(Document(tuple(track), language), Context(project.film.rate))
    name = f"{project.title}.{language}{module.ENDINGS[0]}"
    return Response(
        data,
        media_type="text/plain; charset=utf-8",
        headers={"Content-Disposition": f"attachment; filename*=utf-8''{quote(name, safe='')}"},
    )


@router.post("/tracks/{track_id}/burn", status_code=202)
def burn_track(track_id: str, request: BurnRequest, here: Here) -> JobView:
    """Asks for the film with the track's captions in the picture."""
    project = here.projects.of_track(track_id)
    parameters = {"track_id": track_id, "style": "house", **request.model_dump()}
    return JobView.model_validate(here.queue.add(project.id, "burn", parameters))


def _edited(
    here: Services, track_id: str, operation: Operation, request: EditRequest | SplitRequest
) -> Response:
    project = here.projects.of_track(track_id)
    try:
        edited = here.edits.edit(
            track_id,
            operation,
            base_revision=request.base_revision,
            gesture=request.gesture,
            actor=request.actor,
        )
    except Outdated as outdated:
        track, revision = here.edits.track(track_id)
        now = Edited(track, revision, outdated.captions, frozenset())
        return _json(edit_view(here, project, track_id, now, request.actor), 409)
    return _json(edit_view(here, project, track_id, edited, request.actor))


def _stepped(here: Services, track_id: str, edited: Edited | None, actor: str) -> Response:
    if edited is None:
        return Response(status_code=204)
    return _json(edit_view(here, here.projects.of_track(track_id), track_id, edited, actor))


def _json(view: BaseModel, status: int = 200) -> Response:
    """A view as it is; it was built of checked values, and checking thousands again takes time."""
    return Response(view.model_dump_json(), status, media_type="application/json")
