"""Caption files: a module a format, and the registry that finds the right one."""

from dunlin.core.formats.model import (
    Context,
    Document,
    Format,
    FormatError,
    Loss,
    Oddity,
)
from dunlin.core.formats.registry import FORMATS, format_called, format_of_ending

__all__ = [
    "FORMATS",
    "Context",
    "Document",
    "Format",
    "FormatError",
    "Loss",
    "Oddity",
    "format_called",
    "format_of_ending",
]
