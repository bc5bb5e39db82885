"""What was done in a project: taken back, and done again."""

from fastapi import Response

from dunlin.api.authors import Who
from dunlin.api.history.views import StepRequest
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import ChangesView, changes_view
from dunlin.api.wire import json_answer
from dunlin.store.house import HOUSE
from dunlin.store.log import Done

__all__ = ["router"]

router = subject_router("history", 404, 409)


@router.post("/projects/{project_id}/undo", response_model=ChangesView, responses={204: {}})
def undo(project_id: str, request: StepRequest, here: Here, who: Who) -> Response:
    """Takes back one's own newest gesture in what is in view; 204 when there is none. 409 says whose
    edit came on top of it."""
    _known(here, project_id)
    return _stepped(here, here.log.undo(project_id, request.targets, who), who.window)


@router.post("/projects/{project_id}/redo", response_model=ChangesView, responses={204: {}})
def redo(project_id: str, request: StepRequest, here: Here, who: Who) -> Response:
    """Does again what one undid last in what is in view; 204 when there is nothing."""
    _known(here, project_id)
    return _stepped(here, here.log.redo(project_id, request.targets, who), who.window)


def _known(here: Here, project_id: str) -> None:
    if project_id != HOUSE:
        here.projects.get(project_id)


def _stepped(here: Here, done: Done | None, window: str) -> Response:
    if done is None:
        return Response(status_code=204)
    return json_answer(changes_view(here, done, [window]))
