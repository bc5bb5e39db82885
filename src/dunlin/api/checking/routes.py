"""Findings: mended, waived, reported."""

from collections.abc import Iterable
from hashlib import sha256
from typing import Annotated

from fastapi import Query, Response
from fastapi.responses import HTMLResponse

from dunlin.api.authors import EditKey, Who
from dunlin.api.checking.views import (
    FindingKey,
    MendedView,
    MendRequest,
    MendsView,
    MendView,
    ShapeView,
    WaiverRequest,
)
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import EditView, edit_view
from dunlin.api.wire import Problem, json_answer
from dunlin.core.captions import Caption, Conflict, ReplaceCaptions, Track
from dunlin.core.formats import FORMATS
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of, waivers_of
from dunlin.core.specs import Finding, Judge, RuleName, mend_all, mend_of
from dunlin.core.specs.mends import Mend
from dunlin.store.log import Author, Step
from dunlin.store.waivers import Waiver, waiver_key, with_waivers
from dunlin.work.delivering import caption_file, document_of
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.reporting import report_of

__all__ = ["router"]

router = subject_router("checking", 404)

# More than a person looks at in one go; the rest is there once these are mended.
_MOST_SHOWN = 300


@router.get("/tracks/{track_id}/mends", response_model=MendsView)
def list_mends(track_id: str, here: Here, rule: RuleName | None = None) -> Response:
    """What can be done about each finding, as it would be if it alone were mended."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    judge = judge_of(here, project, track_id)
    judging = judge.about(rule) if rule else judge
    found = with_waivers(judging.findings(track), waivers_in(here, project.id, track_id, track))
    shown = [finding for finding in found if finding.waived is None][:_MOST_SHOWN]
    view = MendsView.model_construct(
        revision=revision, mends=[_mend_view(track, finding, judge) for finding in shown]
    )
    return json_answer(view)


def _mend_view(track: Track, finding: Finding, judge: Judge) -> MendView:
    outcome = mend_of(track, finding, judge)
    if not isinstance(outcome, Mend):
        return MendView.model_construct(
            rule=finding.rule, caption=finding.caption, before=[], after=[], reason=outcome.reason
        )
    changed = track.changed(outcome.edit.removed, outcome.edit.captions)
    return MendView.model_construct(
        rule=finding.rule,
        caption=finding.caption,
        before=_shapes(track, outcome.before, judge),
        after=_shapes(changed, outcome.after, judge),
        reason=None,
    )


def _shapes(track: Track, captions: Iterable[Caption], judge: Judge) -> list[ShapeView]:
    return [
        ShapeView.model_construct(
            id=caption.id,
            in_ms=caption.in_ms,
            out_ms=caption.out_ms,
            text=caption.text,
            measures=judge.place(track, track.index(caption.id)).measures,
        )
        for caption in captions
    ]


@router.post(
    "/tracks/{track_id}/mends", response_model=MendedView, responses={409: {"model": Problem}}
)
def mend(
    track_id: str, request: MendRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Mends findings as one edit. What was waived is left alone."""
    project = here.projects.of_track(track_id)
    track, revision = here.log.track(track_id)
    judge = judge_of(here, project, track_id)
    chosen = None if request.chosen is None else {(k.rule, k.caption) for k in request.chosen}
    waived = waivers_in(here, project.id, track_id, track).keys()
    mended = mend_all(track, judge, only=request.only, chosen=chosen, waived=waived)
    edit = _difference(track, mended.track)
    view = None
    if edit is not None:
        step = Step(captions_of(track_id), edit, revision)
        done = here.log.edit(project.id, [step], who, gesture=request.gesture, key=key)
        view = edit_view(here, project, track_id, done, request.base_revision)
    return json_answer(
        MendedView.model_construct(mended=len(mended.mends), left=len(mended.left), edit=view)
    )


def _difference(before: Track, after: Track) -> ReplaceCaptions | None:
    """The edit that leads from one track to another; None when they are the same."""
    changed = tuple(
        caption for caption in after if caption.id not in before or before[caption.id] != caption
    )
    gone = [caption.id for caption in before if caption.id not in after]
    removed = (*gone, *(caption.id for caption in changed if caption.id in before))
    return ReplaceCaptions(removed, changed) if removed or changed else None


@router.post("/tracks/{track_id}/waivers", response_model=EditView)
def waive(
    track_id: str, request: WaiverRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Accepts a finding as it is, as long as the caption's text and times stay."""
    track, _ = here.log.track(track_id)
    if request.caption not in track:
        raise Conflict(message("edits.no-such-caption", caption=request.caption))
    waiver = Waiver.of(track[request.caption], request.reason.strip())
    return _waived(here, track_id, request, waiver, who, key)


@router.post("/tracks/{track_id}/waivers/take-back", response_model=EditView)
def take_back_waiver(
    track_id: str, request: FindingKey, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Makes a waived finding one again."""
    track, _ = here.log.track(track_id)
    if request.caption not in track:
        raise Conflict(message("edits.no-such-caption", caption=request.caption))
    return _waived(here, track_id, request, None, who, key)


def _waived(
    here: Services,
    track_id: str,
    finding: FindingKey,
    waiver: Waiver | None,
    who: Author,
    key: str | None,
) -> Response:
    project = here.projects.of_track(track_id)
    entry = {waiver_key(finding.rule, finding.caption): waiver.entry() if waiver else None}
    step = Step(waivers_of(track_id), SetEntries(entry))
    done = here.log.edit(project.id, [step], who, key=key)
    return json_answer(edit_view(here, project, track_id, done))


@router.get("/tracks/{track_id}/report", response_class=HTMLResponse)
def report(
    track_id: str,
    here: Here,
    format_name: Annotated[list[str], Query(max_length=20)] = ["srt"],  # noqa: B006
    author: Annotated[str, Query(max_length=200)] = "",
) -> HTMLResponse:
    """The report for the client, as a page to print or send; with the hashes of the caption files."""
    for name in format_name:
        if name not in FORMATS:
            raise BadInput(message("formats.unknown", name=name))
    project = here.projects.of_track(track_id)
    document = document_of(here, project, track_id)
    files = [
        caption_file(project, track_id, document, FORMATS[name])
        for name in dict.fromkeys(format_name)
    ]
    hashes = {file.name: sha256(file.data).hexdigest() for file in files}
    page = report_of(here, project, track_id, hashes, author.strip())
    return HTMLResponse(page)
