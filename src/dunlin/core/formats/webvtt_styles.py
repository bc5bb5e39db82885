"""Styles as WebVTT's STYLE blocks have them: classes of CSS (WebVTT 1, 8.2)."""

import math
import re
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Span, extra, joined, with_extra
from dunlin.core.formats.named_styles import (
    NamedStyles,
    em_of,
    line_of,
    name_of_token,
    size_of,
    token_of_name,
)
from dunlin.core.formats.shades import WIDEST, colour_with, parted_colour, shade_at, with_shade
from dunlin.core.formats.webvtt_text import STANDARD_COLOURS
from dunlin.core.styles.model import STYLES
from dunlin.core.styles.shelf import kept_by_fonts

__all__ = ["STYLES_OF_WEBVTT", "in_styles", "looks_of_classes", "style_rules"]

# A cue's letters are a twentieth of the picture's height (WebVTT 1, 7.4: `font: 5vh sans-serif`).
_EM = 0.05
_RULE = re.compile(r"[ \t]*::cue\(\s*\.([^\s.(){}:#\[]+)\s*\)\s*\{([^{}]*)\}[ \t]*\n?")
_WORDS_SAY = {"colour", "background"}
"""What classes of words say as well: a style that says no more is no style, but words in a colour."""
_HOUSE = STYLES["house"]
_EIGHT = tuple(
    (x, y)
    for x, y in ((1, 0), (0.7, 0.7), (0, 1), (-0.7, 0.7), (-1, 0), (-0.7, -0.7), (0, -1), (0.7, -0.7))
)  # fmt: skip
"""Where shadows lie that make an outline together: the standard allows no other one around letters."""
_SHADE = re.compile(r"(-?[\d.]+)em (-?[\d.]+)em (?:([\d.]+)em )?(#[0-9A-Fa-f]{6,8})")
_PERCENT = re.compile(r"([\d.]{1,10})%")
_FAMILY = re.compile(r"""(["']?)([^"',{};]{1,100})\1""")


def _declared(look: Look) -> list[tuple[str, str]]:
    """What CSS says of a look."""
    em = em_of(look, _EM)
    found = []
    if look.font and _is_family(look.font):
        found.append(("font-family", f'"{look.font}"'))
    if look.size:
        found.append(("font-size", f"{round(em / _EM * 100, 2):g}%"))
    if look.line_spacing:
        found.append(("line-height", f"{round(look.line_spacing * line_of(look), 3):g}"))
    if look.strike:
        found.append(("text-decoration", "line-through"))
    if look.colour:
        found.append(("color", colour_with(look.colour, look.opacity)))
    if look.background:
        ground = colour_with(look.background, look.background_opacity)
        found.append(("background-color", ground))
    if shades := [*_outline(look, em), *_shadow(look, em)]:
        found.append(("text-shadow", ", ".join(shades)))
    return found


def _outline(look: Look, em: float) -> list[str]:
    if not look.outline:
        return []
    colour = colour_with(look.outline_colour or _HOUSE.outline_colour, look.outline_opacity)
    width = look.outline / em
    return [f"{_em(x * width)} {_em(y * width)} {colour}" for x, y in _EIGHT]


def _shadow(look: Look, em: float) -> list[str]:
    if not look.shadow:
        return []
    right, down, softness, colour = shade_at(look)
    soft = f"{_em(softness / em)} " if softness else ""
    return [f"{_em(right / em)} {_em(down / em)} {soft}{colour}"]


def _em(length: float) -> str:
    return f"{round(length, 4) or 0:g}em"


def _look(body: str) -> Look | None:
    """The look that declarations say, or None where one of them is not understood."""
    pairs = [each.partition(":") for each in body.split(";") if each.strip()]
    said = {name.strip().lower(): " ".join(value.split()) for name, _, value in pairs}
    look: Look | None = Look()
    # What is told in the size of letters comes after it, and that after the font that it is told by.
    for name in sorted(said, key=lambda name: _ORDER.get(name, 0)):
        read = _READ.get(name)
        look = read(look, said[name]) if read and look else None
    return look


def _read_family(look: Look, value: str) -> Look | None:
    found = _FAMILY.fullmatch(value)
    family = found[2].strip() if found else ""
    return replace(look, font=family) if _is_family(family) else None


def _is_family(name: str) -> bool:
    """Whether a name can stand in quotes, in a block that ends with an arrow, and is no kind of fonts."""
    is_said = _FAMILY.fullmatch(name) is not None and "\\" not in name and "-->" not in name
    return is_said and name == name.strip() and name.lower() not in _GENERIC


# CSS Fonts 4, 2.1.3: those that each system has of its own.
_GENERIC = {"serif", "sans-serif", "cursive", "fantasy", "monospace", "system-ui", "math", "inherit"}  # fmt: skip


def _read_size(look: Look, value: str) -> Look | None:
    found = _PERCENT.fullmatch(value)
    size = size_of(float(found[1]) / 100 * _EM, look) if found and found[1].count(".") < 2 else 0
    return replace(look, size=size) if 0 < size <= 2 else None


def _read_height(look: Look, value: str) -> Look | None:
    try:
        spacing = round(float(value) / line_of(look), 4)
    except ValueError:
        return None
    return replace(look, line_spacing=spacing) if 0.1 <= spacing <= 5 else None


def _read_decoration(look: Look, value: str) -> Look | None:
    return replace(look, strike=True) if value == "line-through" else None


def _read_colour(look: Look, value: str) -> Look | None:
    parted = parted_colour(value)
    return replace(look, colour=parted[0], opacity=parted[1]) if parted else None


def _read_ground(look: Look, value: str) -> Look | None:
    parted = parted_colour(value)
    return replace(look, background=parted[0], background_opacity=parted[1]) if parted else None


def _read_shades(look: Look, value: str) -> Look | None:
    """A look with an outline, where eight shadows lie around the letters, and with one shadow beside it."""
    matches = [_SHADE.fullmatch(each.strip()) for each in value.split(",")]
    try:
        shades = [(float(m[1]), float(m[2]), float(m[3] or 0), m[4]) for m in matches if m]
    except ValueError:
        return None
    if len(shades) < len(matches):
        return None
    em = em_of(look, _EM)
    around, beside = shades[: len(_EIGHT)], shades[len(_EIGHT) :]
    width = max(abs(right) for right, *_ in around)
    if _is_outline(around, width) and width * em <= WIDEST:
        parted = parted_colour(around[0][3])
        if parted is None:
            return None
        look = replace(
            look,
            outline=round(width * em, 5),
            outline_colour=parted[0],
            outline_opacity=parted[1],
        )
    else:
        beside = shades
    if not beside:
        return look
    (right, down, softness, colour), *more = beside
    if more or max(math.hypot(right, down), softness) * em > WIDEST:
        return None
    return with_shade(look, right * em, down * em, softness * em, colour)


def _is_outline(shades: Sequence[tuple[float, float, float, str]], width: float) -> bool:
    return len(shades) == len(_EIGHT) and all(
        max(abs(right - x * width), abs(down - y * width), softness) < _NEAR
        and colour == shades[0][3]
        for (right, down, softness, colour), (x, y) in zip(shades, _EIGHT, strict=True)
    )


_NEAR = 0.001
_READ: dict[str, Callable[[Look, str], Look | None]] = {
    "font-family": _read_family,
    "font-size": _read_size,
    "line-height": _read_height,
    "text-decoration": _read_decoration,
    "color": _read_colour,
    "background-color": _read_ground,
    "text-shadow": _read_shades,
}
_ORDER = {"font-family": -2, "font-size": -1}


# A file has a few looks, and tens of thousands of captions in them.
@kept_by_fonts
@lru_cache(1024)
def _kept(look: Look) -> Look | None:
    found = _look(_body(look))
    return found if found and said_by(found).keys() - _WORDS_SAY else None


def _body(look: Look) -> str:
    return "".join(f"{name}: {value}; " for name, value in _declared(look))


STYLES_OF_WEBVTT = NamedStyles(
    _kept, frozenset({name for colour in STANDARD_COLOURS for name in (colour, f"bg {colour}")})
)


def style_rules(styles: Mapping[str, Look]) -> str:
    """A STYLE block of styles by their names, or nothing."""
    if not styles:
        return ""
    rules = [f"::cue(.{token_of_name(name)}) {{ {_body(look)}}}" for name, look in styles.items()]
    return "STYLE\n" + "\n".join(rules) + "\n"


def looks_of_classes(blocks: Iterable[str]) -> dict[str, Look]:
    """What classes look like that say more than words do and nothing that a look cannot say, by their names."""
    found: dict[str, Look] = {}
    rules = [rule for block in blocks for rule in _RULE.findall(block)]
    for name, body in rules:
        look = _look(body)
        is_named = token_of_name(name_of_token(name)) == name and name not in found
        if look and look == _kept(look) and is_named:
            found[name] = look
    often = Counter(name for name, _ in rules)
    return {name: look for name, look in found.items() if often[name] == 1}


def in_styles(
    captions: Sequence[tuple[int, Caption]], looks: Mapping[str, Look], blocks: Iterable[str]
) -> tuple[list[tuple[int, Caption]], dict[str, Look], list[str]]:
    """Captions with the styles that they are in as a whole, those styles by their names, and the STYLE blocks without them.

    :param captions: with their lines
    :param looks: of classes
    """
    whole = [_classes_of_all(caption) & looks.keys() for _, caption in captions]
    once = [names if len(names) == 1 else set[str]() for names in whole]
    others = {
        name
        for (_, caption), names in zip(captions, once, strict=True)
        for name in _classes_of_any(caption) - names
    }
    used = {name for names in once for name in names} - others
    colours = {name: looks[name] for name in looks if name not in used}
    told = [
        (
            line,
            _in_style(caption, next(iter(names))) if names & used else _coloured(caption, colours),
        )
        for (line, caption), names in zip(captions, once, strict=True)
    ]
    rest = [_RULE.sub(lambda rule: "" if rule[1] in used else rule[0], block) for block in blocks]
    kept = [block for block in rest if block.split() != ["STYLE"]]
    return told, {name_of_token(name): looks[name] for name in looks if name in used}, kept


def _in_style(caption: Caption, name: str) -> Caption:
    spans = joined(
        replace(span, extras=with_extra(span.extras, "webvtt:class", _without(span, name)))
        for span in caption.spans
    )
    return replace(caption, spans=spans, style=name_of_token(name))


def _coloured(caption: Caption, looks: Mapping[str, Look]) -> Caption:
    """A caption with the colours of classes that only some of its words are in."""
    if not looks.keys() & _classes_of_any(caption):
        return caption
    spans = []
    for span in caption.spans:
        for look in (looks[name] for name in _classes(span) if name in looks):
            colour, ground = look.colour or span.colour, look.background or span.background
            span = replace(span, colour=colour, background=ground)
        spans.append(span)
    return replace(caption, spans=joined(spans))


def _without(span: Span, name: str) -> str | None:
    return ".".join(each for each in _classes(span) if each != name) or None


def _classes(span: Span) -> list[str]:
    return (extra(span.extras, "webvtt:class") or "").split(".") if span.extras else []


def _classes_of_all(caption: Caption) -> set[str]:
    each = [set(_classes(span)) for span in caption.spans]
    return set.intersection(*each) if each else set()


def _classes_of_any(caption: Caption) -> set[str]:
    return {name for span in caption.spans for name in _classes(span)} - {""}
