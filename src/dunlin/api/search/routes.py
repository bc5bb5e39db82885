"""Words found in captions, and replaced."""

from collections.abc import Iterator

from fastapi import Response

from dunlin.api.authors import EditKey, Who
from dunlin.api.search.views import (
    FindRequest,
    FoundView,
    HitView,
    MatchesView,
    MatchRequest,
    MatchView,
    ReplaceRequest,
)
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import ChangesView, changes_view
from dunlin.api.wire import Problem, json_answer
from dunlin.core.captions import Track
from dunlin.core.captions.searching import Hit, hits, matches, replacing
from dunlin.core.project import captions_of
from dunlin.store.log import Step

__all__ = ["router"]

router = subject_router("search", 404, 422)

_MOST_SHOWN = 500
# As many are lit in a text, and replaced in one go.
_MOST_MATCHES = 20_000


@router.post("/projects/{project_id}/find", response_model=FoundView)
def find(project_id: str, request: FindRequest, here: Here) -> Response:
    """Where in the captions of tracks something stands."""
    revision = here.projects.get(project_id).revision
    found = [
        HitView.model_construct(
            track=track_id, caption=hit.caption, start=hit.start, end=hit.end, put=hit.put
        )
        for track_id, _, own in _found(project_id, request, here)
        for hit in own
    ]
    return json_answer(
        FoundView.model_construct(revision=revision, count=len(found), hits=found[:_MOST_SHOWN])
    )


@router.post(
    "/projects/{project_id}/replace",
    response_model=ChangesView,
    responses={204: {}, 409: {"model": Problem}},
)
def replace(
    project_id: str, request: ReplaceRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Puts other words in the place of what was found, in all tracks as one step; 204 when it is not
    there any more."""
    steps = []
    for track_id, track, own in _found(project_id, request, here):
        only = (
            None
            if request.only is None
            else {(place.caption, place.start) for place in request.only if place.track == track_id}
        )
        edit = replacing(track, own, only)
        if edit.changes:
            steps.append(Step(captions_of(track_id), edit, request.base_revision))
    if not steps:
        return Response(status_code=204)
    done = here.log.edit(project_id, steps, who, key=key)
    return json_answer(changes_view(here, done, [who.window]))


@router.post("/matches", response_model=MatchesView)
def match_texts(request: MatchRequest) -> Response:
    """Where something stands in texts that are still being written, by the rules of every search here;
    a pattern that never ends is ended."""
    found = matches(request.texts, request.sought, request.replacement)
    views = [MatchView.model_construct(**vars(match)) for match in found[:_MOST_MATCHES]]
    return json_answer(MatchesView.model_construct(count=len(found), matches=views))


def _found(
    project_id: str, request: FindRequest, here: Here
) -> Iterator[tuple[str, Track, list[Hit]]]:
    project = here.projects.get(project_id)
    for info in project.tracks:
        if info.id in request.tracks:
            track, _ = here.log.track_of(project_id, info.id)
            yield info.id, track, hits(track, request.sought, request.replacement)
