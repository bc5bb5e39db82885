"""What styles of timed text say of letters: their family, size, line height, outline and shadow (TTML 2, 10.2)."""

import re
from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import lru_cache

from dunlin.core.captions.look import Look, said_by
from dunlin.core.formats.named_styles import NamedStyles, em_of, line_of, size_of
from dunlin.core.formats.shades import WIDEST, colour_with, parted_colour, shade_at, with_shade
from dunlin.core.styles.model import STYLES
from dunlin.core.styles.shelf import kept_by_fonts

__all__ = ["STYLES_OF_EBU_TT_D", "STYLES_OF_IMSC", "attributes_of_look", "look_of_attributes"]

# A cell is a fifteenth of the picture's height, and a letter as high as one (`ttp:cellResolution="32 15"`).
_EM = 1 / 15
# IMSC 1.1, 8.4.8: no outline is wider than a tenth of the letters' size.
_WIDEST_OUTLINE = 10
_HOUSE = STYLES["house"]
_PERCENT = re.compile(r"(-?\d{1,6}(?:\.\d{1,6})?)%")
_GENERIC = {
    "default", "monospace", "monospaceSansSerif", "monospaceSerif", "proportionalSansSerif", "proportionalSerif",
    "sansSerif", "serif",
}  # fmt: skip
_FAMILY = re.compile(r"""(["']?)([^"',\\{}\x00-\x1f]{1,100})\1""")


def attributes_of_look(look: Look, *, with_edges: bool) -> dict[str, str]:
    """Style attributes by their names without prefix.

    :param with_edges: whether the profile has outlines and shadows
    """
    em = em_of(look, _EM)
    found = {}
    if look.font and _is_family(look.font):
        found["fontFamily"] = f'"{look.font}"'
    if look.size:
        found["fontSize"] = _percent(em / _EM)
    if look.line_spacing:
        found["lineHeight"] = _percent(look.line_spacing * line_of(look))
    if with_edges and look.outline:
        colour = colour_with(look.outline_colour or _HOUSE.outline_colour, look.outline_opacity)
        width = min(look.outline / em, _WIDEST_OUTLINE / 100)
        found["textOutline"] = f"{colour} {_percent(width)}"
    if with_edges and look.shadow:
        right, down, softness, colour = shade_at(look)
        lengths = [right, down, *([softness] if softness else [])]
        found["textShadow"] = " ".join([*(_percent(length / em) for length in lengths), colour])
    return found


def _percent(part: float) -> str:
    return f"{round(part * 100, 2) or 0:g}%"


def look_of_attributes(attributes: Mapping[str, str]) -> tuple[Look, set[str]]:
    """What style attributes say of a look, and the names of those that are told by it."""
    look, told = Look(), set()
    for name, read in _READ.items():
        if name in attributes and (found := read(look, " ".join(attributes[name].split()))):
            look = found
            told.add(name)
    # What all letters are that say nothing.
    if told == {"fontSize"} and _part(attributes["fontSize"]) == 1:
        return Look(), set()
    return look, told


def _read_family(look: Look, value: str) -> Look | None:
    found = _FAMILY.fullmatch(value)
    family = found[2].strip() if found else ""
    return replace(look, font=family) if _is_family(family) else None


def _is_family(name: str) -> bool:
    """Whether a name can stand in quotes, and is no kind of fonts."""
    is_said = _FAMILY.fullmatch(name) is not None and name == name.strip()
    return is_said and name not in _GENERIC


def _read_size(look: Look, value: str) -> Look | None:
    part = _part(value)
    size = size_of(part * _EM, look) if part is not None else 0
    return replace(look, size=size) if 0 < size <= 2 else None


def _read_height(look: Look, value: str) -> Look | None:
    part = _part(value)
    spacing = round(part / line_of(look), 4) if part is not None else 0
    return replace(look, line_spacing=spacing) if 0.1 <= spacing <= 5 else None


def _read_outline(look: Look, value: str) -> Look | None:
    colour, _, width = value.rpartition(" ")
    parted, part = parted_colour(colour), _part(width)
    if parted is None or part is None or not 0 < part * em_of(look, _EM) <= WIDEST:
        return None
    return replace(
        look,
        outline=round(part * em_of(look, _EM), 5),
        outline_colour=parted[0],
        outline_opacity=parted[1],
    )


def _read_shadow(look: Look, value: str) -> Look | None:
    *lengths, colour = value.split(" ")
    parts = [_part(length) for length in lengths]
    far = [part * em_of(look, _EM) for part in parts if part is not None]
    if parted_colour(colour) is None or len(far) != len(lengths) or len(far) not in (2, 3):
        return None
    right, down, softness = (*far, 0.0)[:3]
    if max(abs(right), abs(down)) * 1.5 > WIDEST or not 0 <= softness <= WIDEST:
        return None
    return with_shade(look, right, down, softness, colour)


def _part(value: str) -> float | None:
    found = _PERCENT.fullmatch(value)
    return float(found[1]) / 100 if found else None


# In the order in which they need each other: lengths are told in the size of the letters, that by their font.
_READ: dict[str, Callable[[Look, str], Look | None]] = {
    "fontFamily": _read_family,
    "fontSize": _read_size,
    "lineHeight": _read_height,
    "textOutline": _read_outline,
    "textShadow": _read_shadow,
}


def _kept_with(edges: bool) -> Callable[[Look], Look | None]:
    # A file has a few looks, and tens of thousands of captions in them.
    @kept_by_fonts
    @lru_cache(1024)
    def kept(look: Look) -> Look | None:
        found, _ = look_of_attributes(attributes_of_look(look, with_edges=edges))
        return found if said_by(found) else None

    return kept


STYLES_OF_IMSC = NamedStyles(_kept_with(edges=True))
STYLES_OF_EBU_TT_D = NamedStyles(_kept_with(edges=False))
