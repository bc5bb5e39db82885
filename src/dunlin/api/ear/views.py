"""Passages that are typed by ear."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import MOST_MS, View

__all__ = ["LineTyped", "PassageView"]


class PassageView(View):
    """A passage to type by ear, and the times of its caption."""

    from_ms: int
    to_ms: int
    in_ms: int
    out_ms: int


class LineTyped(BaseModel):
    """A line typed by ear, and the times of its caption."""

    text: Annotated[str, Field(min_length=1, max_length=2000, pattern=r"\S")]
    in_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    out_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    new_id: Annotated[str, Field(min_length=1, max_length=64)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]
