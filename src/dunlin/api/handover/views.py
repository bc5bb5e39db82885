"""Translations handed over and taken back, as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.tracks.views import GestureRequest, TrackInfoView
from dunlin.api.wire import View
from dunlin.core.captions.bounds import Text

__all__ = ["BegunView", "ReturnedView", "TakeBackRequest", "TakenRequest", "TextChangeView"]


class BegunView(View):
    """A translation that was begun from a file."""

    track: TrackInfoView
    doubtful: int
    """Captions of which it is not sure that they are paired rightly."""
    left_over: list[str]
    """Lines of the file that found no caption."""


class TextChangeView(View):
    """A caption that a file has otherwise."""

    caption: str
    before: str
    after: str
    said: str
    """What the file says was translated, in one line."""
    source_changed: bool
    """Whether the source says something else by now."""
    is_confirmed: bool
    """Whether the file says that it is final."""


class ReturnedView(View):
    """What a file would change; nothing of it is taken in yet."""

    revision: int
    changes: list[TextChangeView]
    left_over: list[str]
    """Words of the file that belong to no caption."""


class TakenRequest(BaseModel):
    """A change that is taken in."""

    caption: str
    text: Text
    said: Annotated[str, Field(max_length=20_000)]
    is_confirmed: bool


class TakeBackRequest(GestureRequest):
    """The changes of a file that a person has chosen."""

    taken: Annotated[list[TakenRequest], Field(min_length=1, max_length=100_000)]
