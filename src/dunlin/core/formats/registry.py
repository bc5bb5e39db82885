"""Which module reads and writes which file."""

from pathlib import PurePath
from typing import cast

from dunlin.core.formats import json, srt, webvtt
from dunlin.core.formats.model import Format, FormatError

__all__ = ["FORMATS", "format_called", "format_of_ending"]

FORMATS: dict[str, Format] = {module.NAME: cast(Format, module) for module in (srt, webvtt, json)}


def format_called(name: str) -> Format:
    """The format of a name such as `srt`. :raises FormatError: when there is none"""
    if name not in FORMATS:
        raise FormatError(f"there is no format called {name!r}; there are {', '.join(FORMATS)}")
    return FORMATS[name]


def format_of_ending(path: str) -> Format:
    """The format that a file's ending tells. :raises FormatError: when it tells none"""
    ending = PurePath(path).suffix.lower()
    for module in FORMATS.values():
        if ending in module.ENDINGS:
            return module
    known = " ".join(ending for module in FORMATS.values() for ending in module.ENDINGS)
    raise FormatError(f"the ending {ending or 'is missing, it'!r} tells no format; known: {known}")
