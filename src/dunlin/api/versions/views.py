"""Versions of a track as they go over the wire."""

from typing import Annotated

from pydantic import Field

from dunlin.api.tracks.views import GestureRequest
from dunlin.api.wire import View
from dunlin.core.versions.model import Apart, Version

__all__ = ["ApartRequest", "SizeView", "VersionRequest", "VersionView", "VersionsView"]


class SizeView(View):
    """Width and height in pixels."""

    width: int
    height: int


class VersionView(View):
    """A version of a track, with what a page needs to show it."""

    id: str
    version: Version
    picture: SizeView
    """What its captions are laid out on."""
    window: SizeView
    """The part of the film that its window keeps."""
    colours: list[list[float]]
    """What is done to red, green and blue, from 0 to 1, and what is added."""
    script_head: str
    apart: dict[str, Apart]
    """What differs, by the captions' ids."""
    apart_revision: int
    """The project's, when that was last changed."""


class VersionsView(View):
    """The versions of a track, with all that differs in them."""

    revision: int
    """The project's, when they were read."""
    versions: list[VersionView]


class VersionRequest(GestureRequest):
    """Makes a version this one, or a new one."""

    version: Version


class ApartRequest(GestureRequest):
    """Says what differs in a version about captions; null has one as it is in the track."""

    apart: Annotated[dict[str, Apart | None], Field(max_length=10_000)]
