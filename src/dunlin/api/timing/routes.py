"""When captions are shown: moved, cued along, found from the sound, fitted to it."""

from typing import Annotated

from fastapi import Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.timing.views import (
    By,
    CueRequest,
    CueView,
    FitRequest,
    InPieces,
    RetimingRequest,
    RetimingView,
    ShotRequest,
    ShotsView,
    ThroughAnchors,
    TypedRequest,
    pieces_of,
)
from dunlin.api.tracks.views import edit_view
from dunlin.api.wire import Problem, Refusal, json_answer
from dunlin.core.captions import Caption, Times, retime_captions
from dunlin.core.formats import GREATEST_BYTES
from dunlin.core.messages import BadInput, message
from dunlin.core.project import captions_of
from dunlin.core.specs import least_gap_ms
from dunlin.core.timecode import FrameRate, next_frame, parse_rate, snap
from dunlin.core.timeline.cuts import cuts_in
from dunlin.core.timing.cueing import Hand, cue
from dunlin.core.timing.retiming import (
    Piece,
    rate_change,
    retimed,
    shift,
    through_anchors,
)
from dunlin.core.timing.typed import amount_ms, place_ms, typed_times
from dunlin.media.speech import speech_in
from dunlin.store.log import Step
from dunlin.work.apart import apart
from dunlin.work.films import needs_film
from dunlin.work.hearing import needs_sound
from dunlin.work.judging import judge_of, shots_of
from dunlin.work.shots import set_shots, toggle_shot

__all__ = ["router"]

router = subject_router("timing", 404, 422)


@router.post("/projects/{project_id}/speech", status_code=202)
def find_speech(project_id: str, here: Here) -> JobView:
    """Asks for the sound to be searched for speech."""
    needs_sound(here.projects.get(project_id))
    return _asked(here, project_id, "speech", {})


@router.post("/projects/{project_id}/shots/toggle")
def toggle_shot_change(
    project_id: str, request: ShotRequest, here: Here, who: Who, key: EditKey = None
) -> ShotsView:
    """Takes the shot change on a frame away, or puts one there."""
    project = here.projects.get(project_id)
    if request.at_ms >= project.film.duration_ms:
        raise BadInput(message("film.ends-before"))
    toggle_shot(here, project, request.at_ms, who, key=key)
    return ShotsView(shots=list(shots_of(here, project.film) or ()))


@router.post("/projects/{project_id}/shots-file")
async def take_in_shots(
    project_id: str, request: Request, here: Here, who: Who, key: EditKey = None
) -> ShotsView:
    """Makes the cuts of a timeline, the body, the film's shot changes: OpenTimelineIO or an edit list."""
    project = await run_in_threadpool(here.projects.get, project_id)
    needs_film(project)
    data = await body_of(request, GREATEST_BYTES, "files.too-large-captions")

    def take() -> ShotsView:
        cuts = apart(cuts_in, data, project.film.rate)
        shots = [at for at in cuts if 0 < at < project.film.duration_ms]
        set_shots(here, project.film, shots, who, key=key)
        return ShotsView(shots=list(shots_of(here, project.film) or ()))

    return await run_in_threadpool(take)


@router.post("/tracks/{track_id}/retiming")
def retiming(track_id: str, request: RetimingRequest, here: Here) -> RetimingView:
    """The times that captions would have, to look at before they are edited in."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    chosen = set(request.captions) if request.captions is not None else None
    captions = [
        caption
        for caption in track
        if not caption.locked
        and (chosen is None or caption.id in chosen)
        and (request.from_ms is None or caption.in_ms >= request.from_ms)
        and (request.to_ms is None or caption.in_ms < request.to_ms)
    ]
    moved = retimed(
        captions,
        _pieces(request, project.film.rate),
        edges=request.edges,
        below_zero=request.below_zero,
    )
    kept = {caption.id for caption in moved.captions}
    return RetimingView(
        times=[
            _on_frames(caption, project.film.rate)
            if request.on_frames
            else Times(caption.id, caption.in_ms, caption.out_ms)
            for caption in moved.captions
        ],
        below_zero=list(moved.below_zero),
        dropped=[caption.id for caption in captions if caption.id not in kept],
    )


@router.get("/projects/{project_id}/place")
def typed_place(
    project_id: str,
    text: Annotated[str, Query(max_length=64)],
    here: Here,
    now_ms: Annotated[int, Query(ge=0, le=2**40)] = 0,
) -> int:
    """The milliseconds of a place in the film that was typed: a time, a frame, or how far from now."""
    return place_ms(text, now_ms, here.projects.get(project_id).film.rate)


@router.post("/tracks/{track_id}/typed-times")
def typed(track_id: str, request: TypedRequest, here: Here) -> Times:
    """The times that a caption gets by what was typed, to be edited in."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    if request.caption not in track:
        raise Refusal(404, message("edits.no-such-caption", caption=request.caption))
    caption, rate = track[request.caption], project.film.rate
    return typed_times(caption, request.field, request.text, rate, on_frames=request.on_frames)


def _pieces(request: RetimingRequest, rate: FrameRate) -> tuple[Piece, ...]:
    """:raises Told: when anchors cross, or a rate is none"""
    way = request.way
    if isinstance(way, By):
        return shift(amount_ms(way.amount, rate))
    if isinstance(way, ThroughAnchors):
        return through_anchors((anchor.old_ms, anchor.new_ms) for anchor in way.anchors)
    if isinstance(way, InPieces):
        return pieces_of(way.pieces)
    return rate_change(parse_rate(way.from_fps), parse_rate(way.to_fps))


@router.post("/tracks/{track_id}/sync", status_code=202)
def find_sync(track_id: str, here: Here) -> JobView:
    """Asks how captions and speech disagree; the job's result has pieces, agreement and sureness."""
    project = here.projects.of_track(track_id)
    needs_sound(project)
    return _asked(here, project.id, "sync", {"track_id": track_id})


@router.post("/tracks/{track_id}/fit", status_code=202)
def fit_to_speech(track_id: str, request: FitRequest, here: Here) -> JobView:
    """Asks for captions to be timed by their words; the job's result has times and sureness."""
    project = here.projects.of_track(track_id)
    needs_sound(project)
    to_ms = request.to_ms if request.to_ms is not None else project.film.duration_ms
    if to_ms <= request.from_ms:
        raise BadInput(message("sound.part-ends-first"))
    track, _ = here.log.track(track_id)
    if not len(track):
        raise BadInput(message("timing.nothing-to-fit"))
    parameters = request.model_dump() | {"track_id": track_id, "to_ms": to_ms}
    return _asked(here, project.id, "fit", parameters)


@router.post("/tracks/{track_id}/cue", response_model=CueView, responses={409: {"model": Problem}})
def cue_key(
    track_id: str, request: CueRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """What a key does that was pressed while the film plays, done at once."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    state = request.state
    if state.next > len(state.lines) or (state.open and not state.next):
        raise BadInput(message("timing.no-such-line"))
    # A line that was deleted meanwhile is not waited for.
    here_still = tuple(line for line in state.lines if line in track)
    if here_still != state.lines:
        raise Refusal(409, message("timing.line-removed"))
    setting = judge_of(here, project, track_id).setting
    hand = Hand(
        setting.rate,
        least_gap_ms(setting.spec, setting.rate),
        request.reaction_ms,
        request.snap_ms,
        setting.spec.greatest_duration_ms,
        speech_in(here.film_folder(project.film)) or (),
    )
    near = (
        state.lines if request.key == "back" else state.lines[max(state.next - 1, 0) : state.next]
    )
    shown = {line: (track[line].in_ms, track[line].out_ms) for line in near}
    done = cue(state, request.key, request.at_ms, hand, shown)
    edit = None
    if done.times:
        step = Step(captions_of(track_id), retime_captions(done.times), revision)
        edited = here.log.edit(project.id, [step], who, gesture=request.gesture, key=key)
        edit = edit_view(here, project, track_id, edited)
    return json_answer(CueView.model_construct(state=done.state, edit=edit, ended=done.state.ended))


def _on_frames(caption: Caption, rate: FrameRate) -> Times:
    """The frames nearest to a caption's times; one at the least."""
    in_ms, out_ms = snap(caption.in_ms, rate), snap(caption.out_ms, rate)
    return Times(caption.id, in_ms, max(out_ms, next_frame(in_ms, rate)))


def _asked(here: Services, project_id: str, kind: str, parameters: dict[str, object]) -> JobView:
    """The job, or the same one that is on its way already."""
    film_id = here.projects.get(project_id).film.id
    for job in here.jobs.of_project(project_id):
        if (
            job.kind == kind
            and job.state in ("waiting", "running")
            and job.parameters == parameters
            and job.film_id == film_id
        ):
            return JobView.model_validate(job)
    return JobView.model_validate(here.queue.add(project_id, kind, parameters))
