"""What a time, a colour, a place and a text can be. All that comes in is held to it, at every door."""

import re
from typing import Annotated, TypeAlias

from pydantic import AfterValidator, Field

__all__ = [
    "FARTHEST",
    "MOST_CHARACTERS",
    "MOST_MS",
    "MOST_PATH_CHARACTERS",
    "Colour",
    "Milliseconds",
    "PathData",
    "PictureShare",
    "Text",
    "is_colour",
    "one_line",
    "without_controls",
]

MOST_MS = 360_000_000
"""A hundred hours: no film, and no slip of the hand, is longer."""

FARTHEST = 10.0
"""How many pictures' widths or heights away from the picture something may stand."""

MOST_CHARACTERS = 20_000
"""Of one text. An hour of talk has some fifty thousand: a caption of more than these was not meant to be
one, and would hold up everything that looks at it."""

_COLOUR = "#[0-9A-Fa-f]{6}"
# What has no place in a text: control characters, but for tab and newline, and halves of surrogate
# pairs, which no encoding of Unicode has a place for (Unicode 16, 23.1 and 3.9, D75).
_CONTROLS = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x84\x86-\x9f\ud800-\udfff]")
# All that Python and any reader of a file may take for the end of a line (Unicode 16, 5.8).
_LINE_ENDS = re.compile("[\r\n\x0b\x0c\x1c-\x1e\x85\u2028\u2029]+")


def without_controls(text: str) -> str:
    """A text with newlines alone for line ends, and without control characters and lone surrogates."""
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    # Nearly all text is clean, and looking is three times as fast as replacing nothing.
    return _CONTROLS.sub("", text) if _CONTROLS.search(text) else text


def one_line(text: str) -> str:
    """A text that cannot begin another line of a file."""
    return _LINE_ENDS.sub(" ", text)


def is_colour(text: str) -> bool:
    """Whether it is a colour as `#RRGGBB`."""
    return re.fullmatch(_COLOUR, text) is not None


Milliseconds: TypeAlias = Annotated[int, Field(ge=0, le=MOST_MS)]
"""A time of a film, or a length."""

MOST_PATH_CHARACTERS = 20_000
"""Of the path data of one outline."""

_NUMBER = r"-?(?:[0-9]{1,2}(?:\.[0-9]{1,6})?|\.[0-9]{1,6})"
_POINT = rf" ?{_NUMBER}[ ,]{_NUMBER}"
_MOVE = f"M{_POINT}"
PathData: TypeAlias = Annotated[
    str,
    Field(
        max_length=MOST_PATH_CHARACTERS,
        pattern=rf"^{_MOVE}(?: ?L{_POINT}| ?Q{_POINT}{_POINT}| ?C{_POINT}{_POINT}{_POINT}|(?: ?Z)? ?{_MOVE})*(?: ?Z)? ?$",
    ),
]
"""An outline as SVG's path data, of absolute moves, lines and curves, each with its letter (SVG 2, 9.3.9)."""

Colour: TypeAlias = Annotated[str, Field(pattern=f"^{_COLOUR}$")]
"""`#RRGGBB`."""

PictureShare: TypeAlias = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
"""A part of the picture's width or height; what stands outside of it is below 0 or above 1."""

Text: TypeAlias = Annotated[
    str, Field(max_length=MOST_CHARACTERS), AfterValidator(without_controls)
]
"""Words with newlines for line breaks."""
