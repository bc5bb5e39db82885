"""Font files that a user adds: what faces there are in one, written anew with nothing but what draws letters."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from io import BytesIO
from typing import Any

import uharfbuzz
from fontTools.ttLib import TTCollection, TTFont, TTLibError

from dunlin.core.messages import BadInput, message

__all__ = ["MOST_BYTES", "Face", "faces_of_file"]

MOST_BYTES = 48 * 2**20
"""The largest fonts for Chinese and Japanese have half of it."""

_MOST_FACES = 64
# OpenType 1.9.1, "Required Tables" and those that lay out: none that is a program of another kind, a picture or a signature.
_KEPT = {
    "head", "hhea", "maxp", "OS/2", "hmtx", "cmap", "name", "post", "loca", "glyf", "cvt ", "fpgm", "prep", "gasp", "CFF ",
    "CFF2", "VORG", "GDEF", "GSUB", "GPOS", "BASE", "kern", "vhea", "vmtx",
}  # fmt: skip
_VARIES = {"fvar", "avar", "gvar", "cvar", "HVAR", "VVAR", "MVAR", "STAT"}
_BEGINNINGS = (b"\0\1\0\0", b"true", b"OTTO", b"ttcf", b"wOFF", b"wOF2")
_OF_LICENCE = (0, 7, 13, 14)
"""Names that go on: copyright, trademark, licence and where it is told (OpenType 1.9.1, "name")."""
_WEIGHTS = {100: "Thin", 200: "ExtraLight", 300: "Light", 400: "Regular", 500: "Medium", 600: "SemiBold", 700: "Bold", 800: "ExtraBold", 900: "Black"}  # fmt: skip
# What a script and a style's name are parted by, and what is not seen.
_NOT_IN_NAMES = re.compile(r"[,\\{}@\x00-\x1f]+")


@dataclass(frozen=True)
class Face:
    """One face of a family, as a file of its own."""

    family: str
    weight: int
    """As CSS counts, in hundreds."""
    italic: bool
    data: bytes
    suffix: str
    """`.ttf` or `.otf`."""

    @property
    def name(self) -> str:
        """What it is among those of its family."""
        return f"{self.weight} italic" if self.italic else str(self.weight)


def faces_of_file(data: bytes) -> tuple[Face, ...]:
    """The faces of a font file: TrueType, OpenType, a collection of these, or packed for the web.

    Each is read by fontTools from end to end and written anew, under the family's typographic name, so that a script finds it
    by that. One that varies is taken in its regular and its bold weight.

    :raises BadInput: when it is no font, a broken one, larger than `MOST_BYTES`, or has no letters
    """
    if len(data) > MOST_BYTES:
        raise BadInput(message("fonts.too-large", megabytes=MOST_BYTES // 2**20))
    if not data.startswith(_BEGINNINGS):
        raise BadInput(message("fonts.not-a-font"))
    try:
        return tuple(_faces(data))
    except BadInput:
        raise
    except Exception as broken:
        # fontTools tells what is broken by errors of all kinds, whatever it stumbles over first.
        raise BadInput(message("fonts.broken", reason=_one_line(broken))) from None


def _one_line(error: Exception) -> str:
    return (str(error).splitlines() or [type(error).__name__])[0][:120]


def _faces(data: bytes) -> Iterator[Face]:
    if not data.startswith(b"ttcf"):
        yield from _of_font(data)
        return
    count = len(TTCollection(BytesIO(data), lazy=True).fonts)
    if count > _MOST_FACES:
        raise TTLibError(f"{count} faces in one file")
    for number in range(count):
        yield from _of_font(data, number)


def _of_font(data: bytes, number: int = -1) -> Iterator[Face]:
    # A start that is given no file does not wait for it.
    from fontTools.varLib import instancer

    font = _read(data, number)
    if "fvar" not in font:
        yield _face(font, _weight_of(font))
        return
    axes = {axis.axisTag: axis for axis in font["fvar"].axes}
    thick = axes.get("wght")
    weights = [w for w in (400, 700) if thick and thick.minValue <= w <= thick.maxValue]
    for weight in weights or [0]:
        varying = _read(data, number)
        at = {tag: axis.defaultValue for tag, axis in axes.items()}
        if weight:
            at["wght"] = weight
        still = instancer.instantiateVariableFont(varying, at, inplace=True)
        yield _face(still, weight or _weight_of(still))


def _read(data: bytes, number: int) -> TTFont:
    font = TTFont(BytesIO(data), fontNumber=number, ignoreDecompileErrors=False)
    for tag in list(font.reader.keys()):
        if tag not in _KEPT | _VARIES:
            del font[tag]
    return font


def _weight_of(font: TTFont) -> int:
    weight = int(font["OS/2"].usWeightClass)
    # Some old ones count from 1 to 9.
    weight *= 100 if 0 < weight < 10 else 1
    return min(max(round(weight / 100), 1), 9) * 100


def _face(font: TTFont, weight: int) -> Face:
    for tag in list(font.keys()):
        if tag in _VARIES:
            del font[tag]
    font.ensureDecompiled(recurse=True)
    outlines = {"glyf", "CFF ", "CFF2"} & set(font.keys())
    if not outlines or not font.getBestCmap() or font["OS/2"].usWinAscent <= 0:
        raise BadInput(message("fonts.no-letters"))
    italic = bool(font["OS/2"].fsSelection & 1 or font["head"].macStyle & 2)
    family = _family_of(font)
    _name(font, family, weight, italic=italic)
    font.flavor = None
    written = BytesIO()
    font.save(written)
    face = written.getvalue()
    if not uharfbuzz.Face(face).unicodes:
        raise BadInput(message("fonts.no-letters"))
    return Face(family, weight, italic, face, ".ttf" if "glyf" in outlines else ".otf")


def _family_of(font: TTFont) -> str:
    """Its typographic family, or else the one of four faces (OpenType 1.9.1, "name", 16 and 1)."""
    told = font["name"].getDebugName(16) or font["name"].getDebugName(1) or ""
    family = " ".join(_NOT_IN_NAMES.sub(" ", told).split())[:100].strip()
    if not family:
        raise BadInput(message("fonts.no-name"))
    return family


def _name(font: TTFont, family: str, weight: int, *, italic: bool) -> None:
    """Has a face say of itself what it is to be found by: the renderer knows no families of more than four faces."""
    style = " ".join([*([_WEIGHTS[weight]] if weight != 400 or not italic else []), *["Italic"] * italic])  # fmt: skip
    names: Any = font["name"]
    kept = [(n, told) for n in _OF_LICENCE if (told := names.getDebugName(n))]
    names.names = []
    postscript = re.sub(r"[^A-Za-z0-9]", "", family)[:40] or "Font"
    for number, told in (
        *kept, (1, family), (2, style), (4, f"{family} {style}"), (6, f"{postscript}-{style.replace(' ', '')}"),
    ):  # fmt: skip
        names.setName(told, number, 3, 1, 0x409)
    bold = weight >= 600
    font["OS/2"].usWeightClass = weight
    font["head"].macStyle = bold | italic << 1
    # OpenType 1.9.1, "OS/2", fsSelection: italic, bold and regular.
    others = font["OS/2"].fsSelection & ~0b1100001
    plain = (not bold and not italic) << 6
    font["OS/2"].fsSelection = others | italic | bold << 5 | plain
