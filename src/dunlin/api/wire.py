"""What all that goes over the wire is made of."""

from collections.abc import Mapping
from typing import Annotated, Any
from urllib.parse import quote

from fastapi import Response
from pydantic import BaseModel, ConfigDict, Field

from dunlin.core.captions.bounds import MOST_MS
from dunlin.core.messages import Message, Told

__all__ = [
    "LINES_OF_JSON",
    "MOST_MS",
    "MOST_WORDS",
    "Language",
    "Problem",
    "RateView",
    "Refusal",
    "View",
    "attachment",
    "json_answer",
    "problem_answer",
]


Language = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


LINES_OF_JSON = "application/x-ndjson"
"""Media type of an answer that is read line by line while it comes in."""

# More words than a day of talk has.
MOST_WORDS = 300_000


class View(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class Refusal(Told):
    """A request that is answered with a status of its own, and why."""

    def __init__(self, status: int, told: Message) -> None:
        super().__init__(told)
        self.status = status


class Problem(View):
    """What was wrong with a request: a message, and its English words for who has no locale files."""

    code: str
    values: dict[str, Any] = {}
    detail: str


class RateView(View):
    numerator: int
    denominator: int


def json_answer(view: BaseModel, status: int = 200) -> Response:
    """A view as it is; it was built of checked values, and checking thousands again takes time."""
    return Response(view.model_dump_json(), status, media_type="application/json")


def attachment(name: str) -> dict[str, str]:
    """Headers that have a browser keep an answer as a file of this name (RFC 6266)."""
    return {"Content-Disposition": f"attachment; filename*=utf-8''{quote(name, safe='')}"}


def problem_answer(
    status: int, told: Message, headers: Mapping[str, str] | None = None
) -> Response:
    """What was wrong, as an answer."""
    answer = json_answer(Problem(code=told.code, values=told.values, detail=str(told)), status)
    answer.headers.update(headers or {})
    return answer
