"""Translations as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.tracks.views import GestureRequest
from dunlin.api.wire import Language, View
from dunlin.core.captions import Operation
from dunlin.core.language.links.model import Progress
from dunlin.core.language.room import Way
from dunlin.core.messages import Message
from dunlin.work.translating import Beginning

__all__ = [
    "ConcordanceView",
    "DraftsRequest",
    "LinkView",
    "ProgressRequest",
    "RememberedView",
    "RoomOfferView",
    "RoomView",
    "SourceRequest",
    "SuggestionsView",
    "TakenView",
    "TermFoundView",
    "TranslationRequest",
    "TranslationView",
    "TranslatorView",
]


class LinkView(View):
    """What a caption of a translation knows of its source."""

    sources: list[str]
    said: str | None = None
    """What the sources said when it was translated."""
    progress: Progress | None = None
    drafted: str | None = None
    """The words of its draft: where it still has these, nobody has written in it."""
    origin: str | None = None


class TranslationView(View):
    """What the captions of a translation know of their source, or what of it became otherwise after `base`."""

    source: str | None
    """Id of the track that is translated."""
    base: int
    revision: int
    """The project's, when it was read."""
    links: dict[str, LinkView]
    gone: list[str]
    """Captions that have no link any more."""
    can_undo: bool
    can_redo: bool


class TranslationRequest(BaseModel):
    """A new track in another language."""

    source: str | None
    """Id of the track that it translates; null to translate from listening alone."""
    language: Language
    name: Annotated[str, Field(max_length=200)] = ""
    spec_id: str | None = None
    """By which it is judged; null is the project's."""
    beginning: Beginning = "captions"


class SourceRequest(BaseModel):
    """Makes a track the translation of another one, or of none."""

    source: str | None


class ProgressRequest(GestureRequest):
    """Says how far captions of a translation are."""

    progress: Annotated[dict[str, Progress | None], Field(min_length=1, max_length=20_000)]


class TranslatorView(View):
    """An engine that drafts translations, for the two languages of a track and its source."""

    name: str
    title: str
    fault: Message | None
    """Why it cannot work; null when it can."""


class DraftsRequest(BaseModel):
    """Asks for drafts by an engine."""

    engine: Annotated[str, Field(max_length=300)]
    captions: Annotated[list[str], Field(min_length=1, max_length=20_000)] | None = None
    """Those that shall have one; null is all that are empty."""
    anew: bool = False
    """Whether those that have a draft nobody has written in get another."""


class RoomOfferView(View):
    """A way to more room that breaks no limit which is kept now."""

    way: Way
    by_ms: int
    """Milliseconds that the caption is shown longer; none where that is not what it does."""
    left: int
    """Characters that there is room for then."""
    edit: Annotated[Operation, Field(discriminator="kind")]


class RoomView(View):
    """The room that the words of a caption have, as the track was at a revision."""

    revision: int
    left: int | None
    """Characters that may still be written, less than none where there are too many; null without a limit."""
    silence_ms: int | None
    """For so long nobody speaks after its out; null where that is not known."""
    offers: list[RoomOfferView]


class RememberedView(View):
    """What was translated before."""

    alike: float
    """From 0 to 1: how alike its source is to the one asked for."""
    source: str
    target: str
    origin: str
    """The title of the project that it is from, or the name of a file."""
    when_ms: int
    """When it was confirmed; 0 where that is not known."""


class TermFoundView(View):
    """A term of the list that stands in the source of a caption."""

    term: str
    targets: list[str]
    forbidden: list[str]
    is_there: bool
    """Whether one of its translations stands in the caption."""
    wrong: str | None
    """What is forbidden and stands there."""
    start: int
    end: int
    """From which to which character of the source in one line."""


class SuggestionsView(View):
    """What helps with one caption of a translation."""

    remembered: list[RememberedView]
    terms: list[TermFoundView]


class ConcordanceView(View):
    """What is remembered with some words, in either language."""

    found: list[RememberedView]
    count: int
    """How many pairs are remembered at all."""


class TakenView(View):
    """What a file brought into the memory."""

    taken: int
    """Pairs that were not there before."""
    count: int
    """How many are remembered now."""
