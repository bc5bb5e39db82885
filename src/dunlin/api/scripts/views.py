"""Clients' scripts as they were understood."""

from dunlin.api.files.views import PreviewView
from dunlin.api.wire import View

__all__ = ["NamedCount", "ScriptView"]


class NamedCount(View):
    name: str
    count: int


class ScriptView(View):
    """What a script says, and what would come of it."""

    passage_count: int
    speakers: list[NamedCount]
    """Who speaks, with the number of passages of each, the most first."""
    description_count: int
    spoken_ms: int
    """How long it takes to say, at a usual pace."""
    language: str | None
    """What it is written in, where that can be told and is not the track's language."""
    caption_count: int
    captions: list["PreviewView"]
    """The first of them."""
