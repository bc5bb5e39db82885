"""What a version of a track is, over the track it is of."""

from dataclasses import dataclass
from typing import Annotated, Literal, TypeAlias

from pydantic import Field, StringConstraints

from dunlin.core.captions import Placement
from dunlin.core.captions.bounds import Milliseconds
from dunlin.core.captions.look import Look, StyleName

__all__ = [
    "UNCHANGED",
    "Apart",
    "Colours",
    "Grade",
    "Shape",
    "Version",
    "VersionName",
    "WindowMoment",
]

Shape: TypeAlias = Annotated[str, Field(pattern=r"^[0-9]{1,2}:[0-9]{1,2}$")]
"""How wide a picture is to how tall, as `9:16`."""

VersionName: TypeAlias = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)
]

Grade: TypeAlias = Literal["filmed", "flat-calm", "bright", "printed", "dusk"]
"""Colours that the whole picture is in: as it was filmed, paler, stronger, in greys, or bluish."""

_Part: TypeAlias = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
_Turned: TypeAlias = Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)]
_Stops: TypeAlias = Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]

MOST_MOMENTS = 500


@dataclass(frozen=True)
class WindowMoment:
    """Where the middle of the window is from a time on, in parts of the film's picture."""

    at_ms: Milliseconds
    x: _Part = 0.5
    y: _Part = 0.5
    comes: Literal["cut", "glide"] = "cut"
    """How it comes there from the moment before: at once, or on its way all the time since."""


@dataclass(frozen=True)
class Colours:
    """What is done to the colours of the whole picture."""

    exposure: _Stops = 0
    """Stops: so often twice as much light, or half."""
    contrast: _Turned = 0
    """From flat grey over as filmed to twice as much, about the middle grey of the picture."""
    warmth: _Turned = 0
    """From bluish to reddish."""
    grade: Grade = "filmed"


UNCHANGED = Colours()


@dataclass(frozen=True)
class Version:
    """A track's version: its picture, its colours, and the style its captions are in."""

    name: VersionName
    shape: Shape | None = None
    """Of its picture; None is the film's own."""
    whole: bool = False
    """Whether the whole film is seen, over a blurred ground; else a window as large as the film lets it be."""
    moments: Annotated[tuple[WindowMoment, ...], Field(max_length=MOST_MOMENTS)] = ()
    """Where the window is, in the order of time; before the first it is where that is, and without one in the middle."""
    colours: Colours = UNCHANGED
    style: StyleName | None = None
    """Of captions that name none; None is the track's."""


@dataclass(frozen=True)
class Apart:
    """What differs in a version about a caption; what is None is as it is in the track."""

    placement: Placement | None = None
    style: StyleName | None = None
    look: Look | None = None
    hidden: bool = False
    """Whether it is left out there."""
