"""What every format reads into and writes from."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal, Protocol, TypeAlias, runtime_checkable

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Extras
from dunlin.core.formats.named_styles import NamedStyles
from dunlin.core.messages import Message, Told
from dunlin.core.timecode import FrameRate

__all__ = [
    "Context",
    "Document",
    "Feature",
    "Format",
    "FormatError",
    "Holds",
    "Oddity",
    "Precision",
    "ReadableFormat",
]

Feature: TypeAlias = Literal[
    "italic", "bold", "underline", "colours", "boxes", "alignment", "heights", "sides", "widths",
    "vertical", "speakers", "voices", "languages", "language", "ruby", "overlap", "lines", "styles",
    "case", "looks", "shapes", "words",
]  # fmt: skip
"""Something a caption or its track can have, and a format can hold or not. `alignment` is one of nine
places on the picture, `heights` and `sides` an exact one, `widths` how long lines may get there;
`case` is letters shown otherwise than they are written; `looks` is what captions and words say of
their font, edge, shadow, ground, turn and motion; `shapes` are outlines without words; `words`
is what is known of single words: when they are spoken, which weigh, and what stands by them; `voices` are several speakers in one caption; `languages` are those of single words, `language` is the
track's."""

Precision: TypeAlias = Literal["milliseconds", "hundredths", "frames", "none"]


class FormatError(Told, ValueError):
    """Nothing can be read; `line` counts from 1, or is None where there are no lines."""

    def __init__(self, told: Message, line: int | None = None) -> None:
        super().__init__(told)
        self.line = line


@dataclass(frozen=True)
class Document:
    """Captions as a file holds them, in its order."""

    captions: tuple[Caption, ...]
    language: str | None = None
    extras: Extras = ()
    styles: Mapping[str, Look] = field(default_factory=dict)
    """What the styles look like that captions name, by their names."""
    style: str | None = None
    """The style of captions that name none; None for the one that ships."""
    speakers: Mapping[str, str] = field(default_factory=dict)
    """The styles, by their names, that all is set in that a speaker says."""


@dataclass(frozen=True)
class Oddity:
    """Something unusual in a file: where, what, and what was done about it."""

    line: int
    message: Message


@dataclass(frozen=True)
class Context:
    """What a file itself may not say."""

    rate: FrameRate = field(default_factory=lambda: FrameRate(25))
    encoding: str | None = None
    """Python's name of the text encoding; None to find it out."""
    title: str = ""
    """Of the film, for formats that have a place for it."""
    language: str | None = None
    """BCP 47 tag of the text, where it is known; None where it is not."""
    picture: tuple[int, int] = (1280, 720)
    """Width and height of the film's in pixels, for formats that place and size by them."""
    starts_at: str = "00:00:00:00"
    """Timecode of the film's first frame, for formats that count from another; a semicolon stands for drop-frame."""


def _same_rate(rate: FrameRate) -> FrameRate:
    return rate


def _none_lost(document: Document) -> frozenset[str]:
    return frozenset()


def _as_they_are(captions: Sequence[Caption], rate: FrameRate) -> Sequence[Caption]:
    return captions


def _none_spelled(document: Document) -> Mapping[str, str]:
    return {}


@dataclass(frozen=True)
class Holds:
    """What a format can hold."""

    features: frozenset[Feature]
    precision: Precision = "milliseconds"
    frame_rate: Callable[[FrameRate], FrameRate] = _same_rate
    """The rate a format counts in, for a film's."""
    palette: tuple[str, ...] | None = None
    """The only colours there are, as `#RRGGBB`; None for any."""
    lost_characters: Callable[[Document], frozenset[str]] = _none_lost
    """Characters of a document that there is no code for."""
    spelled_characters: Callable[[Document], Mapping[str, str]] = _none_spelled
    """Characters of a document that there is no code for, and how they are written with others."""
    fitted: Callable[[Sequence[Caption], FrameRate], Sequence[Caption]] = _as_they_are
    """Captions as they fit a format that has a grid for them, and only so much time to send them: what is left of each has its id."""
    counts_frames: bool = False
    """Whether times in a file may be in frames of a rate that it does not say."""
    styles: NamedStyles | None = None
    """What styles of captions can say, where there are some but no looks."""
    family: str = ""
    """Name that begins the keys of what this format keeps; its own, if it says none."""


class Format(Protocol):
    """A module that writes one kind of file."""

    NAME: str
    TITLE: str
    ENDINGS: tuple[str, ...]
    HOLDS: Holds

    @staticmethod
    def write(document: Document, context: Context) -> bytes:
        """The file of a document that has nothing but what the format holds."""


@runtime_checkable
class ReadableFormat(Format, Protocol):
    """A module that reads it as well."""

    @staticmethod
    def recognises(data: bytes, text: str) -> bool:
        """Whether a file that begins so is of this format.

        :param data: its first bytes
        :param text: the same as text
        """

    @staticmethod
    def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
        """:raises FormatError: when no caption can be read from it"""
