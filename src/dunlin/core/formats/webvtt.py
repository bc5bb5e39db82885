"""WebVTT, the W3C's text tracks for the web."""

import re
from dataclasses import dataclass, field, replace

from dunlin.core.captions.bounds import one_line
from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Extras, extra, with_extra
from dunlin.core.formats import webvtt_settings as cue_settings
from dunlin.core.formats.cues import mended_times, numbered, put_in_order, read_timing
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.formats.webvtt_styles import (
    STYLES_OF_WEBVTT,
    in_styles,
    looks_of_classes,
    style_rules,
)
from dunlin.core.formats.webvtt_text import (
    ClassNames,
    class_names,
    class_styles,
    cue_payload,
    needed_styles,
    read_payload,
    style_block,
)
from dunlin.core.messages import Message, message
from dunlin.core.styles.directed import directed, undirected
from dunlin.core.timecode import clock

NAME, TITLE, ENDINGS = "webvtt", "WebVTT", (".vtt",)
HOLDS = Holds(frozenset({
    "italic", "bold", "underline", "colours", "boxes", "alignment", "heights", "sides", "widths", "vertical",
    "speakers", "voices", "languages", "language", "ruby", "overlap", "lines", "styles",
}), styles=STYLES_OF_WEBVTT)  # fmt: skip

_BEGINS = {"styles": "STYLE", "regions": "REGION", "notes": "NOTE"}
"""What is kept of a file besides its head, and the word that its blocks begin with."""
_HEAD = re.compile(r"WEBVTT(?:[ \t](.*))?")
# A line of the head in which many files say their language.
_LANGUAGE = re.compile(r"Language:[ \t]*([A-Za-z0-9-]+)[ \t]*", re.IGNORECASE)


def recognises(data: bytes, text: str) -> bool:
    return _HEAD.fullmatch(text.split("\n", 1)[0].rstrip("\r")) is not None


@dataclass
class _Blocks:
    """What stands between the cues of a file."""

    head: list[str] = field(default_factory=list)
    styles: list[str] = field(default_factory=list)
    regions: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    def taken_notes(self) -> str | None:
        notes, self.notes = self.notes, []
        return "\n\n".join(notes) or None


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Cues of a file; its styles, regions, notes and ids are kept to be given back."""
    text, oddities = decoded(data, context)
    lines = text.split("\n")
    head = _HEAD.fullmatch(lines[0])
    if head is None:
        oddities.append(Oddity(1, message("oddities.no-webvtt-head")))
    blocks = _Blocks()
    at, count = _head_end(lines) if head else 0, len(lines)
    language = None
    if head:
        said = [line for line in lines[1:at] if not _LANGUAGE.fullmatch(line)]
        language = next(
            (found[1] for line in lines[1:at] if (found := _LANGUAGE.fullmatch(line))), None
        )
        blocks.head = [head[1] or "", *said]
    classes, looks = class_styles(()), looks_of_classes(())
    captions: list[tuple[int, Caption]] = []
    while at < count:
        if not lines[at]:
            at += 1
            continue
        timing = read_timing(lines[at])
        if timing is None:
            before = len(blocks.styles)
            at = _between_cues(lines, at, blocks, oddities)
            if len(blocks.styles) > before:
                looks = looks_of_classes(blocks.styles)
                classes = class_styles(blocks.styles, looks)
            continue
        line = at + 1

        def odd(told: Message, line: int = line) -> None:
            oddities.append(Oddity(line, told))

        start = at = at + 1
        while at < count and lines[at].strip() and not read_timing(lines[at]):
            at += 1
        end = at
        if at < count and lines[at].strip():
            odd(message("oddities.no-blank-line"))
        payload = "\n".join(lines[start:end])
        spans, speaker = read_payload(payload, classes, odd)
        spans = undirected(spans, language or "und")
        placement, extras = None, _cue_extras(lines, line - 2, blocks)
        if timing.settings:
            placement, kept = cue_settings.read(timing.settings, odd)
            extras = with_extra(extras, "webvtt:settings", kept) if kept else extras
        caption = Caption(
            numbered(len(captions)), timing.in_ms, timing.out_ms, spans, speaker, placement,
            None, extras,
        )  # fmt: skip
        captions.append((line, mended_times(caption, odd)))
    if not captions and head is None:
        raise FormatError(message("formats.no-webvtt"), 1)
    styles: dict[str, Look] = {}
    if looks:
        captions, styles, blocks.styles = in_styles(captions, looks, blocks.styles)
    ordered, oddities = put_in_order(captions, oddities)
    return Document(ordered, language, _file_extras(blocks), styles), oddities


def _head_end(lines: list[str]) -> int:
    """Index of the line after the file's head, which ends with an empty line."""
    at = 1
    while at < len(lines) and lines[at].strip() and not read_timing(lines[at]):
        at += 1
    return at


def _between_cues(lines: list[str], at: int, blocks: _Blocks, oddities: list[Oddity]) -> int:
    """Index of the line after a line, or block, that is no cue; blocks are kept."""
    name = lines[at].strip().split(" ")[0]
    kinds = {"NOTE": blocks.notes, "STYLE": blocks.styles, "REGION": blocks.regions}
    if name not in kinds:
        following = lines[at + 1] if at + 1 < len(lines) else ""
        if name and not read_timing(following):
            oddities.append(Oddity(at + 1, message("oddities.outside-cue", text=lines[at][:60])))
        return at + 1
    start = at
    while at < len(lines) and lines[at].strip():
        at += 1
    kinds[name].append("\n".join(lines[start:at]))
    return at


def _cue_extras(lines: list[str], above: int, blocks: _Blocks) -> Extras:
    """The cue's id, when a line stands above its times, and the notes before it."""
    extras: Extras = ()
    if blocks.notes:
        extras = with_extra(extras, "webvtt:notes", blocks.taken_notes())
    if above > 0 and (name := lines[above].strip()) and not lines[above - 1].strip():
        extras = with_extra(extras, "webvtt:id", name)
    return extras


def _file_extras(blocks: _Blocks) -> Extras:
    parts = [("head", "\n".join(blocks.head))]
    parts += [(name, "\n\n".join(getattr(blocks, name))) for name in _BEGINS]
    return tuple((f"webvtt:{name}", value) for name, value in parts if value)


def write(document: Document, context: Context) -> bytes:
    kept = {
        name: _blocks(extra(document.extras, f"webvtt:{name}"), begins)
        for name, begins in _BEGINS.items()
    }
    first, *more = _head(extra(document.extras, "webvtt:head") or "")
    if document.language:
        more = [f"Language: {document.language}", *more]
    blocks = ["\n".join([f"WEBVTT {first}" if first else "WEBVTT", *more, ""])]
    styles = needed_styles(kept["styles"], document.captions)
    blocks += [f"{text}\n" for text in (styles, kept["regions"]) if text]
    if rules := style_rules(document.styles):
        blocks.append(rules)
    names = class_names(class_styles([styles]))
    if colours := style_block(document.captions, names):
        blocks.append(colours)
    for caption in document.captions:
        spans = directed(caption.spans, document.language or "und")
        own = caption if spans == caption.spans else replace(caption, spans=spans)
        blocks.append(_cue(own, names))
    if kept["notes"]:
        blocks.append(f"{kept['notes']}\n")
    return "\n".join(blocks).encode()


def _head(kept: str) -> list[str]:
    """Lines of a head that a file had, as far as they do not end it."""
    first, *more = kept.split("\n")
    lines = [one_line(line) for line in more if line.strip()]
    return [one_line(first), *(line for line in lines if "-->" not in line)]


def _blocks(kept: str | None, begins: str) -> str:
    """Blocks that a file had, as far as they are of their kind and hold no timing line."""
    if not kept:
        return ""
    blocks = ("\n".join(map(one_line, block.split("\n"))) for block in kept.split("\n\n"))
    return "\n\n".join(
        block for block in blocks if block.split(None, 1)[:1] == [begins] and "-->" not in block
    )


def _cue(caption: Caption, names: ClassNames) -> str:
    before = ""
    settings = ""
    if caption.extras:
        if notes := _blocks(extra(caption.extras, "webvtt:notes"), "NOTE"):
            before = f"{notes}\n\n"
        name = one_line(extra(caption.extras, "webvtt:id") or "").strip()
        if name and "-->" not in name and not name.startswith(("NOTE", "STYLE", "REGION")):
            before += f"{name}\n"
    if caption.placement or caption.extras:
        settings = cue_settings.written(caption.placement, extra(caption.extras, "webvtt:settings"))
    times = f"{clock(caption.in_ms)} --> {clock(caption.out_ms)}"
    return f"{before}{times}{settings and ' ' + settings}\n{cue_payload(caption, names)}\n"
