"""SubRip text: numbered captions with comma times and a few tags."""

import re
from dataclasses import replace

from dunlin.core.captions.model import Caption, Span
from dunlin.core.formats.cues import (
    coloured,
    mended_times,
    numbered,
    read_timing,
    without_blank_lines,
)
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Loss, Oddity
from dunlin.core.formats.tags import Tag, spans_from_tags, tagged
from dunlin.core.timecode import clock

NAME, TITLE, ENDINGS = "srt", "SubRip", (".srt",)

_OVERRIDE = re.compile(r"\{\\[^{}]*\}")
_COLOUR = re.compile(r"""\scolor\s*=\s*["']?(#[0-9a-fA-F]{6})\b""")


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions of a file, as tolerantly as their times can be found."""
    text, oddities = decoded(data)
    lines = text.split("\n")
    timings = [(n, timing) for n, line in enumerate(lines) if (timing := read_timing(line))]
    if not timings:
        raise FormatError("no caption times found (00:00:01,000 --> 00:00:02,000)", 1)
    captions: list[Caption] = []
    seen: set[str] = set()
    ends = [number for number, _ in timings[1:]] + [len(lines)]
    for (at, timing), end in zip(timings, ends, strict=True):
        line = at + 1

        def odd(message: str, line: int = line) -> None:
            oddities.append(Oddity(line, message))

        _judge_number(lines, at, seen, odd)
        body = _body(lines, at, end, odd)
        # A time of a quarter million hours is a slip of the hand, but still a time.
        caption = Caption(numbered(len(captions)), timing.in_ms, timing.out_ms, _spans(body, odd))
        caption = mended_times(caption, odd)
        if captions and caption.in_ms < captions[-1].in_ms:
            odd("starts before the caption before it; put in order of time")
        if timing.settings:
            odd(f"text behind the times left out: {timing.settings[:60]}")
        captions.append(caption)
    _judge_head(lines, timings[0][0], oddities)
    captions.sort(key=lambda caption: caption.in_ms)
    return Document(tuple(captions)), sorted(oddities, key=lambda oddity: oddity.line)


def _judge_number(lines: list[str], at: int, seen: set[str], odd) -> None:  # type: ignore[no-untyped-def]
    number = lines[at - 1].strip() if at else ""
    if not number.isdecimal():
        odd("has no number")
    elif number in seen:
        odd(f"number {number} stands twice")
    seen.add(number)


def _judge_head(lines: list[str], first: int, oddities: list[Oddity]) -> None:
    head = [line for line in lines[:first] if line.strip() and not line.strip().isdecimal()]
    if head:
        oddities.append(Oddity(1, f"text before the first caption left out: {head[0][:60]}"))


def _body(lines: list[str], at: int, end: int, odd) -> str:  # type: ignore[no-untyped-def]
    """Text between a timing line and the next one's number."""
    body = lines[at + 1 : end]
    if end < len(lines):
        if body and body[-1].strip().isdecimal():
            body.pop()
            if body and body[-1].strip():
                odd("no blank line after it")
        elif body and body[-1].strip():
            odd("no blank line after it")
    return without_blank_lines("\n".join(body))


def _spans(text: str, odd) -> tuple[Span, ...]:  # type: ignore[no-untyped-def]
    if "{\\" in text and _OVERRIDE.search(text):
        odd("placement codes left out")
        text = _OVERRIDE.sub("", text)
    if "<" not in text:
        return (Span(text),) if text else ()
    return spans_from_tags(text, known=("font",), style=_font, odd=odd)


def _font(span: Span, tag: Tag) -> Span:
    colour = _COLOUR.search(tag.rest)
    return replace(span, colour=colour[1].upper()) if colour else span


def write(document: Document, context: Context) -> bytes:
    blocks = []
    for number, caption in enumerate(document.captions, 1):
        times = f"{clock(caption.in_ms, ',')} --> {clock(caption.out_ms, ',')}"
        text = without_blank_lines(tagged(caption.spans, str))
        blocks.append(f"{number}\n{times}\n{text}\n")
    return "\n".join(blocks).encode()


def losses(document: Document) -> list[Loss]:
    speakers = tuple(caption.id for caption in document.captions if caption.speaker)
    return coloured(document) + ([Loss("speakers", speakers)] if speakers else [])
