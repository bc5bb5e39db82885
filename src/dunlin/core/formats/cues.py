"""What SRT and WebVTT share: timing lines, and times that make no sense."""

import re
from collections.abc import Callable
from dataclasses import dataclass, replace

from dunlin.core.captions.model import Caption
from dunlin.core.formats.model import Document, Loss

__all__ = ["Timing", "coloured", "mended_times", "numbered", "read_timing", "without_blank_lines"]

_TIME = r"(-?)(?:(\d{1,9})\s*:\s*)?(\d{1,3})\s*:\s*(\d{1,3})(?:\s*[.,:]\s*(\d{1,9}))?"
_TIMING = re.compile(rf"\s*{_TIME}\s*-{{1,3}}>\s*{_TIME}(?:[ \t]+(.*))?\s*")


@dataclass(frozen=True)
class Timing:
    """A timing line: in and out in milliseconds, and what stands behind them."""

    in_ms: int
    out_ms: int
    settings: str


def read_timing(line: str) -> Timing | None:
    """A timing line, with comma or dot, with or without hours; None when it is none."""
    # Far longer than any timing line: not worth a regular expression's time.
    if len(line) > 1000 or "->" not in line:
        return None
    match = _TIMING.fullmatch(line)
    if match is None:
        return None
    groups = match.groups()
    return Timing(
        _milliseconds(groups[0:5]), _milliseconds(groups[5:10]), (groups[10] or "").strip()
    )


def _milliseconds(groups: tuple[str | None, ...]) -> int:
    sign, hours, minutes, seconds, part = groups
    whole = (int(hours or 0) * 60 + int(minutes or 0)) * 60 + int(seconds or 0)
    value = whole * 1000 + int(((part or "") + "000")[:3])
    return -value if sign else value


def mended_times(caption: Caption, odd: Callable[[str], None]) -> Caption:
    """A caption that starts in the film and ends after it starts; what was changed is told."""
    in_ms, out_ms = caption.in_ms, caption.out_ms
    if out_ms < in_ms:
        odd("ends before it starts; in and out exchanged")
        in_ms, out_ms = out_ms, in_ms
    if in_ms < 0:
        odd("starts before the film; set to start at zero")
        in_ms = 0
    if out_ms <= in_ms:
        odd("has no duration; given one millisecond")
        out_ms = in_ms + 1
    return replace(caption, in_ms=in_ms, out_ms=out_ms)


def numbered(index: int) -> str:
    """Id of the caption at a place in a file, counted from 0."""
    return f"c{index + 1}"


def without_blank_lines(text: str) -> str:
    """The text without empty lines, which would end a caption in these formats."""
    return "\n".join(line for line in text.split("\n") if line.strip())


def coloured(document: Document) -> list[Loss]:
    """The captions whose colours a format cannot hold."""
    ids = tuple(c.id for c in document.captions if any(span.colour for span in c.spans))
    return [Loss("colours", ids)] if ids else []
