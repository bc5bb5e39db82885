"""OpenTimelineIO: captions as clips on the timeline of an editing program."""

from typing import get_args

from dunlin.core.formats.model import Context, Document, Feature, FormatError, Holds, Oddity
from dunlin.core.messages import message
from dunlin.core.timeline.model import Timeline, TimelineError, clips_in_lanes, frame_of_timecode

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "otio", "OpenTimelineIO", (".otio",)
# A caption takes all that it is along; its clip is on frames, and where nobody moves it its own times stay.
HOLDS = Holds(frozenset(get_args(Feature)), family="json")


def recognises(data: bytes, text: str) -> bool:
    return text.lstrip("\ufeff \r\n\t").startswith("{") and '"OTIO_SCHEMA"' in text


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions that are clips; where there are none, markers are read as captions."""
    # The package takes a tenth of a second to be loaded; who reads other files does not wait for it.
    from dunlin.core.timeline.otio import read_otio

    try:
        found = read_otio(data)
    except TimelineError as error:
        raise FormatError(error.message) from None
    if not (found.captions or found.is_ours):
        raise FormatError(message("timeline.no-captions"))
    oddities = [Oddity(1, message("timeline.from-markers"))] if found.from_markers else []
    # Of those that begin together, each is in a later lane than the one before.
    captions = tuple(sorted(found.captions, key=lambda caption: caption.in_ms))
    styles = dict(found.styles)
    return Document(
        captions, found.language, (), styles, found.style, dict(found.speakers)
    ), oddities


def write(document: Document, context: Context) -> bytes:
    from dunlin.core.timeline.otio import written_otio

    return written_otio(timeline_of_document(document, context))


def timeline_of_document(document: Document, context: Context) -> Timeline:
    """The captions of a document on a timeline, without the film."""
    start, drop = frame_of_timecode(context.starts_at, context.rate)
    language = document.language or ""
    lanes = clips_in_lanes(document.captions, context.rate, language or "Captions", language)
    title = context.title or "Captions"
    return Timeline(
        title, context.rate, start, drop, None, lanes, (), document.styles, document.style, document.speakers
    )  # fmt: skip
