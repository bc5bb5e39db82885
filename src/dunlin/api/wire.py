"""What all that goes over the wire is made of."""

from typing import Annotated, Any

from fastapi import Response
from pydantic import BaseModel, ConfigDict, Field

__all__ = ["MOST_MS", "MOST_WORDS", "Language", "Problem", "RateView", "View", "json_answer"]


Language = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


# A hundred hours: no film, and no slip of the hand, is longer.
MOST_MS = 360_000_000


# More words than a day of talk has.
MOST_WORDS = 300_000


class View(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class Problem(View):
    """What was wrong with a request, in words; `code` names it where a page can do something about it."""

    detail: str
    code: str | None = None
    values: dict[str, Any] = {}


class RateView(View):
    numerator: int
    denominator: int


def json_answer(view: BaseModel, status: int = 200) -> Response:
    """A view as it is; it was built of checked values, and checking thousands again takes time."""
    return Response(view.model_dump_json(), status, media_type="application/json")
