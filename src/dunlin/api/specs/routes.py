"""Delivery specs: those that ship, and those that were made or brought in."""

from typing import Annotated

from fastapi import Body, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.services import Here
from dunlin.api.specs.views import DistributionView, JudgementView, RuleView
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Problem, Refusal, attachment, json_answer
from dunlin.core.messages import BadInput, message
from dunlin.core.specs import RULES, Spec, read_spec, shipped_specs, write_spec
from dunlin.core.specs.distribution import counts_by_rule, distributions
from dunlin.work.judging import judge_of
from dunlin.work.specs import keep_spec
from dunlin.work.specs import remove_spec as removed_spec

__all__ = ["router"]

router = subject_router("specs")

_GREATEST_BYTES = 100_000


@router.get("/specs")
def list_specs(here: Here) -> list[Spec]:
    return list(here.projects.specs().values())


@router.get("/specs/shipped")
def list_shipped_specs() -> list[str]:
    """Ids of the specs that ship, and stay as they are."""
    return list(shipped_specs())


@router.get("/rules")
def list_rules() -> list[RuleView]:
    """What a spec can ask for."""
    return [
        RuleView(name=r.name, limits=r.limits, unit=r.unit, mends=r.mend is not None) for r in RULES
    ]


@router.post("/specs", status_code=201, responses={422: {"model": Problem}})
async def add_spec(request: Request, here: Here, who: Who, key: EditKey = None) -> Spec:
    """Keeps a spec, the body's JSON, in place of an added one of the same id; one with the id of a
    shipped one gets an id of its own."""
    spec = _read(await request.body())
    return await run_in_threadpool(keep_spec, here, spec, who, key=key)


def _read(body: bytes) -> Spec:
    if len(body) > _GREATEST_BYTES:
        raise BadInput(message("specs.too-long"))
    try:
        return read_spec(body.decode("utf-8"))
    except UnicodeDecodeError:
        raise BadInput(message("specs.no-text")) from None


@router.get("/specs/{spec_id}/file", response_class=Response, responses={404: {"model": Problem}})
def write_spec_file(spec_id: str, here: Here) -> Response:
    """A spec as JSON to share."""
    spec = here.projects.specs().get(spec_id)
    if spec is None:
        raise Refusal(404, message("specs.gone"))
    return Response(
        write_spec(spec),
        media_type="application/json",
        headers=attachment(f"{spec.name}.spec.json"),
    )


@router.delete(
    "/specs/{spec_id}",
    status_code=204,
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def remove_spec(spec_id: str, here: Here, who: Who) -> None:
    """Removes a spec that was added. Projects that are judged by it keep the copy they took."""
    if spec_id in shipped_specs():
        raise Refusal(409, message("specs.shipped-stays"))
    if not removed_spec(here, spec_id, who):
        raise Refusal(404, message("specs.gone"))


@router.post(
    "/tracks/{track_id}/judgement",
    response_model=JudgementView,
    responses={404: {"model": Problem}, 422: {"model": Problem}},
)
def judge_track(track_id: str, spec: Annotated[Spec, Body()], here: Here) -> Response:
    """A track judged by a spec that is not kept: how many captions break each rule, and how the
    measured values are spread."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    judge = judge_of(here, project, track_id, spec)
    view = JudgementView.model_construct(
        caption_count=len(track),
        broken=counts_by_rule(track, judge),
        distributions=[
            DistributionView.model_validate(found) for found in distributions(track, judge)
        ],
    )
    return json_answer(view)
