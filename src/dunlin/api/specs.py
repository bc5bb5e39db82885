"""Delivery specs: those that ship, and those that were added."""

from fastapi import APIRouter, HTTPException, Request

from dunlin.api.schemas import Problem
from dunlin.api.services import Here
from dunlin.core.specs import Spec, SpecError, read_spec

__all__ = ["router"]

router = APIRouter(tags=["specs"])

_GREATEST_BYTES = 100_000


@router.get("/specs")
def list_specs(here: Here) -> list[Spec]:
    return list(here.projects.specs().values())


@router.post("/specs", status_code=201, responses={422: {"model": Problem}})
async def add_spec(request: Request, here: Here) -> Spec:
    """Adds a spec; the body is its JSON."""
    body = await request.body()
    if len(body) > _GREATEST_BYTES:
        raise HTTPException(422, "this is too long for a delivery spec")
    try:
        return here.projects.add_spec(read_spec(body.decode("utf-8")))
    except UnicodeDecodeError:
        raise HTTPException(422, "not JSON: this is no UTF-8 text") from None
    except SpecError as error:
        raise HTTPException(422, str(error)) from None
