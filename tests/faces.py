"""Fonts of made-up families, as small files of every kind that is taken in."""

from functools import cache
from io import BytesIO
from pathlib import Path

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTCollection, TTFont
from fontTools.ttLib.tables.TupleVariation import TupleVariation

__all__ = ["FAMILY", "collection", "cut", "varying", "wide"]

FAMILY = "Kvillen Board"
_NOTO = Path(__file__).parents[1] / "src/dunlin/fonts"


@cache
def cut(
    family: str = FAMILY,
    face: str = "Regular",
    *,
    letters: str = "ABCDEFGHIJKLMNOPQRSTUVWXYZ abcdefghijklmnopqrstuvwxyz.",
    flavour: str | None = None,
) -> bytes:
    """A part of one of the fonts that ship, under another name. `flavour` is `woff` or `woff2` of one for the web."""
    font = TTFont(_NOTO / f"NotoSans-{face}.ttf")
    # Rules of layout take most of the time to read, and none of them is needed.
    for table in ("GSUB", "GPOS", "GDEF"):
        del font[table]
    subsetter = Subsetter(Options(name_IDs=["*"]))
    subsetter.populate(text=letters)
    subsetter.subset(font)
    for name in (16, 17, 21, 22):
        font["name"].removeNames(name)
    for name, told in ((1, family), (4, f"{family} {face}"), (6, family.replace(" ", "") + face)):
        font["name"].setName(told, name, 3, 1, 0x409)
    font.flavor = flavour
    return _bytes(font)


def collection(*fonts: bytes) -> bytes:
    """Several fonts in one file."""
    together = TTCollection()
    together.fonts = [TTFont(BytesIO(font)) for font in fonts]
    output = BytesIO()
    together.save(output)
    return output.getvalue()


def wide(family: str = FAMILY) -> bytes:
    """A font of PostScript's outlines, whose letters are squares that are as wide as they are high."""
    builder = _builder(is_ttf=False)
    builder.setupCFF(family.replace(" ", ""), {"FullName": family}, _squares(T2CharStringPen), {})
    return _finished(builder, family)


def varying(family: str = FAMILY) -> bytes:
    """A font whose squares grow from 500 units in weight 400 to 800 in 700."""
    builder = _builder(is_ttf=True)
    builder.setupGlyf(_squares(TTGlyphPen))
    built = TTFont(BytesIO(_finished(builder, family)))
    again = FontBuilder(font=built)
    again.setupFvar([("wght", 400, 400, 700, "Weight")], [])
    grown = [(0, 0), (0, 0), (300, 0), (300, 0), (0, 0), (300, 0), (0, 0), (0, 0)]
    again.setupGvar({letter: [TupleVariation({"wght": (0, 1, 1)}, grown)] for letter in ("A", "B")})
    return _bytes(built)


_SIDE = 1000


def _builder(*, is_ttf: bool) -> FontBuilder:
    builder = FontBuilder(1000, isTTF=is_ttf)
    builder.setupGlyphOrder([".notdef", "space", "A", "B"])
    builder.setupCharacterMap({32: "space", 65: "A", 66: "B"})
    return builder


def _squares(pen_of: type) -> dict:
    glyphs = {}
    for name in (".notdef", "space", "A", "B"):
        pen = pen_of(None) if pen_of is TTGlyphPen else pen_of(_SIDE, None)
        if name in "AB":
            side = 500 if pen_of is TTGlyphPen else _SIDE
            pen.moveTo((0, 0))
            for point in ((0, 500), (side, 500), (side, 0)):
                pen.lineTo(point)
            pen.closePath()
        glyphs[name] = pen.glyph() if pen_of is TTGlyphPen else pen.getCharString()
    return glyphs


def _finished(builder: FontBuilder, family: str) -> bytes:
    width = 500 if builder.isTTF else _SIDE
    builder.setupHorizontalMetrics(dict.fromkeys((".notdef", "space", "A", "B"), (width, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": family, "styleName": "Regular"})
    builder.setupOS2(usWinAscent=800, usWinDescent=200, sTypoAscender=800, sTypoDescender=-200)
    builder.setupPost()
    builder.addOpenTypeFeatures("feature kern { pos A A -50; } kern;")
    return _bytes(builder.font)


def _bytes(font: TTFont) -> bytes:
    output = BytesIO()
    font.save(output)
    return output.getvalue()
