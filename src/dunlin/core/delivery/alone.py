"""Captions alone on a transparent film, or as pictures."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal, TypeAlias, get_args

__all__ = ["ENDINGS", "TRANSPARENT", "Transparent"]

Transparent: TypeAlias = Literal["prores", "vp9", "png"]
"""ProRes 4444, VP9 with alpha, or a picture a frame."""
TRANSPARENT: tuple[Transparent, ...] = get_args(Transparent)

ENDINGS: Mapping[Transparent, str] = MappingProxyType(
    {"prores": ".mov", "vp9": ".webm", "png": ".zip"}
)
"""Of the files that are handed over; pictures go in one archive."""
