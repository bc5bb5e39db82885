"""Everything that reads files, for those who break them; and files to begin with."""

from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from dunlin.core.formats import READABLE, Context, FormatError, read_file
from dunlin.core.messages import Told
from dunlin.core.scripts import text_of_document
from dunlin.core.speech.transcript_files import words_of_html
from dunlin.core.timecode import FrameRate

__all__ = ["CORPUS", "KINDS", "read", "seeds"]

CORPUS = Path(__file__).parent / "corpus"
"""Files with the features of every kind, and those that once did harm."""

_CONTEXT = Context(FrameRate(25))


def _captions(name: str) -> Callable[[bytes], object]:
    ending = READABLE[name].ENDINGS[0]
    return lambda data: read_file(data, f"x{ending}", _CONTEXT, name)


KINDS: tuple[tuple[str, Callable[[bytes], object]], ...] = (
    *((name, _captions(name)) for name in sorted(READABLE)),
    ("script", lambda data: text_of_document(data, "x.docx")),
    ("rtf", lambda data: text_of_document(data, "x.rtf")),
    ("transcript", words_of_html),
)
"""Kinds of files and what reads them."""


def seeds() -> dict[str, list[bytes]]:
    """The files of the corpus by their kind, which is the folder they are in."""
    return {
        name: [path.read_bytes() for path in sorted((CORPUS / name).glob("*"))] for name, _ in KINDS
    }


def read(kind: int, data: bytes) -> None:
    """Reads a file as a kind. :raises Exception: what no reader should raise"""
    with suppress(FormatError, Told):
        KINDS[kind % len(KINDS)][1](data)
