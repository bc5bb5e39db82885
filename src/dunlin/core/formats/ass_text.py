"""The text of an event in an ASS script: its codes in braces."""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any

from dunlin.core.captions.bounds import MOST_PATH_CHARACTERS, one_line
from dunlin.core.captions.look import Look, Moment, said_by
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
from dunlin.core.formats.ass_styles import (
    OLD_PLACES,
    Picture,
    ScriptStyle,
    colour_of,
    family_and_weight,
    number_of,
    opacity_of,
    shadow_by,
    shadow_of,
    within,
)
from dunlin.core.styles.codes import alpha_code, colour_code, escaped, switched
from dunlin.core.styles.model import Style, bolder, look_of_caption, style_of_words, styled
from dunlin.core.styles.paths import drawn_path, outline_of_drawing
from dunlin.core.styles.shelf import LATIN
from dunlin.core.styles.words import face_name

__all__ = ["OF_WORDS", "EventText", "event_text", "move_of", "read_event_text"]

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
_OF_WHOLE = ("move", "org", "fad", "fade", "clip", "iclip", "q", "pos")
"""What is about all of an event, wherever it stands."""
OF_WORDS = (
    "font", "weight", "italic", "underline", "strike", "size", "stretch", "letter_spacing", "colour", "opacity",
    "outline", "outline_softness", "outline_colour", "outline_opacity", "shadow", "shadow_direction", "shadow_colour",
    "shadow_opacity",
)  # fmt: skip
"""What codes can change from word to word."""
_COLOURS = {"c": "", "1c": "", "3c": "outline_", "4c": "shadow_"}
_OPACITIES = {"1a": "", "3a": "outline_", "4a": "shadow_"}
_WEIGHTS = {"0": 400, "1": 700, "-1": 700, "400": 400, "700": 700, "900": 900}
_ANGLES = {"frz": ("turn", -1), "fr": ("turn", -1), "frx": ("tilt_x", 1), "fry": ("tilt_y", 1)}


@dataclass(frozen=True)
class EventText:
    """An event's words with their styles, where they stand, and how all of it looks."""

    spans: tuple[Span, ...]
    placement: Placement | None = None
    look: Look | None = None
    extras: Extras = ()
    kept: frozenset[str] = frozenset()
    """Codes that are kept with it, and not drawn by Dunlin."""


def read_event_text(
    text: str,
    own: ScriptStyle,
    styles: Mapping[str, ScriptStyle],
    picture: Picture,
    length_ms: int,
) -> EventText:
    """Reads an event's text; codes without a meaning here are kept with the words they change.

    :param own: the style that it is set in
    """
    if "{" not in text:
        return EventText((Span(_unescaped(text)),) if text else ())
    state = _State(own, styles, picture, length_ms)
    parts: list[Span] = []
    at = 0
    for braces in _BRACES.finditer(text):
        parts.append(state.taken(_unescaped(text[at : braces.start()])))
        at = braces.end()
        for name, value in _CODE.findall(braces[1]):
            state.code(name, value)
        # Words in braces that are no code are a remark, and not shown.
        if braces[1] and "\\" not in braces[1]:
            state.extras = with_extra(state.extras, "ass:remark", braces[1])
    parts.append(state.taken(_unescaped(text[at:])))
    spans, common = _told_once(joined(parts))
    said = common | state.whole
    extras = with_extra(state.extras, "ass:text", text) if state.kept else state.extras
    return EventText(
        spans, state.placement, Look(**said) if said else None, extras, frozenset(state.kept)
    )


def _told_once(spans: tuple[Span, ...]) -> tuple[tuple[Span, ...], dict[str, Any]]:
    """Words without what all of them look like, and that; of words that are not seen nothing is asked."""
    looks = [said_by(span.look) if span.look else {} for span in spans if span.text.strip()]
    common = {
        name: value
        for name, value in (looks[0] if looks else {}).items()
        if name not in ("italic", "underline") and all(look.get(name) == value for look in looks)
    }
    if not common:
        return spans, {}
    none = dict.fromkeys(common)
    left = (
        replace(span, look=_said(replace(span.look, **none))) if span.look else span
        for span in spans
    )
    return joined(left), common


def _said(look: Look) -> Look | None:
    return look if said_by(look) else None


@dataclass
class _State:
    """What the words to come look like, while codes change it."""

    own: ScriptStyle
    styles: Mapping[str, ScriptStyle]
    picture: Picture
    length_ms: int
    placement: Placement | None = None
    extras: Extras = ()
    whole: dict[str, Any] = field(default_factory=dict)
    """What is said of the look of all of it."""
    kept: set[str] = field(default_factory=set)
    drawing: int = 0
    """The scale of a drawing; 0 while there is none."""
    begun: bool = False
    """Whether there were words."""
    codes: Extras = ()
    """Those that are kept with the words to come."""

    def __post_init__(self) -> None:
        self._in_style(self.own)

    def _in_style(self, style: ScriptStyle) -> None:
        self.now = style.style
        size, self.across, self.down = style.scales
        self.size = size or style.style.size * self.picture.base
        self.gap = style.style.letter_spacing * self.size
        self.codes = ()

    def taken(self, text: str) -> Span:
        """The words in the style so far; a karaoke length is only that of the words right behind it."""
        if self.drawing and text:
            before = extra(self.extras, "ass:drawing")
            drawn = f"{self.drawing} {text.strip()}"
            self.extras = with_extra(
                self.extras, "ass:drawing", f"{before}\n{drawn}" if before else drawn
            )
            return Span("")
        span = _span_of(text, self.own.style, self.now, self.codes)
        if text:
            self.begun = True
            self.codes = with_extra(self.codes, "ass:k", None)
        return span

    def code(self, name: str, value: str) -> None:
        whole = value.strip()
        if name in _OF_WHOLE:
            if not self._of_whole(name, whole):
                before = extra(self.extras, "ass:codes") or ""
                self.extras = with_extra(self.extras, "ass:codes", f"{before}\\{name}{value}")
                self.kept.add(name)
        elif name == "r":
            style = self.styles.get(whole) if whole else None
            self._in_style(style or self.own)
            if whole:
                self._keep(name, value)
                self.kept.discard("r")
        elif name in ("an", "a") and whole.isascii() and whole.isdigit() and len(whole) < 3:
            number = int(whole) if name == "an" else OLD_PLACES.get(int(whole), 2)
            if 1 <= number <= 9:
                nine = placement_at(number) or Placement()
                self._place(anchor=nine.anchor, align=nine.align)
        elif name in ("k", "K", "kf", "ko", "kt"):
            self.codes = with_extra(self.codes, "ass:k", f"\\{name}{value}")
            self.kept.add(name)
        elif name == "p":
            is_scale = whole.isascii() and whole.isdigit() and len(whole) < 3
            self.drawing = int(whole) if is_scale else 0
            if self.drawing:
                self.kept.add(name)
        elif name in _ANGLES and not self.begun and not self.drawing:
            property_, sign = _ANGLES[name]
            angle = within(property_, sign * (number_of(whole) or 0))
            if angle is None:
                self._keep(name, value)
            else:
                self.whole[property_] = angle + 0
        elif (said := self._of_words(name, whole)) is not None:
            self.now = self.now.with_values(said)
            self._forget(name)
        else:
            self._keep(name, value)

    def _place(self, **values: Any) -> None:
        place = replace(self.placement or self.own.placement, **values)
        self.placement = None if place == self.own.placement else place

    def _of_whole(self, name: str, whole: str) -> bool:
        """Takes what is about all of the event; False of what a look has no words for."""
        numbers = _numbers(whole)
        width, height = self.picture.width, self.picture.height
        if name in ("pos", "move"):
            if self.placement and self.placement.x is not None:
                # The first of them counts.
                return False
            points = [
                (within("x", round(x / width, 6)), within("y", round(y / height, 6)))
                for x, y in zip(numbers[:4:2], numbers[1:4:2], strict=False)
            ]
            wanted = (2,) if name == "pos" else (4, 6)
            if len(numbers) not in wanted or any(None in point for point in points):
                return False
            self._place(x=points[0][0], y=points[0][1])
            if name == "move":
                start, end = numbers[4:] if len(numbers) == 6 else (0, self.length_ms)
                if not 0 <= start < end:
                    start, end = 0, self.length_ms
                self.whole["moments"] = tuple(
                    Moment(round(at), x=x, y=y)
                    for at, (x, y) in zip((start, end), points, strict=True)
                )
            return True
        if name == "fad" and len(numbers) == 2:
            lengths = within("comes_ms", round(numbers[0])), within("goes_ms", round(numbers[1]))
            if None in lengths:
                return False
            for edge, length in zip(("comes", "goes"), lengths, strict=True):
                if length:
                    self.whole |= {edge: "fade", f"{edge}_ms": int(length)}
            return True
        if name in ("clip", "iclip"):
            return self._seen_through(name, whole, numbers)
        return False

    def _seen_through(self, name: str, whole: str, numbers: list[float]) -> bool:
        if "window" in self.whole:
            return False
        width, height = self.picture.width, self.picture.height
        if len(numbers) == 4 and re.fullmatch(r"\([-+\d., ]+\)", whole):
            left, top, right, bottom = numbers
            corners = ((left, top), (right, top), (right, bottom), (left, bottom))
            drawing, units = " ".join(f"{'m' if n == 0 else 'l'} {x} {y}" for n, (x, y) in enumerate(corners)), 1  # fmt: skip
        else:
            scale, _, drawing = whole.strip("()").rpartition(",")
            exponent = int(number_of(scale) or 1)
            if not 1 <= exponent <= 8:
                return False
            units = 2 ** (exponent - 1)
        outline = outline_of_drawing(drawing, width * units, height * units)
        if not outline or len(outline) > MOST_PATH_CHARACTERS:
            return False
        self.whole["window"] = outline
        if name == "iclip":
            self.whole["window_keeps"] = "outside"
        return True

    def _of_words(self, name: str, whole: str) -> dict[str, Any] | None:
        """What a code says of the words behind it; None of what a look has no words for."""
        base = self.own.style
        if name in ("i", "u", "s"):
            property_ = {"i": "italic", "u": "underline", "s": "strike"}[name]
            return {property_: whole != "0" if whole else getattr(base, property_)}
        if name == "b":
            weight = _WEIGHTS.get(whole) if whole else base.weight
            # The black face of this family is a family of its own to the renderer, and bold or not as it is.
            if self._is_black() and weight == 700:
                return {}
            is_unknown = weight is None or (whole == "900" and self.now.font == LATIN)
            return None if is_unknown else {"weight": weight}
        if name in _COLOURS:
            property_ = f"{_COLOURS[name]}colour"
            return {property_: (colour_of(whole) if whole else None) or getattr(base, property_)}
        if name in _OPACITIES or name == "alpha":
            names = _OPACITIES.values() if name == "alpha" else (_OPACITIES[name],)
            return {
                f"{edge}opacity": opacity_of(whole) if whole else getattr(base, f"{edge}opacity")
                for edge in names
            }
        if name == "fn":
            if whole.startswith("@"):
                return None
            font, weight = family_and_weight(whole) if whole else (base.font, None)
            if weight is None and self._is_black():
                weight = base.weight if not whole else 700
            return {"font": font} | ({"weight": weight} if weight else {})
        if name in ("fs", "fscx", "fscy", "fsp"):
            return self._sized(name, whole)
        if name in ("bord", "blur"):
            property_ = "outline" if name == "bord" else "outline_softness"
            width = number_of(whole)
            if width is None:
                return {property_: getattr(base, property_)}
            kept = within(property_, max(width, 0) / self.picture.base)
            return None if kept is None else {property_: kept}
        if name in ("shad", "xshad", "yshad"):
            return self._shaded(name, number_of(whole))
        return None

    def _is_black(self) -> bool:
        return self.now.font == LATIN and self.now.weight == 900

    def _sized(self, name: str, whole: str) -> dict[str, Any] | None:
        before = self.size, self.across, self.down, self.gap
        number = number_of(whole)
        size, across, down = self.own.scales
        if name == "fs":
            usual = size or self.own.style.size * self.picture.base
            if number is None or (number <= 0 and whole[:1] not in "+-"):
                self.size = usual
            else:
                # With a sign, so many tenths more or less.
                self.size = self.size * (1 + number / 10) if whole[0] in "+-" else number
        elif name == "fsp":
            self.gap = self.own.style.letter_spacing * size if number is None else number
        elif name == "fscx":
            self.across = across if number is None else number / 100
        else:
            self.down = down if number is None else number / 100
        said = (
            self.size > 0
            and self.down > 0
            and {
                "size": within("size", self.size * self.down / self.picture.base),
                "stretch": within("stretch", self.across / self.down),
                "letter_spacing": within("letter_spacing", self.gap / self.size),
            }
        )
        if not said or None in said.values():
            self.size, self.across, self.down, self.gap = before
            return None
        # What comes to the same again is the same, whatever it was counted through.
        style = self.own.style
        return {
            n: getattr(style, n)
            if _alike(v, getattr(style, n))
            else round(v or 0, 6 + 4 * (n == "size"))
            for n, v in said.items()
        }

    def _shaded(self, name: str, number: float | None) -> dict[str, Any] | None:
        base = self.picture.base
        if number is None:
            return {n: getattr(self.own.style, n) for n in ("shadow", "shadow_direction")}
        right, down = shadow_of(self.now, base)
        if name == "shad":
            right = down = max(number, 0)
        elif name == "xshad":
            right = number
        else:
            down = number
        return shadow_by(right, down, base)

    def _keep(self, name: str, value: str) -> None:
        # Changes over time go on beside each other; of all else the last counts.
        if name != "t":
            self._forget(name)
        before = extra(self.codes, "ass:codes") or ""
        self.codes = with_extra(self.codes, "ass:codes", f"{before}\\{name}{value}")
        self.kept.add(name)

    def _forget(self, name: str) -> None:
        before = extra(self.codes, "ass:codes")
        if before and f"\\{name}" in before:
            kept = "".join(f"\\{n}{v}" for n, v in _CODE.findall(before) if n != name)
            self.codes = with_extra(self.codes, "ass:codes", kept or None)


def _alike(one: float | None, other: float) -> bool:
    return one is not None and abs(one - other) < 1e-7


def _span_of(text: str, base: Style, now: Style, extras: Extras) -> Span:
    """Words with what they look like otherwise than their style."""
    if now is base:
        return Span(text, extras=extras)
    mine, usual = now.__dict__, base.__dict__
    said = {n: mine[n] for n in OF_WORDS if mine[n] != usual[n]}
    is_bold = said.get("weight") == bolder(base.weight)
    if is_bold:
        del said["weight"]
    italic, underline = (
        bool(said.pop(n)) if said.get(n) else False for n in ("italic", "underline")
    )
    colour = said.pop("colour", None)
    look = Look(**said) if said else None
    return Span(text, italic, is_bold, underline, colour, extras=extras, look=look)


def _numbers(value: str) -> list[float]:
    """The numbers of a value in parentheses; none where there is anything else."""
    match = re.fullmatch(r"\(([^()]*)\)", value)
    found = [number_of(part) for part in match[1].split(",")] if match else []
    return [] if None in found else [number for number in found if number is not None]


def _unescaped(text: str) -> str:
    if "\\" not in text:
        return text
    text = text.replace("\\N", "\n").replace("\\n", "\n").replace("\\h", "\N{NO-BREAK SPACE}")
    return text.replace("\\{", "{").replace("\\}", "}").replace("\\\N{WORD JOINER}", "\\")


def event_text(
    caption: Caption,
    style: Style,
    own: ScriptStyle,
    styles: Mapping[str, ScriptStyle],
    picture: Picture,
) -> str:
    """A caption's words with codes where they differ from their style in the script.

    :param style: the one that it is set in, as the document has it
    :param own: the same as the script's line says it
    """
    if (
        caption.placement is None and caption.look is None and not caption.extras
        and len(caption.spans) == 1 and caption.spans[0].is_plain and style is own.style
    ):  # fmt: skip
        return escaped(caption.spans[0].text)
    is_plain = caption.look is None and caption.placement is None and caption.case is None
    whole = style if is_plain else styled(style, look_of_caption(caption))
    opening = [] if is_plain else [_codes_of_whole(caption, own, picture)]
    if caption.extras:
        if (as_read := _as_read(caption, style, own, styles, picture)) is not None:
            return as_read
        opening = _kept_opening(caption, "".join(opening))
    parts = [f"{{{codes}}}" for codes in opening if codes]
    for change, text in _changes(caption.spans, whole, own, styles, picture):
        parts.append(f"{{{change}}}{text}" if change else text)
    return "".join(parts)


def _as_read(
    caption: Caption,
    style: Style,
    own: ScriptStyle,
    styles: Mapping[str, ScriptStyle],
    picture: Picture,
) -> str | None:
    """The text that a caption was read from, where nothing of it was changed: what is not understood is given back as it
    was, and where it was."""
    text = extra(caption.extras, "ass:text")
    if text is None or style is not own.style or one_line(text) != text:
        return None
    said = read_event_text(text, own, styles, picture, caption.out_ms - caption.in_ms)
    look = replace(caption.look or Look(), margin=None, side_margin=None)
    now = (caption.spans, caption.placement, look)
    return text if (said.spans, said.placement, said.look or Look()) == now else None


def _kept_opening(caption: Caption, codes: str) -> list[str]:
    """What stands in braces before the words: a remark, codes for all of it, and drawings with their own."""
    kept, remark, drawn = (
        extra(caption.extras, f"ass:{name}") or "" for name in ("codes", "remark", "drawing")
    )
    opening = [_in_braces(remark), codes + _in_braces(kept)]
    for drawing in drawn.split("\n"):
        scale, _, strokes = _in_braces(drawing).partition(" ")
        if strokes and scale.isdecimal():
            opening.append(f"\\p{scale}}}{strokes}{{\\p0")
    return opening


def _in_braces(kept: str) -> str:
    """What a file had, so that it ends neither the braces it stands in nor the line."""
    return one_line(kept).replace("{", "").replace("}", "")


def _codes_of_whole(caption: Caption, own: ScriptStyle, picture: Picture) -> str:
    look = caption.look or Look()
    move = move_of(look)
    codes = _placing_codes(caption.placement, own.placement, picture, is_moved=bool(move))
    if move:
        (x, y), (to_x, to_y), start, end = move
        points = (
            (x, picture.width),
            (y, picture.height),
            (to_x, picture.width),
            (to_y, picture.height),
        )
        codes += "\\move(" + ",".join(_pixels(share, side) for share, side in points)
        codes += f",{start},{end})"
    for name, (property_, sign) in _ANGLES.items():
        angle = getattr(look, property_)
        if name != "fr" and angle is not None and angle != getattr(own.style, property_):
            codes += f"\\{name}{sign * angle + 0:.6g}"
    fades = [
        (getattr(look, f"{edge}_ms") or 0) if getattr(look, edge) == "fade" else 0
        for edge in ("comes", "goes")
    ]
    if any(fades):
        codes += f"\\fad({fades[0]},{fades[1]})"
    if look.window:
        name = "iclip" if look.window_keeps == "outside" else "clip"
        # In eighths of a pixel: the fourth power of two, counted from one.
        path = drawn_path(look.window, picture.width, picture.height, 8)
        codes += f"\\{name}(4,{path})"
    return codes


def move_of(look: Look) -> tuple[tuple[float, float], tuple[float, float], int, int] | None:
    """From where to where, and from when to when, a caption moves that does nothing else; None of others."""
    if not look.moments or len(look.moments) != 2:
        return None
    (first, x, y), (last, to_x, to_y) = (
        (moment.at_ms, moment.x, moment.y) for moment in look.moments
    )
    is_alone = all(said_by(moment).keys() == {"at_ms", "x", "y"} for moment in look.moments)
    if not is_alone or x is None or y is None or to_x is None or to_y is None or first >= last:
        return None
    return (x, y), (to_x, to_y), first, last


def _placing_codes(
    place: Placement | None, usual: Placement, picture: Picture, *, is_moved: bool
) -> str:
    if place is None or place == usual:
        return ""
    codes = ""
    if (place.anchor, place.align) != (usual.anchor, usual.align):
        codes += f"\\an{keypad_number(place)}"
    if (place.x is not None or place.y is not None) and not is_moved:
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
        codes += f"\\pos({_pixels(x, picture.width)},{_pixels(y, picture.height)})"
    return codes


def _pixels(share: float, side: float) -> str:
    """A place in pixels, no longer than it takes to be read as the same."""
    places = (round(share * side, digits) for digits in range(7))
    found = next((p for p in places if round(p / side, 6) == round(share, 6)), share * side)
    return f"{found:.10g}"


def _changes(
    spans: Iterable[Span],
    whole: Style,
    own: ScriptStyle,
    styles: Mapping[str, ScriptStyle],
    picture: Picture,
) -> Iterator[tuple[str, str]]:
    """The codes that lead to each part of the words from those before it, and the words."""

    def codes_in(look: Style, style: ScriptStyle) -> dict[str, str]:
        return _codes_in(look, style.scales[2], picture.base)

    now, kept_before = own, ""
    usual = base = before = codes_in(own.style, own)
    for span in spans:
        codes, kept = "", ""
        if span.extras:
            kept = _in_braces(extra(span.extras, "ass:codes") or "")
        if kept != kept_before and kept_before:
            # Codes that are kept cannot be taken back one by one.
            codes, now, kept_before = "\\r", own, ""
            base = before = usual
        if kept != kept_before:
            codes += kept
            for name, value in _CODE.findall(kept):
                if name == "r":
                    now = styles.get(value.strip(), own)
                    base = before = codes_in(now.style, now)
        look = style_of_words(whole, span)
        wanted = base if look is now.style else codes_in(look, now)
        if wanted is not before:
            for name, code in wanted.items():
                if code != before[name]:
                    # Without a value it is the style's own colour.
                    codes += "\\c" if name == "c" and code == base[name] else code
        if span.extras and (karaoke := extra(span.extras, "ass:k")):
            codes += _in_braces(karaoke)
        yield codes, escaped(span.text)
        before, kept_before = wanted, kept


# Words of a file look like each other in a few ways.
@lru_cache(1024)
def _codes_in(look: Style, down: float, base: float) -> dict[str, str]:
    """The code for all that words can look like, by its name, in words that are set in a style of the script.

    :param down: how much higher letters of that style are than in their font
    """
    right, below = shadow_of(look, base)
    is_even = abs(right - below) < 1e-6
    return {
        "fn": f"\\fn{face_name(look, look.font)}",
        "b": "\\b900"
        if look.weight == 900 and look.font != LATIN
        else switched("b", look.weight >= 600),
        "i": switched("i", look.italic),
        "u": switched("u", look.underline),
        "s": switched("s", look.strike),
        "fs": f"\\fs{round(look.size * base / down, 3):.8g}",
        "fscx": f"\\fscx{round(look.stretch * down * 100, 4):.8g}",
        "fsp": f"\\fsp{round(look.letter_spacing * look.size * base / down, 3):.8g}",
        "c": f"\\c{colour_code(look.colour)}",
        "1a": f"\\1a&H{alpha_code(look.opacity)}&",
        "bord": f"\\bord{look.outline * base:.6g}",
        "blur": f"\\blur{look.outline_softness * base:.6g}",
        "3c": f"\\3c{colour_code(look.outline_colour)}",
        "3a": f"\\3a&H{alpha_code(look.outline_opacity)}&",
        "shad": f"\\shad{right:.6g}" if is_even else f"\\xshad{right:.6g}\\yshad{below:.6g}",
        "4c": f"\\4c{colour_code(look.shadow_colour)}",
        "4a": f"\\4a&H{alpha_code(look.shadow_opacity)}&",
    }
