"""Comma-separated values (RFC 4180): a row a caption."""

from dunlin.core.formats.columns import column_names, read_rows, written_rows
from dunlin.core.formats.model import Context, Document, Holds, Oddity

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "csv", "CSV table", (".csv",)
HOLDS = Holds(frozenset({"speakers", "overlap", "lines"}), counts_frames=True)


def _delimiter(head: str) -> str:
    """A comma, or a semicolon where the comma is the decimal mark."""
    return max(",;", key=head.count)


def recognises(data: bytes, text: str) -> bool:
    head = text.split("\n", 1)[0]
    return {"in", "text"} <= column_names(head.replace('"', "").split(_delimiter(head))).keys()


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    return read_rows(data, context, _delimiter)


def write(document: Document, context: Context) -> bytes:
    return written_rows(document, ",")
