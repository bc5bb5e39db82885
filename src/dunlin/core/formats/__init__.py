"""Caption files: a module a format, and the registry that finds the right one."""

from dunlin.core.formats.encoding import ENCODINGS
from dunlin.core.formats.fonts import missing_fonts
from dunlin.core.formats.losses import Loss, losses, reduced
from dunlin.core.formats.model import (
    Context,
    Document,
    Feature,
    Format,
    FormatError,
    Holds,
    Oddity,
    ReadableFormat,
)
from dunlin.core.formats.registry import (
    BINARY,
    FORMATS,
    GREATEST_BYTES,
    READABLE,
    Reading,
    format_called,
    format_of_content,
    format_of_ending,
    read_file,
    written,
)

__all__ = [
    "BINARY",
    "ENCODINGS",
    "FORMATS",
    "GREATEST_BYTES",
    "READABLE",
    "Context",
    "Document",
    "Feature",
    "Format",
    "FormatError",
    "Holds",
    "Loss",
    "Oddity",
    "ReadableFormat",
    "Reading",
    "format_called",
    "format_of_content",
    "format_of_ending",
    "losses",
    "missing_fonts",
    "read_file",
    "reduced",
    "written",
]
