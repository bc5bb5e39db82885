"""People who work here, as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, StringConstraints

from dunlin.api.wire import View

__all__ = ["NameRequest", "PersonView"]


class NameRequest(BaseModel):
    """How the person who asks is called; nothing takes the name away."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)]


class PersonView(View):
    id: str
    """As the log names who made an edit."""
    name: str
