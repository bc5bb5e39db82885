"""The transcript, its speakers and its spelling list, as they go over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.timing.views import PieceView
from dunlin.api.wire import MOST_MS, MOST_WORDS, View
from dunlin.core.speech import Word
from dunlin.core.speech.transcript_files import MOST_NAME

__all__ = [
    "NamedSpeaker",
    "OfferView",
    "OffersView",
    "Speaker",
    "SpeakerView",
    "SpeakersRequest",
    "TermsRequest",
    "TranscriptEdit",
    "WordsView",
    "WrittenWord",
]


class Speaker(BaseModel):
    """Somebody who speaks in the film."""

    name: Annotated[str, Field(min_length=1, max_length=MOST_NAME)]
    colour: Annotated[str, Field(pattern=r"^#[0-9A-Fa-f]{6}$")]


class SpeakerView(View):
    """Somebody who speaks, as it was stored: however it came in, a project with it can be shown."""

    name: str
    colour: str


class TermsRequest(BaseModel):
    """Names and terms as they are spelled, in place of those there are."""

    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the list was made of; None is the newest."""
    terms: Annotated[
        list[Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]],
        Field(max_length=500),
    ]


class OfferView(View):
    """A term that `count` words of the transcript, from the one at index `first` on, may stand for."""

    first: int
    count: int
    said: str
    term: str
    put: str
    """The term with the marks that stand around the words."""
    likeness: float


class OffersView(View):
    revision: int
    """Of the transcript that was searched."""
    terms: list[str]
    offers: list[OfferView]


class WordsView(View):
    run: str | None
    revision: int
    can_undo: bool
    can_redo: bool
    first: int
    words: list[Word]


class WrittenWord(BaseModel):
    """A word as it stands in the text: with the time of the word it was, or without one."""

    text: Annotated[str, Field(pattern=r"^\S+$", max_length=2000)]
    start_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None
    end_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None
    confidence: Annotated[float, Field(ge=0, le=1)] = 1.0
    speaker: Annotated[str, Field(max_length=MOST_NAME)] | None = None
    begins: bool = False
    """Whether a paragraph begins with it."""
    guessed: bool = False
    """Whether its time was shared out, and not heard."""
    italic: bool = False
    bold: bool = False
    underline: bool = False
    left_out: bool = False
    """Whether captions leave it out."""


class TranscriptEdit(BaseModel):
    """Words written in the place of `count` others, from the one at index `first` on."""

    base_revision: Annotated[int, Field(ge=0)]
    first: Annotated[int, Field(ge=0, le=2**31)]
    count: Annotated[int, Field(ge=0, le=2**31)]
    words: Annotated[list[WrittenWord], Field(max_length=MOST_WORDS)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)] | None = None
    """Edits in a row with the same name are undone together."""


class TranscriptRetiming(BaseModel):
    """All words moved in time, each by the piece that it begins in."""

    base_revision: Annotated[int, Field(ge=0)]
    pieces: Annotated[list[PieceView], Field(min_length=1, max_length=1000)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)] | None = None
    """With what it is undone together, such as the same done to the captions."""


class NamedSpeaker(Speaker):
    was: str | None = None
    """The name it had, when it is another now."""


class SpeakersRequest(BaseModel):
    """All who speak, in the order of their keys."""

    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the list was made of; None is the newest."""
    speakers: Annotated[list[NamedSpeaker], Field(max_length=100)]
