"""Who asks for a change: told by the headers of the request."""

from typing import Annotated

from fastapi import Depends, Header

from dunlin.store.log import Author

__all__ = ["EditKey", "Who"]

_Name = Annotated[str, Header(max_length=64, pattern=r"^[A-Za-z0-9_-]*$")]


def _author(dunlin_person: _Name = "somebody", dunlin_window: _Name = "") -> Author:
    """The person whose undo it is, and the window it is done in."""
    return Author(dunlin_person, dunlin_window)


Who = Annotated[Author, Depends(_author)]

EditKey = Annotated[str | None, Header(alias="Idempotency-Key", min_length=1, max_length=64)]
"""Names an edit, so that it is done once also when it is sent again because its answer was lost."""
