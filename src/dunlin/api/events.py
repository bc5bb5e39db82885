"""One stream a project: edits as they are made, jobs as they get on."""

from collections.abc import AsyncIterator

from fastapi import APIRouter
from fastapi.sse import EventSourceResponse, ServerSentEvent
from starlette.concurrency import run_in_threadpool

from dunlin.api.feed import EditMade, JudgedAnew, WordsWritten
from dunlin.api.schemas import JobView
from dunlin.api.services import Here, Services
from dunlin.api.views import edit_view
from dunlin.store.edits import Edited, UnknownTrack
from dunlin.store.projects import UnknownProject

__all__ = ["router"]

router = APIRouter(tags=["events"])


@router.get("/projects/{project_id}/events", response_class=EventSourceResponse)
async def follow_project(project_id: str, here: Here) -> AsyncIterator[ServerSentEvent]:
    """Events of a project, from now on: `edit` (an EditView), `job` (a JobView), `judged` when a
    track's captions are judged otherwise without an edit, and `words` when the transcript was
    written, with its revision."""
    # An event at once tells the page that nothing is missed from here on.
    yield ServerSentEvent(event="ready", data={})
    async for event in here.feed.listen():
        if event.project_id != project_id:
            continue
        if isinstance(event, EditMade):
            view = await run_in_threadpool(_edit, here, event)
            if view is not None:
                yield ServerSentEvent(event="edit", raw_data=view)
        elif isinstance(event, JudgedAnew):
            yield ServerSentEvent(event="judged", data={"track_id": event.track_id})
        elif isinstance(event, WordsWritten):
            yield ServerSentEvent(event="words", data={"revision": event.revision})
        else:
            yield ServerSentEvent(
                event="job", raw_data=JobView.model_validate(event.job).model_dump_json()
            )


def _edit(here: Services, event: EditMade) -> str | None:
    """An edit with the captions as they are now, which may be later than the edit."""
    try:
        track, revision = here.edits.track(event.track_id)
        edited = Edited(track, revision, frozenset(event.touched), frozenset(event.near))
        project = here.projects.get(event.project_id)
        view = edit_view(here, project, event.track_id, edited, event.actor)
    except (UnknownTrack, UnknownProject):
        return None
    return view.model_copy(update={"revision": event.revision}).model_dump_json()
