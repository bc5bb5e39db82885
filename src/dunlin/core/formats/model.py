"""What every format reads into and writes from."""

from dataclasses import dataclass, field
from typing import Protocol

from dunlin.core.captions.model import Caption
from dunlin.core.timecode import FrameRate

__all__ = ["Context", "Document", "Format", "FormatError", "Loss", "Oddity"]


class FormatError(ValueError):
    """Nothing can be read; `line` counts from 1, or is None where there are no lines."""

    def __init__(self, message: str, line: int | None = None) -> None:
        super().__init__(message)
        self.line = line


@dataclass(frozen=True)
class Document:
    """Captions as a file holds them, in its order."""

    captions: tuple[Caption, ...]
    language: str | None = None


@dataclass(frozen=True)
class Oddity:
    """Something unusual in a file: where, what, and what was done about it."""

    line: int
    message: str


@dataclass(frozen=True)
class Loss:
    """What a format cannot hold, and the ids of the captions that have it."""

    what: str
    captions: tuple[str, ...]


@dataclass(frozen=True)
class Context:
    """What a file itself may not say."""

    rate: FrameRate = field(default_factory=lambda: FrameRate(25))


class Format(Protocol):
    """A module that reads and writes one kind of file."""

    NAME: str
    TITLE: str
    ENDINGS: tuple[str, ...]

    @staticmethod
    def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
        """:raises FormatError: when no caption can be read from it"""

    @staticmethod
    def write(document: Document, context: Context) -> bytes: ...

    @staticmethod
    def losses(document: Document) -> list[Loss]: ...
