"""Term lists as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import View
from dunlin.core.language.terms.model import TermEntry
from dunlin.work.glossary import Scope

__all__ = ["GlossaryView", "TermRequest", "TermView"]


class TermView(View):
    """A term, and whose it is."""

    id: str
    scope: Scope
    entry: TermEntry


class GlossaryView(View):
    """The terms of a project and of the house."""

    revision: int
    """The project's, when its terms were last changed."""
    house_revision: int
    terms: list[TermView]


class TermRequest(BaseModel):
    """Makes a term this one."""

    base_revision: Annotated[int, Field(ge=0)]
    """Of the list that it is in, when it was read."""
    entry: TermEntry
