"""WebVTT, the W3C's text tracks for the web."""

import html
import re
from collections.abc import Callable
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

NAME, TITLE, ENDINGS = "webvtt", "WebVTT", (".vtt",)

_VOICE = re.compile(r"<v(?:\.[^\s>]*)?[ \t]+([^>]*)>")
_INNER_TIME = re.compile(r"<(?:\d+:)?\d\d:\d\d\.\d{3}>")
_TAGS = ("c", "v", "lang", "ruby", "rt")


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Cues of a file. What the model cannot hold is listed, and left out."""
    text, oddities = decoded(data)
    lines = text.split("\n")
    if not re.match(r"WEBVTT(?:[ \t]|$)", lines[0]):
        oddities.append(Oddity(1, "does not begin with WEBVTT"))
    captions: list[Caption] = []
    at, count = 0, len(lines)
    while at < count:
        timing = read_timing(lines[at])
        if timing is None:
            at = _skip(lines, at, oddities)
            continue
        line = at + 1

        def odd(message: str, line: int = line) -> None:
            oddities.append(Oddity(line, message))

        at += 1
        start = at
        while at < count and lines[at].strip() and not read_timing(lines[at]):
            at += 1
        if at < count and lines[at].strip():
            odd("no blank line after it")
        if timing.settings:
            odd(f"cue settings left out: {timing.settings[:60]}")
        caption = _caption(numbered(len(captions)), "\n".join(lines[start:at]), odd)
        caption = mended_times(replace(caption, in_ms=timing.in_ms, out_ms=timing.out_ms), odd)
        if captions and caption.in_ms < captions[-1].in_ms:
            odd("starts before the cue before it; put in order of time")
        captions.append(caption)
    if not captions and not lines[0].startswith("WEBVTT"):
        raise FormatError("no WEBVTT at the beginning, and no cue times found", 1)
    captions.sort(key=lambda caption: caption.in_ms)
    return Document(tuple(captions)), sorted(oddities, key=lambda oddity: oddity.line)


def _skip(lines: list[str], at: int, oddities: list[Oddity]) -> int:
    """Index of the line after a line, or block, that is no cue."""
    name = lines[at].strip().split(" ")[0]
    if name not in ("NOTE", "STYLE", "REGION"):
        return at + 1
    if name != "NOTE":
        oddities.append(Oddity(at + 1, f"{name} block left out"))
    while at < len(lines) and lines[at].strip():
        at += 1
    return at


def _caption(id_: str, text: str, odd: Callable[[str], None]) -> Caption:
    voice = _VOICE.search(text)
    speaker = html.unescape(voice[1]).strip() or None if voice else None
    if voice and _VOICE.search(text, voice.end()):
        odd(f"more than one voice; taken as {speaker}'s")
    if _INNER_TIME.search(text):
        odd("times inside the cue left out")
        text = _INNER_TIME.sub("", text)
    if re.search(r"<(c|lang|ruby|rt)\b", text):
        odd("classes, languages and ruby left out")
    spans = spans_from_tags(text, known=_TAGS, style=_unstyled, odd=odd)
    spans = tuple(replace(span, text=html.unescape(span.text)) for span in spans)
    return Caption(id_, 0, 0, spans, speaker)


def _unstyled(span: Span, tag: Tag) -> Span:
    return span


def write(document: Document, context: Context) -> bytes:
    blocks = ["WEBVTT\n"]
    for caption in document.captions:
        text = without_blank_lines(tagged(caption.spans, _escaped))
        if caption.speaker:
            text = f"<v {_escaped(' '.join(caption.speaker.split()))}>{text}"
        blocks.append(f"{clock(caption.in_ms)} --> {clock(caption.out_ms)}\n{text}\n")
    return "\n".join(blocks).encode()


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def losses(document: Document) -> list[Loss]:
    return coloured(document)
