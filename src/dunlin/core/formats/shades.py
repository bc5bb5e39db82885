"""Outlines and shadows of letters as CSS and TTML have them: lengths in the size of the letters, and colours with their
transparency."""

import math
import re
from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.styles.model import STYLES

__all__ = ["WIDEST", "colour_with", "parted_colour", "shade_at", "with_shade"]

WIDEST = 0.2
"""Part of the picture's height that an edge or a shadow of a look can be wide."""
_HOUSE = STYLES["house"]
_COLOUR = re.compile("#([0-9A-Fa-f]{6})([0-9A-Fa-f]{2})?")


def colour_with(colour: str, opacity: float | None) -> str:
    """A colour as `#RRGGBB`, or as `#RRGGBBAA` where something is seen through it."""
    part = round((1 if opacity is None else opacity) * 255)
    return colour if part == 255 else f"{colour}{part:02X}"


def parted_colour(value: str) -> tuple[str, float | None] | None:
    """The colour and its opacity, which is None where nothing is seen through it; None of what is no such colour."""
    found = _COLOUR.fullmatch(value)
    if found is None:
        return None
    opacity = round(int(found[2], 16) / 255, 3) if found[2] else 1
    return f"#{found[1].upper()}", None if opacity == 1 else opacity


def shade_at(look: Look) -> tuple[float, float, float, str]:
    """How far a look's shadow lies to the right of and below the letters and how soft it is, in parts of the picture's
    height, and its colour."""
    direction = look.shadow_direction
    angle = math.radians(_HOUSE.shadow_direction if direction is None else direction)
    far = look.shadow or 0
    colour = colour_with(look.shadow_colour or _HOUSE.shadow_colour, look.shadow_opacity)
    return far * math.cos(angle), far * math.sin(angle), look.shadow_softness or 0, colour


def with_shade(look: Look, right: float, down: float, softness: float, colour: str) -> Look:
    """A look with a shadow that lies there; the look as it is where the colour is none."""
    parted = parted_colour(colour)
    if parted is None:
        return look
    return replace(
        look,
        shadow=round(math.hypot(right, down), 4),
        shadow_direction=float(round(math.degrees(math.atan2(down, right)))),
        shadow_softness=round(softness, 4) or None,
        shadow_colour=parted[0],
        shadow_opacity=parted[1],
    )
