"""Tab-separated values: a row a caption."""

from dunlin.core.formats.columns import column_names, read_rows, written_rows
from dunlin.core.formats.model import Context, Document, Holds, Oddity

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "tsv", "Tab-separated table", (".tsv",)
HOLDS = Holds(frozenset({"speakers", "overlap", "lines"}), counts_frames=True)


def recognises(data: bytes, text: str) -> bool:
    return {"in", "text"} <= column_names(text.split("\n", 1)[0].split("\t")).keys()


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    return read_rows(data, context, lambda head: "\t")


def write(document: Document, context: Context) -> bytes:
    return written_rows(document, "\t")
