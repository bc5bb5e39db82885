"""Which module reads and writes which file."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import PurePath
from typing import cast

from dunlin.core.formats import (
    ass,
    csv,
    ebu_tt_d,
    edl,
    html,
    imsc,
    json,
    lrc,
    otio,
    scc,
    srt,
    stl,
    stl_teletext,
    text,
    tsv,
    webvtt,
)
from dunlin.core.formats.bounding import in_bounds
from dunlin.core.formats.encoding import encoding_of, head_of
from dunlin.core.formats.losses import reduced
from dunlin.core.formats.model import (
    Context,
    Document,
    Format,
    FormatError,
    Oddity,
    ReadableFormat,
)
from dunlin.core.messages import message

__all__ = [
    "BINARY",
    "FORMATS",
    "GREATEST_BYTES",
    "READABLE",
    "Reading",
    "format_called",
    "format_of_content",
    "format_of_ending",
    "read_file",
    "written",
]

# In the order in which people look for them; a file is the first one's that recognises it, so the
# narrower kind of TTML stands before the wider.
_MODULES = (
    srt,
    webvtt,
    ass,
    ebu_tt_d,
    imsc,
    stl,
    stl_teletext,
    scc,
    lrc,
    csv,
    tsv,
    text,
    html,
    otio,
    edl,
    json,
)
FORMATS: dict[str, Format] = {module.NAME: cast(Format, module) for module in _MODULES}
READABLE: dict[str, ReadableFormat] = {
    name: module for name, module in FORMATS.items() if isinstance(module, ReadableFormat)
}
BINARY = frozenset((stl.NAME, stl_teletext.NAME))
"""Names of the formats whose files are no text."""
_HEAD_BYTES = 16_384
GREATEST_BYTES = 64 * 2**20
"""A caption is rarely longer than a few hundred bytes: this is room for some hundred thousand."""


def format_called(name: str) -> Format:
    """The format of a name such as `srt`. :raises FormatError: when there is none"""
    if name not in FORMATS:
        raise FormatError(message("formats.unknown-of", name=name, known=", ".join(FORMATS)))
    return FORMATS[name]


def format_of_ending(path: str) -> Format:
    """The format that a file's ending tells. :raises FormatError: when it tells none"""
    ending = PurePath(path).suffix.lower()
    # Two kinds of TTML share endings: each has its own first.
    own = (module for module in FORMATS.values() if module.ENDINGS[0] == ending)
    shared = (module for module in FORMATS.values() if ending in module.ENDINGS)
    if found := next(own, None) or next(shared, None):
        return found
    known = " ".join(dict.fromkeys(e for module in FORMATS.values() for e in module.ENDINGS))
    raise FormatError(
        message("formats.ending-unknown", ending=ending, known=known)
        if ending
        else message("formats.ending-missing", known=known)
    )


def format_of_content(data: bytes) -> ReadableFormat | None:
    """The format that a file's beginning tells, or None where it tells none for sure."""
    head = data[:_HEAD_BYTES]
    decoded = head_of(head)
    return next((m for m in READABLE.values() if m.recognises(head, decoded)), None)


@dataclass(frozen=True)
class Reading:
    """A file that was read: as which format, in which encoding, and everything odd about it."""

    format_name: str
    encoding: str | None
    document: Document
    oddities: list[Oddity]

    @property
    def format(self) -> ReadableFormat:
        return READABLE[self.format_name]


def read_file(data: bytes, name: str, context: Context, format_name: str | None = None) -> Reading:
    """Reads a caption file of any kind.

    :param name: what it is called; its ending tells the format where the content does not
    :param format_name: the format it is, if a person says so
    :raises FormatError: when it cannot be read
    """
    if len(data) > GREATEST_BYTES:
        raise FormatError(message("formats.too-large", megabytes=GREATEST_BYTES // 2**20))
    if not data.strip():
        raise FormatError(message("files.empty"), 1)
    module, said = _format_of(data, name, format_name)
    with _no_search_for_cycles():
        document, oddities = module.read(data, context)
        document, bounded = in_bounds(document)
    encoding = None if module.NAME in BINARY else context.encoding or encoding_of(data)
    return Reading(module.NAME, encoding, document, said + bounded + oddities)


def _format_of(
    data: bytes, name: str, format_name: str | None
) -> tuple[ReadableFormat, list[Oddity]]:
    if format_name is not None:
        module = format_called(format_name)
        if not isinstance(module, ReadableFormat):
            raise FormatError(message("formats.not-read", format=module.TITLE))
        return module, []
    by_content = format_of_content(data)
    try:
        by_ending: Format | None = format_of_ending(name)
    except FormatError:
        if by_content is None:
            raise
        by_ending = None
    if by_content is None:
        if not isinstance(by_ending, ReadableFormat):
            raise FormatError(message("formats.none"))
        return by_ending, []
    if by_ending is None or by_content.NAME == by_ending.NAME:
        return by_content, []
    # Two kinds of TTML share an ending.
    if set(by_content.ENDINGS) & set(by_ending.ENDINGS):
        return by_content, []
    return by_content, [
        Oddity(1, message("oddities.other-format", format=by_ending.TITLE, read=by_content.TITLE))
    ]


def written(document: Document, format_: Format, context: Context) -> bytes:
    """A document as a file, without what the format cannot hold."""
    with _no_search_for_cycles():
        return format_.write(reduced(document, format_, context.rate), context)


@contextmanager
def _no_search_for_cycles() -> Iterator[None]:
    """Python looks through all it holds for cycles each time there is a quarter more of it. Captions
    have none, and with thousands of them the looking takes a third of the time of reading."""
    looked = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if looked:
            gc.enable()
