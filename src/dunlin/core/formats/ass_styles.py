"""Styles of an ASS script: what a look can say of them, and looks written as such."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from math import atan2, cos, degrees, hypot, isfinite, radians, sin, sqrt
from typing import Any

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Placement
from dunlin.core.captions.placing import keypad_number, placement_at
from dunlin.core.styles.model import STYLES, Style, placement_of, styled
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.shelf import LATIN
from dunlin.core.styles.words import face_name, full_colour

__all__ = [
    "OLD_PLACES",
    "STYLE_FIELDS",
    "Picture",
    "ScriptStyle",
    "colour_of",
    "family_and_weight",
    "line_of_style",
    "number_of",
    "opacity_of",
    "read_style",
    "shadow_by",
    "shadow_of",
    "within",
]

STYLE_FIELDS = (
    "Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, "
    "Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, "
    "Alignment, MarginL, MarginR, MarginV, Encoding"
)
# In the older form of the script, alignments from 5 stand at the top and from 9 in the middle.
OLD_PLACES = {1: 1, 2: 2, 3: 3, 5: 7, 6: 8, 7: 9, 9: 4, 10: 5, 11: 6}
_HOUSE = STYLES["house"]
_BLACK = f"{LATIN} Black"
# The bounds of `Look`, for what a script says in other units: least and greatest.
_BOUNDS: dict[str, tuple[float, float]] = {
    "size": (0.001, 2), "stretch": (0.1, 5), "letter_spacing": (-0.5, 2), "outline": (0, 0.2), "shadow": (0, 0.2),
    "outline_softness": (0, 0.2), "background_padding": (0, 0.2), "margin": (0, 1), "side_margin": (0, 1), "turn": (-360, 360),
    "tilt_x": (-360, 360), "tilt_y": (-360, 360), "x": (-10, 10), "y": (-10, 10), "comes_ms": (0, 10_000), "goes_ms": (0, 10_000),
}  # fmt: skip


@dataclass(frozen=True)
class Picture:
    """The picture a script is laid out on, in its pixels; 384 by 288 when it does not say."""

    width: float = 384
    height: float = 288
    said: tuple[bool, bool] = (False, False)

    def told(self, key: str, value: str) -> "Picture":
        """With what a line of the script's head says."""
        if key not in ("playresx", "playresy"):
            return self
        try:
            size = float(value)
        except ValueError:
            return self
        if not 1 <= size <= 100_000:
            return self
        if key == "playresx":
            # A script that gives one side means a picture of four to three.
            height = self.height if self.said[1] else round(size * 3 / 4)
            return Picture(size, height, (True, self.said[1]))
        width = self.width if self.said[0] else round(size * 4 / 3)
        return Picture(width, size, (self.said[0], True))

    @cached_property
    def script(self) -> Script:
        """The same in whole pixels, as looks are laid out on."""
        return Script(max(round(self.width), 1), max(round(self.height), 1))

    @cached_property
    def base(self) -> float:
        """Pixels that sizes of looks are parts of."""
        return base_size(self.script)


@dataclass(frozen=True)
class ScriptStyle:
    """A style of a script."""

    look: Look = field(default_factory=Look)
    """What of it a look can say."""
    scales: tuple[float, float, float] = (0, 1, 1)
    """Its font size in pixels, and how much wider and higher letters are than in their font."""

    @cached_property
    def style(self) -> Style:
        """The whole of it, over what ships."""
        return styled(_HOUSE, self.look)

    @cached_property
    def placement(self) -> Placement:
        """Where it puts captions."""
        return placement_of(self.style)


def read_style(fields: Mapping[str, str], picture: Picture, *, old_form: bool) -> ScriptStyle:
    """A style by its fields, whose names are written small; what a field is not there for is left to what ships.

    Sizes are told in pixels of the script's picture. What a look has no words for, such as the secondary colour and
    different side margins, is in the script's own line, which is kept.
    """
    said: dict[str, Any] = {}

    def tell(name: str, key: str, scale: float = 1.0) -> None:
        value = number_of(fields.get(key))
        if value is not None and (kept := within(name, value * scale)) is not None:
            said[name] = kept

    base = picture.base
    if font := fields.get("fontname", "").lstrip("@"):
        said["font"], black = family_and_weight(font)
        if black:
            said["weight"] = 900
    size, wide, high = (
        number_of(fields.get(field))
        for field in ("fontsize", "scalex", "scaley")
    )  # fmt: skip
    across, down = (1.0 if part is None or part <= 0 else part / 100 for part in (wide, high))
    if size and size > 0 and (kept := within("size", size * down / base)) is not None:
        said["size"] = kept
    if "scalex" in fields and (kept := within("stretch", across / down)) is not None:
        said["stretch"] = kept
    gap = number_of(fields.get("spacing"))
    if (
        size
        and size > 0
        and gap is not None
        and (kept := within("letter_spacing", gap / size)) is not None
    ):
        said["letter_spacing"] = kept
    for name, key in (("italic", "italic"), ("underline", "underline"), ("strike", "strikeout")):
        if key in fields:
            said[name] = bool(number_of(fields[key]))
    if "bold" in fields and "weight" not in said:
        said["weight"] = 700 if number_of(fields["bold"]) else 400
    edges = (("", "primarycolour"), ("outline_", "outlinecolour"), ("shadow_", "backcolour"))
    for name, key in edges:
        if (colour := colour_of(fields.get(key, ""))) is not None:
            said[f"{name}colour"], said[f"{name}opacity"] = colour, opacity_of(fields[key])
    tell("outline", "outline", 1 / base)
    tell("shadow", "shadow", sqrt(2) / base)
    if number_of(fields.get("borderstyle")) == 3:
        _on_ground(said)
    tell("turn", "angle", -1)
    place = int(number_of(fields.get("alignment")) or 2)
    nine = placement_at(OLD_PLACES.get(place, 2) if old_form else place if 1 <= place <= 9 else 2)
    said |= {"anchor": nine.anchor, "align": nine.align} if nine else {}
    tell("margin", "marginv", 1 / picture.height)
    sides = [number_of(fields.get(key)) for key in ("marginl", "marginr")]
    if None not in sides:
        side = sum(number or 0 for number in sides) / 2 / picture.width
        said |= {"side_margin": side} if within("side_margin", side) is not None else {}
    if "anchor" not in said and "alignment" in fields:
        said |= {"anchor": "bottom", "align": "center"}
    return ScriptStyle(Look(**said), (size or 0, across, down))


def _on_ground(said: dict[str, Any]) -> None:
    """The third border style: a filled ground in the colour of the edge, as far around the lines as that is wide."""
    said["background"] = said.get("outline_colour", _HOUSE.outline_colour)
    said["background_opacity"] = said.get("outline_opacity", 1.0)
    said["background_padding"] = said.get("outline", _HOUSE.outline)
    said["outline"], said["shadow"] = 0.0, 0.0


def line_of_style(name: str, style: Style, picture: Picture) -> str:
    """A style as a line of a script: what such a line can say of a look."""
    base = picture.base
    spacing = style.letter_spacing * style.size * base
    side = round(style.side_margin * picture.width)
    values = (
        name,
        face_name(style, style.font),
        _short(style.size * base),
        full_colour(style.colour, style.opacity),
        full_colour(style.colour, style.opacity),
        full_colour(style.outline_colour, style.outline_opacity),
        full_colour(style.shadow_colour, style.shadow_opacity),
        -int(style.weight >= 600),
        -int(style.italic),
        -int(style.underline),
        -int(style.strike),
        _short(style.stretch * 100),
        100,
        _short(spacing),
        _short(-style.turn + 0),
        1,
        _short(style.outline * base),
        # The script's own shadow falls as far to the right as down.
        _short(style.shadow / sqrt(2) * base),
        keypad_number(placement_of(style)),
        side,
        side,
        round(style.margin * picture.height),
        1,
    )
    return "Style: " + ",".join(map(str, values))


def _short(value: float) -> str:
    return f"{value:.6g}"


def family_and_weight(font: str) -> tuple[str, int | None]:
    """The family that a script means by the name of a font, and the weight that the name says, if it does."""
    cleaned = re.sub(r"[\\{}\x00-\x1f]+", " ", font).strip()[:100].strip() or LATIN
    return (LATIN, 900) if cleaned == _BLACK else (cleaned, None)


def within(name: str, value: float) -> float | None:
    """A value as a look can have it; None where it cannot be so much."""
    least, most = _BOUNDS[name]
    return value if isfinite(value) and least <= value <= most else None


def number_of(value: str | None) -> float | None:
    """The number that a value begins with; None where it begins with none, or with one that is endless."""
    match = re.match(r"\s*[-+]?(?:\d{1,12}(?:\.\d{0,12})?|\.\d{1,12})", value or "")
    return float(match[0]) if match else None


def colour_of(value: str) -> str | None:
    """`#RRGGBB` of a colour as scripts have it, blue first; None for none."""
    match = re.fullmatch(r"\s*&?H?([0-9a-fA-F]{1,8})&?\s*", value)
    if match is None:
        return None
    number = match[1].rjust(6, "0")[-6:]
    return f"#{number[4:6]}{number[2:4]}{number[0:2]}".upper()


def opacity_of(value: str) -> float:
    """What of a colour is not let through, by the first two of its eight digits, or by two alone."""
    digits = re.sub(r"[^0-9a-fA-F]", "", value)
    let_through = int(digits[-8:-6] or "0", 16) if len(digits) > 2 else int(digits or "0", 16)
    return 1 - min(let_through, 255) / 255


def shadow_by(right: float, down: float, base: float) -> dict[str, float] | None:
    """What a look says of a shadow that falls so many pixels to the right and down; None of one that falls too far."""
    distance = within("shadow", hypot(right, down) / base)
    if distance is None:
        return None
    if not distance:
        return {"shadow": 0.0}
    return {"shadow": distance, "shadow_direction": degrees(atan2(down, right))}


def shadow_of(style: Style, base: float) -> tuple[float, float]:
    """How many pixels a shadow falls to the right and down."""
    direction = radians(style.shadow_direction)
    return style.shadow * base * cos(direction), style.shadow * base * sin(direction)
