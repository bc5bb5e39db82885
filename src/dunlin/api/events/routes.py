"""One stream a project: what changed in it, jobs as they get on."""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated
from weakref import WeakKeyDictionary

from fastapi import Query
from fastapi.sse import EventSourceResponse, ServerSentEvent
from starlette.concurrency import run_in_threadpool

from dunlin.api.events.feed import JobChanged, ProjectChanged
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import OwnView, changes_view
from dunlin.core.project import Target
from dunlin.store.faults import DamagedProject
from dunlin.store.house import HOUSE
from dunlin.store.log import UnknownTrack
from dunlin.store.projects import UnknownProject

__all__ = ["router"]

router = subject_router("events")

# However many windows listen, what happened is worked out once: the first asks, and the others wait for it.
_told: WeakKeyDictionary[ProjectChanged, asyncio.Future[str | None]] = WeakKeyDictionary()


@router.get("/projects/{project_id}/events", response_class=EventSourceResponse)
async def follow_project(
    project_id: str, here: Here, window: Annotated[str, Query(max_length=64)] = ""
) -> AsyncIterator[ServerSentEvent]:
    """Events of a project, from now on: `changed` (a ChangesView) for what its log or that of the house
    has more, and `job` (a JobView). What a window did to captions it was answered: it is told by `own`
    (an OwnView) how far it should have come, for an answer may be lost."""
    # An event at once tells the page that nothing is missed from here on.
    yield ServerSentEvent(event="ready", data={})
    async for event in here.feed.listen():
        if event.project_id not in (project_id, HOUSE):
            continue
        if isinstance(event, JobChanged):
            job = JobView.model_validate(event.job).model_dump_json()
            yield ServerSentEvent(event="job", raw_data=job)
        elif _was_answered(event, window):
            yield ServerSentEvent(event="own", raw_data=_own_view(event).model_dump_json())
        else:
            if event not in _told:
                _told[event] = asyncio.ensure_future(run_in_threadpool(_changes, here, event))
            # Whoever goes away takes the answer from nobody.
            view = await asyncio.shield(_told[event])
            if view is not None:
                yield ServerSentEvent(event="changed", raw_data=view)


def _was_answered(event: ProjectChanged, window: str) -> bool:
    """Whether a window did all of it, and was told all of it: nothing by which captions are judged is among it, and
    nothing that followed from its edit in another target."""
    named = window and event.windows == {window}
    changed = list(event.done.changed)
    return bool(named) and len(changed) == 1 and Target.at(changed[0]).track is not None


def _own_view(event: ProjectChanged) -> OwnView:
    tracks = {track for address in event.done.changed if (track := Target.at(address).track)}
    return OwnView(revision=event.done.revision, tracks=sorted(tracks))


def _changes(here: Services, event: ProjectChanged) -> str | None:
    """What happened, with the captions as they are now; None when its project is gone."""
    try:
        return changes_view(here, event.done, event.windows).model_dump_json()
    except (UnknownTrack, UnknownProject, DamagedProject):
        return None
