"""Values of timed text: clocks, lengths, colours, and white space as XML has it."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import replace
from fractions import Fraction

from dunlin.core.captions.model import Span, joined
from dunlin.core.formats.model import Context
from dunlin.core.formats.ttml_times import Clock
from dunlin.core.timecode import FrameRate

__all__ = ["LINE_BREAK", "clock_of", "collapsed", "colour_of", "two_lengths"]

LINE_BREAK = "\N{LINE SEPARATOR}"
"""Stands for `br` until white space is collapsed, which line ends of the file are a part of."""

_NAMED = {
    "black": "#000000", "silver": "#C0C0C0", "gray": "#808080", "white": "#FFFFFF",
    "maroon": "#800000", "red": "#FF0000", "purple": "#800080", "fuchsia": "#FF00FF",
    "magenta": "#FF00FF", "green": "#008000", "lime": "#00FF00", "olive": "#808000",
    "yellow": "#FFFF00", "navy": "#000080", "blue": "#0000FF", "teal": "#008080",
    "aqua": "#00FFFF", "cyan": "#00FFFF",
}  # fmt: skip


def clock_of(attributes: dict[str, str], context: Context) -> Clock:
    """How a document counts time, by the attributes of its root."""

    def number(name: str, default: int) -> int:
        value = attributes.get(name, "")
        return int(value) if value.isdecimal() and 0 < int(value) < 10**9 else default

    counted = number("frameRate", context.rate.nominal)
    rate = FrameRate(counted)
    multiplier = re.fullmatch(
        r"(\d{1,9})[\s:]+(\d{1,9})", attributes.get("frameRateMultiplier", "")
    )
    if multiplier and int(multiplier[1]) and int(multiplier[2]):
        exact = Fraction(counted) * Fraction(int(multiplier[1]), int(multiplier[2]))
        rate = FrameRate(exact.numerator, exact.denominator)
    elif "frameRate" not in attributes:
        rate = context.rate
    ticks = number("tickRate", 0)
    drop = attributes.get("timeBase") == "smpte" and attributes.get("dropMode") == "dropNTSC"
    return Clock(rate, counted, Fraction(ticks) if ticks else rate.fraction, drop)


def two_lengths(
    value: str, pixels: tuple[float, float], default: tuple[float, float] = (0.0, 0.0)
) -> tuple[float, float]:
    """Two lengths as parts of the picture's width and height, given in % or pixels."""
    match = re.fullmatch(r"(-?[\d.]{1,12})(%|px)\s+(-?[\d.]{1,12})(%|px)", value.strip())
    if match is None:
        return default
    try:
        found = [
            float(number) / (100 if unit == "%" else size)
            for number, unit, size in (
                (match[1], match[2], pixels[0]),
                (match[3], match[4], pixels[1]),
            )
        ]
    except (ValueError, ZeroDivisionError):
        return default
    return found[0], found[1]


def colour_of(value: str | None) -> str | None:
    """`#RRGGBB` of a colour expression; None for none and for a transparent one."""
    if not value:
        return None
    text = value.strip().lower()
    if text in _NAMED:
        return _NAMED[text]
    if match := re.fullmatch(r"#([0-9a-f]{6})([0-9a-f]{2})?", text):
        return None if match[2] == "00" else f"#{match[1].upper()}"
    if match := re.fullmatch(
        r"rgba?\((\d{1,3}),\s*(\d{1,3}),\s*(\d{1,3})(?:,\s*(\d{1,3}))?\)", text
    ):
        if match[4] == "0":
            return None
        return "#" + "".join(f"{min(int(part), 255):02X}" for part in match.groups()[:3])
    return None


def collapsed(parts: list[Span], *, preserve: bool) -> tuple[Span, ...]:
    """Spans with white space as XML has it: a run of it is one space, and none beside a line break."""
    if preserve:
        return joined(_with_breaks(replace(p, text=re.sub(r"[\n\t]", " ", p.text)) for p in parts))
    result: list[Span] = []
    spaced = True
    for part in parts:
        if part.text == LINE_BREAK:
            if result:
                result[-1] = result[-1].with_text(result[-1].text.rstrip(" "))
            result.append(part)
            spaced = True
            continue
        text = re.sub(r"[ \t\n]+", " ", part.text)
        if spaced:
            text = text.lstrip(" ")
        if text:
            spaced = text.endswith(" ")
            result.append(part.with_text(text))
    if result:
        result[-1] = result[-1].with_text(result[-1].text.rstrip(" "))
    return joined(_with_breaks(result))


def _with_breaks(spans: Iterable[Span]) -> Iterator[Span]:
    return (span.with_text(span.text.replace(LINE_BREAK, "\n")) for span in spans)
