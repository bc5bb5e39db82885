"""Caption files as they are read, looked at and written."""

from typing import Annotated, Literal

from pydantic import Field

from dunlin.api.wire import View
from dunlin.core.captions import Span
from dunlin.core.messages import Message

__all__ = [
    "AgreementView",
    "FormatInfoView",
    "FormatView",
    "LossView",
    "OddityView",
    "PreviewView",
    "ReadingView",
    "StlHead",
]

_Line = Annotated[str, Field(max_length=32, pattern=r"^[^\x00-\x1f]*$")]
_Day = Annotated[str, Field(pattern=r"^([0-9]{6})?$")]


class StlHead(View):
    """What the head of a track's EBU STL files says beside what is known; empty where nothing is asked."""

    title: _Line = ""
    translated_title: _Line = ""
    translator: _Line = ""
    publisher: _Line = ""
    country: Annotated[str, Field(pattern=r"^([A-Za-z]{3})?$")] = ""
    """Three letters, as ISO 3166 has them."""
    created: _Day = ""
    """Year, month and day, two digits each."""
    revised: _Day = ""
    programme_start: Annotated[
        str, Field(pattern=r"^([0-9][0-9]:[0-5][0-9]:[0-5][0-9][:;][0-9][0-9])?$")
    ] = ""
    teletext_level: Literal["", "1", "2"] = ""


class LossView(View):
    what: str
    captions: tuple[str, ...]
    done: str
    """What writing does about it: drop, flatten, join, round, nearest or replace."""


class FormatView(View):
    name: str
    title: str
    ending: str
    losses: list[LossView]


class FormatInfoView(View):
    """A format that can be read."""

    name: str
    title: str
    endings: tuple[str, ...]


class OddityView(View):
    line: int
    message: Message


class PreviewView(View):
    """A caption of a file, as it would be taken in."""

    in_ms: int
    out_ms: int
    speaker: str | None
    spans: tuple[Span, ...]


class AgreementView(View):
    """How well a caption file agrees with a film's sound, in per cent."""

    caption_count: int
    as_it_is: float
    in_place: float
    """The same once its captions are brought to the sound."""
    sure: float
    """How sure their place in the sound is, from 0 to 1; at 0 it cannot be told."""
    offsets_ms: list[int]
    """What is added to the times of each part that lies otherwise than the one before."""
    drifts: bool


class ReadingView(View):
    """What a caption file holds, before anything of it is taken in."""

    format: str
    title: str
    encoding: str | None
    """How it was read; None for a file that is no text."""
    encodings: tuple[str, ...]
    counts_frames: bool
    language: str | None
    caption_count: int
    ends_ms: int
    captions: list[PreviewView]
    """The first of them."""
    oddity_count: int
    oddities: list[OddityView]
    """The first of them, in order of lines."""
