"""Something in the picture, followed frame by frame, and captions that go along with it."""

from dataclasses import asdict

from dunlin.api.authors import Who
from dunlin.api.following.views import (
    FollowRequest,
    PathView,
    StuckRequest,
    StuckView,
    path_view,
)
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal
from dunlin.core.messages import message
from dunlin.work.following import needs_picture, path_of, stuck

__all__ = ["router"]

router = subject_router("following", 404, 409, 422)


@router.post("/tracks/{track_id}/follow", status_code=202)
def follow(track_id: str, request: FollowRequest, here: Here, who: Who) -> JobView:
    """Asks for what is marked in the picture to be followed, forth and back, until it is lost."""
    project = here.projects.of_track(track_id)
    needs_picture(project)
    in_order: dict[int, dict[str, float]] = {}
    for mark in request.marks:
        on_frame = mark.on_frames(project.film.rate)
        # Of two at one frame the later is meant.
        in_order[on_frame.frame] = asdict(on_frame)
    parameters = {
        "track_id": track_id,
        "caption": request.caption,
        "marks": list(in_order.values()),
        "person": who.person,
    }
    return JobView.model_validate(here.queue.add(project.id, "follow", parameters))


@router.get("/jobs/{job_id}/path")
def get_path(job_id: str, here: Here) -> PathView:
    """The path that was found."""
    job = here.jobs.get(job_id)
    return path_view(path_of(here, job), here.films.get(job.film_id or "").rate)


@router.post("/tracks/{track_id}/stuck")
def stuck_times(track_id: str, request: StuckRequest, here: Here) -> StuckView:
    """The times and moments that keep a caption on what is followed, to look at before they are edited in."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    caption = track.by_id.get(request.caption)
    if caption is None:
        raise Refusal(404, message("edits.no-such-caption", caption=request.caption))
    path = path_of(here, here.jobs.get(request.job))
    found = stuck(
        here, project, track_id, caption, path, request.at_ms, take_times=request.take_times
    )
    return StuckView(in_ms=found.in_ms, out_ms=found.out_ms, moments=list(found.moments))
