"""Names of files by a pattern, fit for every common file system."""

import re
import unicodedata
from collections.abc import Iterable, Mapping

__all__ = ["fit_name", "name_by_pattern", "told_apart"]

_GREATEST_BYTES = 255
"""Of a name in UTF-8, on Linux and macOS; Windows counts as many units of UTF-16, which are never more."""

# What no common file system has in a name.
_UNFIT = re.compile(r'[\x00-\x1f\x7f/\\:*?"<>|]')
# Devices, whatever stands behind a point (Microsoft, "Naming Files, Paths, and Namespaces").
_RESERVED = re.compile(r"(?i)(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(?:\..*)?")
_FIELD = re.compile(r"([._ -]?)\{(\w+)\}")


def name_by_pattern(pattern: str, values: Mapping[str, str], ending: str) -> str:
    """A name by a pattern such as `{title}_{language}_v{version}`. An empty field takes the sign before it along; one that
    is unknown stays as it is written.

    :param ending: of the file, with its dot
    """

    def put(found: re.Match[str]) -> str:
        sign, name = found.groups()
        if name not in values:
            return found[0]
        return f"{sign}{values[name]}" if values[name] else ""

    return fit_name(_FIELD.sub(put, pattern).lstrip("._- "), ending)


def fit_name(text: str, ending: str) -> str:
    """A text as the name of a file, with an ending; never a path, and short enough."""
    name = _UNFIT.sub("_", unicodedata.normalize("NFC", text)).strip(" .") or "_"
    if _RESERVED.fullmatch(name):
        name = f"_{name}"
    return _shortened(name, _GREATEST_BYTES - len(ending.encode())).rstrip(" .") + ending


def _shortened(name: str, most: int) -> str:
    """The beginning of a name, in so many bytes of UTF-8 and in whole characters."""
    encoded = name.encode()
    return name if len(encoded) <= most else encoded[:most].decode(errors="ignore")


def told_apart(names: Iterable[str]) -> list[str]:
    """Names of which those that some file system takes for the same as one before have a number: `a.srt`, `a-2.srt`."""
    taken: set[str] = set()
    apart = []
    for name in names:
        stem, dot, ending = name.rpartition(".")
        number, unlike = 1, name
        while unlike.casefold() in taken:
            number += 1
            unlike = fit_name(_shortened(stem, 240 - len(ending)) + f"-{number}", dot + ending)
        taken.add(unlike.casefold())
        apart.append(unlike)
    return apart
