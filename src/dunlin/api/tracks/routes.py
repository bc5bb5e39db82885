"""Tracks: read whole, edited gesture by gesture, written out."""

from itertools import chain
from typing import Any

from fastapi import Response
from fastapi.responses import StreamingResponse

from dunlin.api.authors import EditKey, Who
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import (
    BurnRequest,
    CaptionsAsked,
    CaptionsView,
    EditRequest,
    EditView,
    GestureRequest,
    LinesRequest,
    LinesView,
    PageRequest,
    SplitRequest,
    TrackChange,
    TrackInfoView,
    TrackRequest,
    TracksInsideRequest,
    TracksOutRequest,
    TrackView,
    caption_views,
    edit_view,
    lines_of,
    track_info_view,
    track_pieces,
    track_view,
)
from dunlin.api.wire import LINES_OF_JSON, Problem, Refusal, json_answer
from dunlin.core.captions import Caption, Operation
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import TRACKS
from dunlin.store.log import Author, Changed, Done, Outdated, Step, UnknownTrack
from dunlin.store.projects import Project
from dunlin.work.films import needs_film
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.replacing import new_track
from dunlin.work.specs import change_track as changed_track
from dunlin.work.splitting import lines_broken, page_written, split_by_words
from dunlin.work.versions import version_of

__all__ = ["router"]

router = subject_router("tracks", 404)

_CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": EditView}}


@router.get("/tracks/{track_id}", response_model=TrackView)
def get_track(track_id: str, here: Here, who: Who) -> Response:
    return json_answer(track_view(here, here.projects.of_track(track_id), track_id, who))


@router.get(
    "/tracks/{track_id}/pieces",
    response_class=StreamingResponse,
    responses={200: {"content": {LINES_OF_JSON: {"schema": {"type": "string"}}}}},
)
def stream_track(track_id: str, here: Here, who: Who) -> StreamingResponse:
    """A track, a line of JSON a piece: a `TrackView` with the first captions, then `CaptionsView`s with the
    others."""
    pieces = track_pieces(here, here.projects.of_track(track_id), track_id, who)
    # What may be refused is worked out before the answer begins.
    head = next(pieces)
    lines = (f"{piece.model_dump_json()}\n" for piece in chain([head], pieces))
    return StreamingResponse(lines, media_type=LINES_OF_JSON)


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


@router.post("/tracks/{track_id}/drawn", response_model=LinesView)
def read_lines_drawn(track_id: str, request: CaptionsAsked, here: Here) -> Response:
    """The lines in the render script of the captions that are asked for, of those that still are in the track."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    setting = judge_of(here, project, track_id).setting
    lines = lines_of(track, request.captions, setting)
    return json_answer(LinesView.model_construct(revision=revision, lines=lines))


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


@router.post("/tracks/{track_id}/lines", response_model=EditView, responses=_CONFLICT)
def break_lines(
    track_id: str, request: LinesRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Breaks captions into the best lines by their spec, or makes one line of each."""
    project = here.projects.of_track(track_id)
    operation = lines_broken(here, project, track_id, request.captions, request.lines)
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


@router.post("/projects/{project_id}/tracks", status_code=201)
def add_track(
    project_id: str, request: TrackRequest, here: Here, who: Who, key: EditKey = None
) -> TrackInfoView:
    """Adds a track to a project, empty or with the captions of another one."""
    project = here.projects.get(project_id)
    captions: tuple[Caption, ...] = ()
    if request.copy_of is not None:
        if request.copy_of not in project.records[TRACKS]:
            raise UnknownTrack
        captions = tuple(here.log.track(request.copy_of)[0])
    fields = {"name": request.name.strip(), "language": request.language}
    _, steps = new_track(here, project, captions, **fields)
    done = here.log.edit(project.id, steps, who, key=key)
    # Asked for again after a lost answer, it is the one that was made then.
    [made] = done.changed[TRACKS].touched
    added = here.projects.get(project_id)
    return track_info_view(here, added, added.track(made))


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
    changed_track(here, project, track_id, values, who, key=key)
    changed = here.projects.get(project.id)
    return track_info_view(here, changed, changed.track(track_id))


@router.delete("/tracks/{track_id}", status_code=204, responses={409: {"model": Problem}})
def remove_track(track_id: str, here: Here, who: Who) -> None:
    """Removes a track, which can be undone; a project keeps at least one."""
    project = here.projects.of_track(track_id)
    if len(project.tracks) == 1:
        raise Refusal(409, message("tracks.last-stays"))
    here.log.edit(project.id, [Step(TRACKS, SetEntries({track_id: None}))], who)


@router.post("/tracks/{track_id}/burn", status_code=202)
def burn_track(track_id: str, request: BurnRequest, here: Here) -> JobView:
    """Asks for the film with the track's captions in the picture."""
    project = here.projects.of_track(track_id)
    needs_film(project)
    if request.version is not None:
        version_of(here, project, track_id, request.version)
    if request.above is not None and here.projects.of_track(request.above).id != project.id:
        raise UnknownTrack
    parameters = {"track_id": track_id, **request.model_dump()}
    return JobView.model_validate(here.queue.add(project.id, "burn", parameters))


@router.post("/projects/{project_id}/film-with-tracks", status_code=202)
def put_tracks_inside(project_id: str, request: TracksInsideRequest, here: Here) -> JobView:
    """Asks for the film with caption tracks inside; nothing is drawn."""
    project = here.projects.get(project_id)
    needs_film(project)
    if any(track not in project.records[TRACKS] for track in request.tracks):
        raise UnknownTrack
    if len(set(request.tracks)) != len(request.tracks):
        raise BadInput(message("tracks.twice"))
    return JobView.model_validate(here.queue.add(project.id, "tracks-inside", request.model_dump()))


@router.post("/projects/{project_id}/tracks-out", status_code=202)
def take_tracks_out(project_id: str, request: TracksOutRequest, here: Here, who: Who) -> JobView:
    """Asks for caption tracks that the film brings along to become tracks of the project."""
    project = here.projects.get(project_id)
    needs_film(project)
    parameters = {"streams": request.streams, "person": who.person}
    return JobView.model_validate(here.queue.add(project.id, "tracks-out", parameters))


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
