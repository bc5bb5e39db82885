"""Captions made of words."""

from collections import Counter

from fastapi import Response

from dunlin.api.authors import EditKey, Who
from dunlin.api.making.views import (
    CaptionsRequest,
    MakingChoice,
    MakingView,
    RuleCount,
    WouldBeView,
)
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import (
    EditView,
    edit_view,
)
from dunlin.api.wire import Problem, json_answer
from dunlin.core.captions import Track
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.making.remaking import Made, changes
from dunlin.core.making.segmentation import Shape
from dunlin.core.messages import BadInput, message
from dunlin.core.project import captions_of
from dunlin.core.specs import Judge, RuleName, Weight
from dunlin.store.log import Outdated
from dunlin.store.projects import Project
from dunlin.work.making import make_captions, put_made

__all__ = ["router"]

router = subject_router("tracks", 404)


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
        raise Outdated(captions_of(track_id), (), revision)
    made, _ = _made(here, project, track_id, track, request)
    done = put_made(
        here, project, track_id, track, made, who, base=revision, gesture=request.gesture,
        key=key, chosen=frozenset(looked.changes) if looked else None, keep_old=request.keep_old,
    )  # fmt: skip
    return json_answer(edit_view(here, project, track_id, done, revision))


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
            raise BadInput(message("specs.unknown", name=choice.spec_id))
    shape = Shape(**choice.shape.model_dump()) if choice.shape else None
    return make_captions(
        here, project, track_id, track,
        spec=spec, shape=shape, case=choice.case, keep=choice.keep,
    )  # fmt: skip
