"""EBU STL for teletext, whose levels have colours and no italics (EBU Tech 3264-E, 1991)."""

from dataclasses import replace

from dunlin.core.formats import stl
from dunlin.core.formats.model import Context, Document, Oddity
from dunlin.core.formats.stl_text import PALETTE

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "stl-teletext", "EBU STL (teletext)", (".stl",)
HOLDS = replace(
    stl.HOLDS,
    features=(stl.HOLDS.features - {"italic", "underline"}) | {"colours"},
    palette=PALETTE,
    family="stl",
)


def recognises(data: bytes, text: str) -> bool:
    return stl.is_file(data) and stl.is_teletext(data)


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Subtitles of a file. An oddity's line is the number of the text block."""
    return stl.read(data, context)


def write(document: Document, context: Context) -> bytes:
    """:raises FormatError: when a caption ends after 24 hours, which the format cannot count"""
    return stl.written_stl(document, context, teletext=True)
