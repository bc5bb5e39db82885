"""Styles as they go over the wire."""

from typing import Annotated, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from dunlin.api.wire import View
from dunlin.core.captions import Look
from dunlin.core.captions.look import StyleName

__all__ = [
    "DefaultRequest",
    "KeepRequest",
    "KeptStyleView",
    "OutlineView",
    "SpeakerStyleRequest",
    "SpecimensView",
    "StyleRename",
    "StyleRequest",
    "StyleView",
    "StylesView",
]


Gesture: TypeAlias = Annotated[str, Field(min_length=1, max_length=64)] | None
"""What edits in a row have in common that are undone together."""


class OutlineView(View):
    """An outline in parts of the box around it, and the width of that as a part of its height."""

    path: str
    ratio: float


class StyleView(View):
    """A style of a project."""

    name: str
    look: Look
    """What it says; all else is as in the style that ships."""
    captions: dict[str, int]
    """How many captions name it, by the tracks' ids."""
    speakers: list[str]
    """Whose captions are set in it."""
    kept: bool
    """Whether one of its name is kept for all projects."""
    is_older: bool
    """Whether the one that is kept looks otherwise by now."""


class StylesView(View):
    """The styles of a project in their order, at a revision of it."""

    revision: int
    styles: list[StyleView]


class StyleRequest(BaseModel):
    """A style as it shall be, made of the project as it was at a revision."""

    model_config = ConfigDict(extra="forbid")

    look: Look
    base_revision: Annotated[int, Field(ge=0)] | None = None
    gesture: Gesture = None


class StyleRename(BaseModel):
    model_config = ConfigDict(extra="forbid")

    name: StyleName


class SpeakerStyleRequest(BaseModel):
    """The style that all of a speaker's words are set in; null for none of its own."""

    model_config = ConfigDict(extra="forbid")

    speaker: Annotated[str, Field(min_length=1, max_length=200)]
    style: str | None
    gesture: Gesture = None


class SpecimensView(View):
    """Styles drawn side by side: their names in the order of their cells, and the script that draws them at any time
    of its first hour."""

    names: list[str]
    script: str


class DefaultRequest(BaseModel):
    """The style of captions that name none; null for the one that ships."""

    model_config = ConfigDict(extra="forbid")

    style: str | None
    gesture: Gesture = None


class KeepRequest(BaseModel):
    model_config = ConfigDict(extra="forbid")

    look: Look
    default: bool | None = None
    """Whether new projects begin with it; null leaves that as it is."""


class KeptStyleView(View):
    """A style that is kept for all projects."""

    name: str
    look: Look
    default: bool
