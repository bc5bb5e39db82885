"""The text of an event in an ASS script: its codes in braces."""

import re
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, TypeAlias

from dunlin.core.captions.bounds import one_line
from dunlin.core.captions.model import (
    Caption,
    Extras,
    Placement,
    Span,
    extra,
    joined,
    with_extra,
)
from dunlin.core.captions.placing import keypad_number, placement_at
from dunlin.core.styles.codes import colour_code, escaped, point_code, switched

__all__ = [
    "OLD_PLACES",
    "EventText",
    "Look",
    "Picture",
    "colour_of",
    "event_text",
    "read_event_text",
]

_BRACES = re.compile(r"(?<!\\)\{([^{}]*)\}")
_NAMES = ("alpha", "iclip", "clip", "fade", "move", "blur", "bord", "xbord", "ybord", "shad",
          "xshad", "yshad", "fscx", "fscy", "fsp", "frx", "fry", "frz", "fax", "fay", "pos", "org",
          "fad", "pbo", "an", "be", "fn", "fs", "fe", "fr", "kf", "ko", "kt", "1c", "2c", "3c", "4c",
          "1a", "2a", "3a", "4a", "a", "b", "c", "i", "k", "K", "p", "q", "r", "s", "t", "u")  # fmt: skip
# A code's name and its value, which may hold codes of its own in parentheses: `fnArial` is `fn` with
# the value `Arial`.
_CODE = re.compile(
    rf"\\({'|'.join(_NAMES)}|[1-4]?[a-zA-Z]+)(\([^()]*(?:\([^()]*\)[^()]*)*\)|[^\\{{}}]*)"
)
_STYLES: dict[str, Literal["italic", "bold", "underline"]] = {
    "i": "italic", "b": "bold", "u": "underline",
}  # fmt: skip
_WHOLE_CAPTION = ("move", "org", "fad", "fade", "clip", "iclip", "q")
# In the older form of the script, alignments from 5 stand at the top and from 9 in the middle.
OLD_PLACES = {1: 1, 2: 2, 3: 3, 5: 7, 6: 8, 7: 9, 9: 4, 10: 5, 11: 6}


@dataclass(frozen=True)
class Look:
    """What a style of the script says that a caption can have."""

    italic: bool = False
    bold: bool = False
    underline: bool = False
    placement: Placement | None = None
    colour: str | None = None
    """`#RRGGBB`; None for white, which captions are without a word."""

    @cached_property
    def span(self) -> Span:
        """Nothing, in this style."""
        return Span("", self.italic, self.bold, self.underline, self.colour)


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


EventText: TypeAlias = tuple[tuple[Span, ...], Placement | None, Extras]
"""An event's words with their styles, where they stand, and codes kept for the whole."""


def read_event_text(text: str, look: Look, looks: dict[str, Look], picture: Picture) -> EventText:
    """Reads an event's text; codes without a meaning here are kept with the words they change."""
    if "{" not in text:
        spans = (look.span.with_text(_unescaped(text)),) if text else ()
        return spans, look.placement, ()
    base = look.span
    state = _State(base, look.placement)
    parts: list[Span] = []
    at = 0
    for braces in _BRACES.finditer(text):
        parts.append(state.taken(_unescaped(text[at : braces.start()])))
        at = braces.end()
        for name, value in _CODE.findall(braces[1]):
            state.code(name, value, base, looks, picture)
        # Words in braces that are no code are a remark, and not shown.
        if braces[1] and "\\" not in braces[1]:
            state.extras = with_extra(state.extras, "ass:remark", braces[1])
    parts.append(state.taken(_unescaped(text[at:])))
    return joined(parts), state.placement, state.extras


class _State:
    """The style of the words to come, while codes change it."""

    def __init__(self, span: Span, placement: Placement | None) -> None:
        self.span, self.placement = span, placement
        self.extras: Extras = ()
        self.drawing = 0
        """The scale of a drawing; 0 while there is none."""

    def taken(self, text: str) -> Span:
        """The words in the style so far; a karaoke length is only that of the words right behind it."""
        if self.drawing and text:
            before = extra(self.extras, "ass:drawing")
            drawn = f"{self.drawing} {text.strip()}"
            self.extras = with_extra(
                self.extras, "ass:drawing", f"{before}\n{drawn}" if before else drawn
            )
            return self.span.with_text("")
        span = self.span.with_text(text)
        if text and span.extras:
            self.span = replace(self.span, extras=with_extra(self.span.extras, "ass:k", None))
        return span

    def code(
        self, name: str, value: str, base: Span, looks: dict[str, Look], picture: Picture
    ) -> None:
        whole = value.strip()
        if name in ("i", "b", "u"):
            field = _STYLES[name]
            self.span = self.span.in_style(field, whole != "0" if whole else getattr(base, field))
        elif name in ("c", "1c"):
            self.span = replace(self.span, colour=colour_of(whole) if whole else base.colour)
        elif name == "r":
            style = looks.get(whole) if whole else None
            self.span = style.span if style else base
            if whole:
                self._keep(name, value)
        elif name in ("an", "a") and whole.isascii() and whole.isdigit() and len(whole) < 3:
            number = int(whole) if name == "an" else OLD_PLACES.get(int(whole), 2)
            if 1 <= number <= 9:
                self._place(placement_at(number))
        elif name == "pos" and (point := _point(whole)):
            x, y = round(point[0] / picture.width, 4), round(point[1] / picture.height, 4)
            self.placement = replace(self.placement or Placement(), x=x, y=y)
        elif name in ("k", "K", "kf", "ko", "kt"):
            self.span = replace(
                self.span, extras=with_extra(self.span.extras, "ass:k", f"\\{name}{value}")
            )
        elif name in _WHOLE_CAPTION:
            before = extra(self.extras, "ass:codes") or ""
            self.extras = with_extra(self.extras, "ass:codes", f"{before}\\{name}{value}")
        elif name == "p":
            self.drawing = (
                int(whole) if whole.isascii() and whole.isdigit() and len(whole) < 3 else 0
            )
        else:
            self._keep(name, value)

    def _place(self, nine: Placement | None) -> None:
        nine = nine or Placement()
        before = self.placement or Placement()
        place = replace(before, anchor=nine.anchor, align=nine.align)
        self.placement = None if place == Placement() else place

    def _keep(self, name: str, value: str) -> None:
        before = extra(self.span.extras, "ass:codes") or ""
        kept = "".join(f"\\{n}{v}" for n, v in _CODE.findall(before) if n != name)
        self.span = replace(
            self.span, extras=with_extra(self.span.extras, "ass:codes", f"{kept}\\{name}{value}")
        )


def colour_of(value: str) -> str | None:
    """`#RRGGBB` of a colour as scripts have it, blue first; None for none."""
    match = re.fullmatch(r"&?H?([0-9a-fA-F]{1,8})&?", value)
    if match is None:
        return None
    number = match[1].rjust(6, "0")[-6:]
    return f"#{number[4:6]}{number[2:4]}{number[0:2]}".upper()


def _point(value: str) -> tuple[float, float] | None:
    match = re.fullmatch(r"\(\s*(-?[\d.]+)\s*,\s*(-?[\d.]+)\s*\)", value)
    try:
        return (float(match[1]), float(match[2])) if match else None
    except ValueError:
        return None


def _unescaped(text: str) -> str:
    if "\\" not in text:
        return text
    text = text.replace("\\N", "\n").replace("\\n", "\n").replace("\\h", "\N{NO-BREAK SPACE}")
    return text.replace("\\{", "{").replace("\\}", "}").replace("\\\N{WORD JOINER}", "\\")


def event_text(caption: Caption, look: Look, picture: Picture) -> str:
    """A caption's words with codes where they differ from their style in the script."""
    if (
        look.colour is None
        and caption.placement == look.placement and not caption.extras and len(caption.spans) == 1
        and caption.spans[0].is_plain and not (look.italic or look.bold or look.underline)
    ):  # fmt: skip
        return escaped(caption.spans[0].text)
    codes = _placing_codes(caption.placement, look.placement, picture)
    codes += _in_braces(extra(caption.extras, "ass:codes") or "")
    remark, drawn = (extra(caption.extras, f"ass:{name}") for name in ("remark", "drawing"))
    parts = [f"{{{part}}}" for part in (_in_braces(remark or ""), codes) if part]
    for drawing in (drawn or "").split("\n"):
        scale, _, strokes = _in_braces(drawing).partition(" ")
        if strokes and scale.isdecimal():
            parts.append(f"{{\\p{scale}}}{strokes}{{\\p0}}")
    base = look.span
    before = base
    for span in caption.spans:
        change = _change(before, span, base)
        parts.append(f"{{{change}}}{escaped(span.text)}" if change else escaped(span.text))
        before = span
    return "".join(parts)


def _in_braces(kept: str) -> str:
    """What a file had, so that it ends neither the braces it stands in nor the line."""
    return one_line(kept).replace("{", "").replace("}", "")


def _placing_codes(place: Placement | None, usual: Placement | None, picture: Picture) -> str:
    if place == usual:
        return ""
    place, usual = place or Placement(), usual or Placement()
    codes = ""
    if (place.anchor, place.align) != (usual.anchor, usual.align):
        codes += f"\\an{keypad_number(place)}"
    if place.x is not None or place.y is not None:
        x = (
            place.x
            if place.x is not None
            else {"left": 0.06, "center": 0.5, "right": 0.94}[place.align]
        )
        y = (
            place.y
            if place.y is not None
            else {"top": 0.055, "middle": 0.5, "bottom": 0.945}[place.anchor]
        )
        codes += point_code("pos", x * picture.width, y * picture.height, ".6g")
    return codes


def _change(before: Span, span: Span, base: Span) -> str:
    """Codes that lead from the style of the words before to that of a span."""
    codes = ""
    kept = _in_braces(extra(span.extras, "ass:codes") or "") if span.extras else ""
    kept_before = _in_braces(extra(before.extras, "ass:codes") or "") if before.extras else ""
    if kept != kept_before and kept_before:
        # Codes that are kept cannot be taken back one by one.
        codes, before = "\\r", base
        kept_before = ""
    if kept != kept_before:
        codes += kept
    for code, field in (("i", "italic"), ("b", "bold"), ("u", "underline")):
        if getattr(span, field) != getattr(before, field):
            codes += switched(code, getattr(span, field))
    if span.colour != before.colour:
        # Without a value it is the style's own colour.
        colour = span.colour or (base.colour and "#FFFFFF")
        codes += f"\\c{colour_code(colour)}" if colour and colour != base.colour else "\\c"
    if span.extras and (karaoke := extra(span.extras, "ass:k")):
        codes += _in_braces(karaoke)
    return codes
