"""What is asked when a gesture is undone or done again."""

from typing import Annotated

from pydantic import BaseModel, Field

__all__ = ["StepRequest"]


class StepRequest(BaseModel):
    """Undoes or redoes the newest gesture that touched one of these targets, which are in view."""

    targets: Annotated[
        list[Annotated[str, Field(max_length=200)]], Field(min_length=1, max_length=50)
    ]
