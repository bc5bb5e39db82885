"""Tracks: read whole, edited gesture by gesture, written out."""

from collections import Counter
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, HTTPException, Response

from dunlin.api.replacing import put_in_place
from dunlin.api.schemas import (
    BurnRequest,
    CaptionsAsked,
    CaptionsRequest,
    CaptionsView,
    EditRequest,
    EditView,
    GestureRequest,
    JobView,
    MakingChoice,
    MakingView,
    PageRequest,
    Problem,
    RuleCount,
    SplitRequest,
    StepRequest,
    TrackChange,
    TrackInfoView,
    TrackRequest,
    TrackView,
    WouldBeView,
)
from dunlin.api.services import Here, Services
from dunlin.api.views import caption_views, edit_view, json_answer, judge_of, track_view
from dunlin.core.captions import Caption, Conflict, Operation, ReplaceCaptions, SplitCaption, Track
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.specs import Judge, RuleName, Weight, least_gap_ms
from dunlin.core.speech.words import split_moment, split_offset
from dunlin.core.text.making import Made, captions_made, changes
from dunlin.core.text.page import captions_of_page, paragraph
from dunlin.core.text.segmentation import Shape
from dunlin.core.timecode import snap
from dunlin.store.edits import Edited, Outdated, new_caption_id
from dunlin.store.projects import Project

__all__ = ["router"]

router = APIRouter(tags=["tracks"], responses={404: {"model": Problem}})

_CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": EditView}}


@router.get("/tracks/{track_id}", response_model=TrackView)
def get_track(track_id: str, here: Here) -> Response:
    return json_answer(track_view(here, here.projects.of_track(track_id), track_id))


@router.post("/tracks/{track_id}/captions", response_model=CaptionsView)
def read_captions(track_id: str, request: CaptionsAsked, here: Here) -> Response:
    """The captions that are asked for, of those that still are in the track."""
    project = here.projects.of_track(track_id)
    track, revision = here.edits.track(track_id)
    places = [track.index(id_) for id_ in request.captions if id_ in track]
    judge, waivers = judge_of(here, project, track_id), here.waivers.of(track_id, track)
    views = caption_views(track, places, judge, waivers)
    return json_answer(CaptionsView.model_construct(revision=revision, captions=views))


@router.post("/tracks/{track_id}/edits", response_model=EditView, responses=_CONFLICT)
def edit_track(track_id: str, request: EditRequest, here: Here) -> Response:
    """Carries out an operation. 409 gives the captions that changed meanwhile, as they are now."""
    project = here.projects.of_track(track_id)
    return _edited(here, project, track_id, request.operation, request)


@router.post("/tracks/{track_id}/split", response_model=EditView, responses=_CONFLICT)
def split_caption(track_id: str, request: SplitRequest, here: Here) -> Response:
    """Splits a caption at a character of its text or at a time; the spoken words tell the other."""
    project = here.projects.of_track(track_id)
    track, _ = here.edits.track(track_id)
    if request.caption not in track:
        raise Conflict(f"caption {request.caption} is not in this track")
    caption, judge = track[request.caption], judge_of(here, project, track_id)
    rate = judge.setting.rate
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
    gap_ms = least_gap_ms(judge.setting.spec, rate)
    at_ms = max(caption.in_ms + 1, moment - gap_ms)
    if at_ms + gap_ms >= caption.out_ms:
        gap_ms = 0
    operation = SplitCaption(request.caption, offset, at_ms, request.new_id, gap_ms)
    return _edited(here, project, track_id, operation, request)


@router.post("/tracks/{track_id}/page", response_model=EditView, responses=_CONFLICT)
def write_page(track_id: str, request: PageRequest, here: Here) -> Response:
    """Puts texts in the place of captions; words keep their times, and captions go where their words do."""
    project = here.projects.of_track(track_id)
    track, _ = here.edits.track(track_id)
    before, old, after = _in_a_row(track, request.captions, request.after)
    setting = judge_of(here, project, track_id).setting
    gap_ms = least_gap_ms(setting.spec, setting.rate)
    from_ms = before.out_ms + gap_ms if before else 0
    to_ms = after.in_ms - gap_ms if after else project.film.facts["duration_ms"]
    first, last = (old[0].in_ms, old[-1].out_ms) if old else (from_ms, to_ms)
    words = here.words.spoken_between(project.id, project.words_run, first, last)
    captions = captions_of_page(
        old,
        [text for written in request.texts if (text := paragraph(written))],
        [word for word in words if not word.guessed],
        (from_ms, max(from_ms, to_ms)),
        setting.rate,
        gap_ms=gap_ms,
    )
    same = frozenset(old) & frozenset(captions)
    put = [
        caption if caption.id in track else replace(caption, id=new_caption_id())
        for caption in captions
        if caption not in same
    ]
    gone = tuple(caption.id for caption in old if caption not in same)
    return _edited(here, project, track_id, ReplaceCaptions(gone, tuple(put)), request)


def _in_a_row(
    track: Track, ids: list[str], after: str | None
) -> tuple[Caption | None, list[Caption], Caption | None]:
    """The caption before those of the ids, those, and the one after them; captions that say nothing
    may stand between. :raises Conflict: when they do not stand in a row"""
    if missing := next((id_ for id_ in (*ids, after) if id_ and id_ not in track), None):
        raise Conflict(f"caption {missing} is not in this track")
    first = track.index(ids[0]) if ids else track.index(after) + 1 if after else 0
    last = track.index(ids[-1]) if ids else first - 1
    between = [c for c in (track.at(index) for index in range(first, last + 1)) if c and c.text]
    if [caption.id for caption in between] != ids:
        raise Conflict("the captions do not stand one after the other")
    return track.at(first - 1), between, track.at(last + 1)


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
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def captions_from_words(track_id: str, request: CaptionsRequest, here: Here) -> Response:
    """Puts captions made of the words in place of those in the track, in one edit."""
    project = here.projects.of_track(track_id)
    track, revision = here.edits.track(track_id)
    made, _ = _made(here, project, track_id, track, request)
    wanted = changes(track, made)
    if looked := request.looked_at:
        if (looked.revision, looked.words_revision) != (revision, project.words_revision):
            raise HTTPException(
                409, "captions or transcript were changed meanwhile; nothing was put in, look again"
            )
        chosen = frozenset(looked.changes)
        wanted = [change for number, change in enumerate(wanted) if number in chosen]
    gone = {id_ for change in wanted for id_ in change.gone}
    return json_answer(
        put_in_place(
            here, project, track_id, [caption for change in wanted for caption in change.put],
            gesture=request.gesture, actor=request.actor,
            kept=frozenset(caption.id for caption in track if caption.id not in gone),
        )
    )  # fmt: skip


@router.post(
    "/tracks/{track_id}/captions-from-words/preview",
    response_model=MakingView,
    responses={422: {"model": Problem}},
)
def look_at_captions_from_words(track_id: str, request: MakingChoice, here: Here) -> Response:
    """The captions that would be made of the words. Nothing is changed."""
    project = here.projects.of_track(track_id)
    track, revision = here.edits.track(track_id)
    made, judge = _made(here, project, track_id, track, request)
    would_be = Track.of(made.captions)
    rules: dict[str, list[RuleName]] = {}
    counts: Counter[tuple[RuleName, Weight]] = Counter()
    for finding in judge.findings(would_be):
        rules.setdefault(finding.caption, []).append(finding.rule)
        counts[finding.rule, finding.weight] += 1
    found = changes(track, made)
    number_of = {c.id: number for number, change in enumerate(found) for c in change.put}
    going = {id_: n for n, change in enumerate(found) if not change.put for id_ in change.gone}
    shown = [
        WouldBeView(
            in_ms=c.in_ms, out_ms=c.out_ms, text=as_shown(c).text, speaker=c.speaker,
            change=going.get(c.id, number_of.get(c.id)), goes=c.id in going,
            rules=rules.get(c.id, []),
        )
        for c in (*would_be, *(track[id_] for id_ in going))
    ]  # fmt: skip
    view = MakingView(
        revision=revision,
        words_revision=project.words_revision,
        captions=sorted(shown, key=lambda caption: caption.in_ms),
        gone=[len(change.gone) for change in found],
        rules=[
            RuleCount(rule=rule, weight=weight, count=count)
            for (rule, weight), count in counts.most_common()
        ],
    )  # fmt: skip
    return json_answer(view)


def _made(
    here: Services, project: Project, track_id: str, track: Track, choice: MakingChoice
) -> tuple[Made, Judge]:
    """Captions of a project's words, as they are chosen to be, and the judge of them."""
    words = here.words.of(project.id, project.words_run)
    if not words:
        raise HTTPException(422, "there are no words yet; recognise the speech first")
    spec = None
    if choice.spec_id is not None:
        spec = here.projects.specs().get(choice.spec_id)
        if spec is None:
            raise HTTPException(422, f"there is no spec called {choice.spec_id}")
    judge = judge_of(here, project, track_id, spec)
    setting = judge.setting
    shape = Shape(**choice.shape.model_dump()) if choice.shape else None
    made = captions_made(
        words, tuple(track), setting.spec, setting.rate, setting.language,
        shape=shape, case=choice.case, keep=choice.keep,
    )  # fmt: skip
    return made, judge


@router.post("/projects/{project_id}/tracks", status_code=201)
def add_track(project_id: str, request: TrackRequest, here: Here) -> TrackInfoView:
    """Adds an empty track to a project."""
    project = here.projects.get(project_id)
    id_ = here.projects.add_track(project.id, request.name.strip(), request.language)
    return TrackInfoView.model_validate(here.projects.get(project_id).track(id_))


@router.patch("/tracks/{track_id}", responses={422: {"model": Problem}})
def change_track(track_id: str, change: TrackChange, here: Here) -> TrackInfoView:
    """Changes a track's name, language, or the spec it is judged by; `spec_id` null is the project's."""
    project = here.projects.of_track(track_id)
    values = change.model_dump(exclude_unset=True)
    if values.get("spec_id") is not None and values["spec_id"] not in here.projects.specs():
        raise HTTPException(422, f"there is no spec called {values['spec_id']}")
    values = {k: v for k, v in values.items() if v is not None or k == "spec_id"}
    if values:
        here.projects.change_track(track_id, **values)
    return TrackInfoView.model_validate(here.projects.get(project.id).track(track_id))


@router.delete("/tracks/{track_id}", status_code=204, responses={409: {"model": Problem}})
def remove_track(track_id: str, here: Here) -> None:
    """Removes a track; a project keeps at least one."""
    if len(here.projects.of_track(track_id).tracks) == 1:
        raise HTTPException(409, "a project keeps at least one track")
    here.projects.remove_track(track_id)


@router.post("/tracks/{track_id}/burn", status_code=202)
def burn_track(track_id: str, request: BurnRequest, here: Here) -> JobView:
    """Asks for the film with the track's captions in the picture."""
    project = here.projects.of_track(track_id)
    parameters = {"track_id": track_id, "style": "house", **request.model_dump()}
    return JobView.model_validate(here.queue.add(project.id, "burn", parameters))


def _edited(
    here: Services, project: Project, track_id: str, operation: Operation, request: GestureRequest
) -> Response:
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
        return json_answer(edit_view(here, project, track_id, now, request.actor), 409)
    return json_answer(edit_view(here, project, track_id, edited, request.actor))


def _stepped(here: Services, track_id: str, edited: Edited | None, actor: str) -> Response:
    if edited is None:
        return Response(status_code=204)
    return json_answer(edit_view(here, here.projects.of_track(track_id), track_id, edited, actor))
