"""Tracks: read whole, edited gesture by gesture, written out."""

from collections import Counter
from typing import Any

from fastapi import APIRouter, HTTPException, Response

from dunlin.api.authors import EditKey, Who
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
    TrackChange,
    TrackInfoView,
    TrackRequest,
    TrackView,
    WouldBeView,
)
from dunlin.api.services import Here, Services
from dunlin.api.views import caption_views, edit_view, json_answer, track_view
from dunlin.core.captions import Operation, Track
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.making.remaking import Made, changes
from dunlin.core.making.segmentation import Shape
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import TRACKS
from dunlin.core.specs import Judge, RuleName, Weight
from dunlin.store.log import Author, Changed, Done, Outdated, Step
from dunlin.store.projects import Project
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.making import NoWords, make_captions, put_made
from dunlin.work.specs import change_track as changed_track
from dunlin.work.splitting import page_written, split_by_words

__all__ = ["router"]

router = APIRouter(tags=["tracks"], responses={404: {"model": Problem}})

_CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": EditView}}


@router.get("/tracks/{track_id}", response_model=TrackView)
def get_track(track_id: str, here: Here, who: Who) -> Response:
    return json_answer(track_view(here, here.projects.of_track(track_id), track_id, who))


@router.post("/tracks/{track_id}/captions", response_model=CaptionsView)
def read_captions(track_id: str, request: CaptionsAsked, here: Here) -> Response:
    """The captions that are asked for, of those that still are in the track."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    places = [track.index(id_) for id_ in request.captions if id_ in track]
    judge = judge_of(here, project, track_id)
    waivers = waivers_in(here, project.id, track_id, track)
    views = caption_views(track, places, judge, waivers)
    return json_answer(CaptionsView.model_construct(revision=revision, captions=views))


@router.post("/tracks/{track_id}/edits", response_model=EditView, responses=_CONFLICT)
def edit_track(
    track_id: str, request: EditRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Carries out an operation. 409 gives the captions that changed meanwhile, as they are now."""
    project = here.projects.of_track(track_id)
    return _edited(here, project, track_id, request.operation, request, who, key)


@router.post("/tracks/{track_id}/split", response_model=EditView, responses=_CONFLICT)
def split_caption(
    track_id: str, request: SplitRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Splits a caption at a character of its text or at a time; the spoken words tell the other."""
    project = here.projects.of_track(track_id)
    operation = split_by_words(
        here, project, track_id, request.caption, request.new_id,
        offset=request.offset, at_ms=request.at_ms,
    )  # fmt: skip
    return _edited(here, project, track_id, operation, request, who, key)


@router.post("/tracks/{track_id}/page", response_model=EditView, responses=_CONFLICT)
def write_page(
    track_id: str, request: PageRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Puts texts in the place of captions; words keep their times, and captions go where their words do."""
    project = here.projects.of_track(track_id)
    operation = page_written(
        here, project, track_id, request.captions, request.texts, request.after
    )
    return _edited(here, project, track_id, operation, request, who, key)


@router.post(
    "/tracks/{track_id}/captions-from-words",
    response_model=EditView,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def captions_from_words(
    track_id: str, request: CaptionsRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Puts captions made of the words in place of those in the track, in one edit."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    if (looked := request.looked_at) and (looked.revision, looked.words_revision) != (
        revision,
        project.words_revision,
    ):
        raise HTTPException(409, _MOVED_ON)
    made, _ = _made(here, project, track_id, track, request)
    try:
        done = put_made(
            here, project, track_id, track, made, who, base=revision, gesture=request.gesture,
            key=key, chosen=frozenset(looked.changes) if looked else None,
        )  # fmt: skip
    except Outdated:
        raise HTTPException(409, _MOVED_ON) from None
    return json_answer(edit_view(here, project, track_id, done, revision))


_MOVED_ON = "captions or transcript were changed meanwhile; nothing was put in, look again"


@router.post(
    "/tracks/{track_id}/captions-from-words/preview",
    response_model=MakingView,
    responses={422: {"model": Problem}},
)
def look_at_captions_from_words(track_id: str, request: MakingChoice, here: Here) -> Response:
    """The captions that would be made of the words. Nothing is changed."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
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
    spec = None
    if choice.spec_id is not None:
        spec = here.projects.specs().get(choice.spec_id)
        if spec is None:
            raise HTTPException(422, f"there is no spec called {choice.spec_id}")
    shape = Shape(**choice.shape.model_dump()) if choice.shape else None
    try:
        return make_captions(
            here, project, track_id, track,
            spec=spec, shape=shape, case=choice.case, keep=choice.keep,
        )  # fmt: skip
    except NoWords as error:
        raise HTTPException(422, str(error)) from None


@router.post("/projects/{project_id}/tracks", status_code=201)
def add_track(
    project_id: str, request: TrackRequest, here: Here, who: Who, key: EditKey = None
) -> TrackInfoView:
    """Adds an empty track to a project."""
    project = here.projects.get(project_id)
    id_ = here.projects.make_room_for_track(project.id)
    at = 1 + max((entry["at"] for entry in project.records[TRACKS].values()), default=-1)
    entry = {
        "at": at,
        "name": request.name.strip(),
        "language": request.language,
        "spec": None,
        "extras": [],
    }
    here.log.edit(project.id, [Step(TRACKS, SetEntries({id_: entry}))], who, key=key)
    return TrackInfoView.model_validate(here.projects.get(project_id).track(id_))


@router.patch("/tracks/{track_id}", responses={422: {"model": Problem}})
def change_track(
    track_id: str, change: TrackChange, here: Here, who: Who, key: EditKey = None
) -> TrackInfoView:
    """Changes a track's name, language, or the spec it is judged by; `spec_id` null is the project's."""
    project = here.projects.of_track(track_id)
    given = change.model_dump(exclude_unset=True)
    values = {k: v for k, v in given.items() if v is not None and k != "spec_id"}
    if "spec_id" in given:
        values["spec"] = given["spec_id"]
    try:
        changed_track(here, project, track_id, values, who, key=key)
    except LookupError as error:
        raise HTTPException(422, str(error)) from None
    return TrackInfoView.model_validate(here.projects.get(project.id).track(track_id))


@router.delete("/tracks/{track_id}", status_code=204, responses={409: {"model": Problem}})
def remove_track(track_id: str, here: Here, who: Who) -> None:
    """Removes a track, which can be undone; a project keeps at least one."""
    project = here.projects.of_track(track_id)
    if len(project.tracks) == 1:
        raise HTTPException(409, "a project keeps at least one track")
    here.log.edit(project.id, [Step(TRACKS, SetEntries({track_id: None}))], who)


@router.post("/tracks/{track_id}/burn", status_code=202)
def burn_track(track_id: str, request: BurnRequest, here: Here) -> JobView:
    """Asks for the film with the track's captions in the picture."""
    project = here.projects.of_track(track_id)
    parameters = {"track_id": track_id, **request.model_dump()}
    return JobView.model_validate(here.queue.add(project.id, "burn", parameters))


def _edited(
    here: Services,
    project: Project,
    track_id: str,
    operation: Operation,
    request: GestureRequest,
    who: Author,
    key: str | None,
) -> Response:
    base = request.base_revision
    step = Step(captions_of(track_id), operation, base)
    try:
        done = here.log.edit(project.id, [step], who, gesture=request.gesture, key=key)
    except Outdated as outdated:
        changed = {step.target: Changed(outdated.touched, before=base)}
        now = Done(project.id, outdated.revision, request.gesture, who, changed)
        return json_answer(edit_view(here, project, track_id, now, base), 409)
    return json_answer(edit_view(here, project, track_id, done, base))
