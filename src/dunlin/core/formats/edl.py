"""Edit decision lists: an event a caption, whose words are comments."""

import re

from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.formats.otio import timeline_of_document
from dunlin.core.messages import message
from dunlin.core.timeline.edl import read_edl, written_edl
from dunlin.core.timeline.model import TimelineError

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "edl", "EDL (CMX 3600)", (".edl",)
HOLDS = Holds(frozenset({"overlap", "lines"}), precision="frames", counts_frames=True)

_BEGINS = re.compile(r"(?m)^(?:TITLE:|FCM:)")
_EVENT = re.compile(r"(?m)^\s*\d{1,6}\s+\S+\s+\S+\s+[CDWK]\S*\s+.*\d\d:\d\d:\d\d[:;]\d\d")


def recognises(data: bytes, text: str) -> bool:
    begins = {found[0] for found in _BEGINS.finditer(text[:2000])}
    return len(begins) == 2 or bool(begins and _EVENT.search(text))


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Events that say something, or stand above the film; times are counted from the film's event, or from the hour."""
    text, oddities = decoded(data, context)
    try:
        edits = read_edl(text, context.rate)
    except TimelineError as error:
        raise FormatError(error.message, 1) from None
    if edits.cuts_ms and not edits.captions:
        raise FormatError(message("timeline.no-captions"), 1)
    if edits.starts_at.replace(";", ":") != Context().starts_at:
        oddities.append(Oddity(1, message("oddities.programme-start", time=edits.starts_at)))
    captions = tuple(sorted(edits.captions, key=lambda caption: caption.in_ms))
    return Document(captions), oddities


def write(document: Document, context: Context) -> bytes:
    return written_edl(timeline_of_document(document, context))
