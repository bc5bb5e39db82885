"""What SRT and WebVTT share: timing lines, times that make no sense, and the order of captions."""

import re
from collections.abc import Callable
from dataclasses import replace
from typing import NamedTuple

from dunlin.core.captions.model import Caption
from dunlin.core.formats.model import Oddity
from dunlin.core.messages import Message, message
from dunlin.core.timecode import clock_ms, usual_clock_ms

__all__ = [
    "Timing",
    "mended_times",
    "numbered",
    "put_in_order",
    "read_timing",
    "without_blank_lines",
]

_TIME = r"(-?)(?:(\d{1,9})\s*:\s*)?(\d{1,3})\s*:\s*(\d{1,3})(?:\s*[.,:]\s*(\d{1,9}))?"
_TIMING = re.compile(rf"\s*{_TIME}\s*-{{1,3}}>\s*{_TIME}(?:[ \t]+(.*))?\s*")


class Timing(NamedTuple):
    """A timing line: in and out in milliseconds, and what stands behind them."""

    in_ms: int
    out_ms: int
    settings: str


def read_timing(line: str) -> Timing | None:
    """A timing line, with comma or dot, with or without hours; None when it is none."""
    # Far longer than any timing line: not worth a regular expression's time.
    if "->" not in line or len(line) > 1000:
        return None
    if line[12:17] == " --> " and len(line) == 29:
        in_ms, out_ms = usual_clock_ms(line[:12], 3), usual_clock_ms(line[17:], 3)
        if in_ms is not None and out_ms is not None:
            return Timing(in_ms, out_ms, "")
    match = _TIMING.fullmatch(line)
    if match is None:
        return None
    in_sign, *in_digits, out_sign = match.group(1, 2, 3, 4, 5, 6)
    in_ms, out_ms = clock_ms(*in_digits), clock_ms(*match.group(7, 8, 9, 10))
    settings = match[11]
    return Timing(
        -in_ms if in_sign else in_ms,
        -out_ms if out_sign else out_ms,
        settings.strip() if settings else "",
    )


def mended_times(caption: Caption, odd: Callable[[Message], None]) -> Caption:
    """A caption that starts in the film and ends after it starts; what was changed is told."""
    in_ms, out_ms = caption.in_ms, caption.out_ms
    if 0 <= in_ms < out_ms:
        return caption
    if out_ms < in_ms:
        odd(message("oddities.ends-before-start"))
        in_ms, out_ms = out_ms, in_ms
    if in_ms < 0:
        odd(message("oddities.starts-before-film"))
        in_ms = 0
    if out_ms <= in_ms:
        odd(message("oddities.no-duration"))
        out_ms = in_ms + 1
    return replace(caption, in_ms=in_ms, out_ms=out_ms)


def put_in_order(
    captions: list[tuple[int, Caption]], oddities: list[Oddity]
) -> tuple[tuple[Caption, ...], list[Oddity]]:
    """Captions in order of time, each given with its line; what was out of order is told.

    :returns: the captions, and all oddities in order of lines
    """
    found = list(oddities)
    latest = -1
    for line, caption in captions:
        if caption.in_ms < latest:
            found.append(Oddity(line, message("oddities.out-of-order")))
        latest = caption.in_ms
    ordered = sorted((caption for _, caption in captions), key=lambda caption: caption.in_ms)
    return tuple(ordered), sorted(found, key=lambda oddity: oddity.line)


def numbered(index: int) -> str:
    """Id of the caption at a place in a file, counted from 0."""
    return f"c{index + 1}"


def without_blank_lines(text: str) -> str:
    """The text without empty lines, which would end a caption in these formats."""
    if "\n" not in text:
        return text
    return "\n".join(line for line in text.split("\n") if line.strip())
