"""SubRip text: numbered captions with comma times and a few tags."""

import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace
from itertools import pairwise

from dunlin.core.captions.model import Caption, Placement, Span
from dunlin.core.captions.placing import keypad_number, placement_at
from dunlin.core.formats.cues import (
    mended_times,
    numbered,
    put_in_order,
    read_timing,
    without_blank_lines,
)
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.formats.tags import Tag, simple_tags, spans_from_tags
from dunlin.core.messages import Message, message
from dunlin.core.timecode import clock

NAME, TITLE, ENDINGS = "srt", "SubRip", (".srt",)
HOLDS = Holds(
    frozenset({"italic", "bold", "underline", "colours", "alignment", "overlap", "lines"})
)

_CODES = re.compile(r"\{\\[^{}]*\}")
_PLACE = re.compile(r"\{[^{}]*\\an([1-9])[^{}]*\}")
_USUAL_TIMES = re.compile(r"\d+:[0-5]\d:[0-5]\d,\d{3} --> \d+:[0-5]\d:[0-5]\d,\d{3}")
_COLOUR = re.compile(r"""\scolor\s*=\s*["']?(#[0-9a-fA-F]{6})\b""")


def recognises(data: bytes, text: str) -> bool:
    """A timing line with nothing but a number before it."""
    lines = [line for line in text.split("\n")[:20] if line.strip()]
    timing = next((n for n, line in enumerate(lines) if read_timing(line.rstrip("\r"))), None)
    return timing == 0 or (timing == 1 and lines[0].strip().isdecimal())


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions of a file, as tolerantly as their times can be found."""
    text, oddities = decoded(data, context)
    lines = text.split("\n")
    timings = [(n, timing) for n, line in enumerate(lines) if (timing := read_timing(line))]
    if not timings:
        raise FormatError(message("formats.no-srt-times"), 1)
    captions: list[tuple[int, Caption]] = []
    seen: set[str] = set()
    ends = [number for number, _ in timings[1:]] + [len(lines)]
    for (at, timing), end in zip(timings, ends, strict=True):
        line = at + 1

        def odd(told: Message, line: int = line) -> None:
            oddities.append(Oddity(line, told))

        _judge_number(lines, at, seen, odd)
        spans, placement = _spans(_body(lines, at, end, odd), odd)
        # A time of a quarter million hours is a slip of the hand, but still a time.
        caption = Caption(
            numbered(len(captions)), timing.in_ms, timing.out_ms, spans, None, placement
        )
        for told in _odd_times(lines[at]):
            odd(told)
        if not spans:
            odd(message("oddities.empty"))
        if timing.settings:
            odd(message("oddities.behind-times", text=timing.settings[:60]))
        captions.append((line, mended_times(caption, odd)))
    _judge_head(lines, timings[0][0], oddities)
    for (_, before), (line, caption) in pairwise(captions):
        if before.in_ms <= caption.in_ms < before.out_ms:
            oddities.append(Oddity(line, message("oddities.overlaps")))
    ordered, oddities = put_in_order(captions, oddities)
    return Document(ordered), oddities


def _odd_times(line: str) -> Iterator[Message]:
    """What is unusual about how a timing line is written."""
    if _USUAL_TIMES.match(line):
        return
    if "-->" not in line:
        yield message("oddities.arrow")
    if re.search(r"\d\s*\.\s*\d", line):
        yield message("oddities.dots")
    if any(int(part) > 59 for part in re.findall(r":\s*(\d{1,3})", line)):
        yield message("oddities.past-sixty")


def _judge_number(
    lines: list[str], at: int, seen: set[str], odd: Callable[[Message], None]
) -> None:
    number = lines[at - 1].strip() if at else ""
    if not number.isdecimal():
        odd(message("oddities.no-number"))
    elif number in seen:
        odd(message("oddities.number-twice", number=number))
    seen.add(number)


def _judge_head(lines: list[str], first: int, oddities: list[Oddity]) -> None:
    head = [line for line in lines[:first] if line.strip() and not line.strip().isdecimal()]
    if head:
        oddities.append(Oddity(1, message("oddities.before-first", text=head[0][:60])))


def _body(lines: list[str], at: int, end: int, odd: Callable[[Message], None]) -> str:
    """Text between a timing line and the next one's number."""
    body = lines[at + 1 : end]
    if end < len(lines):
        if body and body[-1].strip().isdecimal():
            body.pop()
            if body and body[-1].strip():
                odd(message("oddities.no-blank-line"))
        elif body and body[-1].strip():
            odd(message("oddities.no-blank-line"))
    return "\n".join([line for line in body if line.strip()])


def _spans(text: str, odd: Callable[[Message], None]) -> tuple[tuple[Span, ...], Placement | None]:
    placement = None
    if "{\\" in text:
        if place := _PLACE.search(text):
            placement = placement_at(int(place[1]))
        if any(not _PLACE.fullmatch(code) for code in _CODES.findall(text)):
            odd(message("oddities.codes-in-braces"))
        text = _CODES.sub("", text)
    if "<" not in text:
        return (Span(text),) if text else (), placement
    return spans_from_tags(text, known=("font",), style=_font, odd=odd), placement


def _font(span: Span, tag: Tag) -> Span:
    colour = _COLOUR.search(tag.rest) if tag.name == "font" else None
    return replace(span, colour=colour[1].upper()) if colour else span


def write(document: Document, context: Context) -> bytes:
    blocks = []
    for number, caption in enumerate(document.captions, 1):
        times = f"{clock(caption.in_ms, ',')} --> {clock(caption.out_ms, ',')}"
        place = f"{{\\an{keypad_number(caption.placement)}}}" if caption.placement else ""
        text = without_blank_lines(_tagged(caption.spans))
        blocks.append(f"{number}\n{times}\n{place}{text}\n")
    return "\n".join(blocks).encode()


def _tagged(spans: Iterable[Span]) -> str:
    result = []
    for span in spans:
        if span.is_plain:
            result.append(span.text)
            continue
        names = simple_tags(span)
        opening = "".join(f"<{name}>" for name in names)
        closing = "".join(f"</{name}>" for name in reversed(names))
        if span.colour:
            opening, closing = f'<font color="{span.colour}">{opening}', f"{closing}</font>"
        result.append(f"{opening}{span.text}{closing}")
    return "".join(result)
