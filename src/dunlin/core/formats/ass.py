"""The script that libass reads: styles, events with codes in braces, times in hundredths."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from operator import itemgetter

from dunlin.core.captions.bounds import one_line
from dunlin.core.captions.model import Caption, Extras, extra, with_extra
from dunlin.core.captions.placing import placement_at
from dunlin.core.formats.ass_text import (
    OLD_PLACES,
    Look,
    Picture,
    colour_of,
    event_text,
    read_event_text,
)
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.messages import Message, message
from dunlin.core.timecode import TWO_DIGITS, clock_ms, usual_clock_ms

NAME, TITLE, ENDINGS = "ass", "ASS script", (".ass", ".ssa")
HOLDS = Holds(frozenset({
    "italic", "bold", "underline", "colours", "alignment", "heights", "sides", "speakers", "overlap",
    "lines", "styles",
}), precision="hundredths")  # fmt: skip

_STYLE_FIELDS = (
    "Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, "
    "Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, "
    "Alignment, MarginL, MarginR, MarginV, Encoding"
)
_EVENT_FIELDS = "Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text"
_HEAD = f"""[Script Info]
ScriptType: v4.00+
PlayResX: 1280
PlayResY: 720
WrapStyle: 2
ScaledBorderAndShadow: yes

[V4+ Styles]
Format: {_STYLE_FIELDS}
Style: Default,Noto Sans,50,&H00FFFFFF,&H00FFFFFF,&H001B1914,&H001B1914,0,0,0,0,100,100,0,0,1,3.3,1,2,77,77,40,1
"""
_EVENT_EXTRAS = (
    ("layer", "0"), ("marginl", "0"), ("marginr", "0"), ("marginv", "0"), ("effect", ""),
)  # fmt: skip
_USUAL_EXTRAS = [usual for _, usual in _EVENT_EXTRAS]
_READ_FIELDS = ("start", "end", "style", "name", "text", *(field for field, _ in _EVENT_EXTRAS))
_NO_LOOK = Look()
_TIME = re.compile(r"\s*(-?)(\d{1,9}):(\d{1,2}):(\d{1,2})(?:[.:,](\d{1,3}))?\s*")


def recognises(data: bytes, text: str) -> bool:
    return re.match(r"\s*\[(Script Info|V4\+? Styles|Events)\]", text, re.IGNORECASE) is not None


@dataclass
class _Script:
    """A script taken apart: what stands before its events, after them, and its events."""

    head: list[str]
    tail: list[str]
    comments: list[str]
    events: list[tuple[int, tuple[str, ...]]]
    """The line, and what stands in the fields of `_READ_FIELDS`."""
    looks: dict[str, Look]
    picture: Picture


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Dialogue of a script. Codes that Dunlin has no words for are kept with their words."""
    text, oddities = decoded(data, context)
    script = _taken_apart(text.split("\n"), oddities)
    looks, picture = script.looks, script.picture
    captions: list[tuple[int, Caption]] = []
    for line, (start, end, style, speaker, words, *kept) in script.events:

        def odd(told: Message, line: int = line) -> None:
            oddities.append(Oddity(line, told))

        in_ms, out_ms = usual_clock_ms(start, 2), usual_clock_ms(end, 2)
        if in_ms is None or out_ms is None:
            in_ms, out_ms = _read_time(start), _read_time(end)
        if in_ms is None or out_ms is None:
            odd(message("oddities.times-unreadable"))
            continue
        name = style.strip().lstrip("*")
        look = looks.get(name)
        if look is None:
            look = _NO_LOOK
            if name not in ("", "Default"):
                odd(message("oddities.no-such-style", name=name[:60]))
        spans, placement, extras = read_event_text(words, look, looks, picture)
        if kept != _USUAL_EXTRAS:
            extras += _event_extras(kept)
        caption = Caption(
            numbered(len(captions)), in_ms, out_ms, spans, speaker.strip() or None, placement,
            name if name not in ("", "Default") else None, extras,
        )  # fmt: skip
        captions.append((line, mended_times(caption, odd)))
    if not captions and "[events]" not in text.lower():
        raise FormatError(message("formats.no-events"), 1)
    ordered, oddities = put_in_order(captions, oddities)
    return Document(ordered, None, _file_extras(script)), oddities


def _taken_apart(lines: list[str], oddities: list[Oddity]) -> _Script:
    script = _Script([], [], [], [], {}, Picture())
    section, (count, columns) = "", _columns(_EVENT_FIELDS)
    style_fields = [field.strip().lower() for field in _STYLE_FIELDS.split(",")]
    old_form, seen_events = False, False
    for number, line in enumerate(lines, 1):
        stripped = line.strip()
        if stripped.startswith("Dialogue:"):
            # Nearly all lines are such.
            key, colon, value = "dialogue", ":", stripped[9:]
        else:
            if stripped.startswith("[") and stripped.endswith("]"):
                section = stripped[1:-1].strip().lower()
                old_form = old_form or section == "v4 styles"
                seen_events = seen_events or section == "events"
            key, colon, value = stripped.partition(":")
            key = key.strip().lower()
        if section == "events":
            if key == "dialogue" and colon:
                parts = value.lstrip().split(",", count - 1)
                if len(parts) == count:
                    parts.append("")
                    script.events.append((number, columns(parts)))
                else:
                    oddities.append(Oddity(number, message("oddities.too-few-fields")))
            elif key == "format" and colon:
                count, columns = _columns(value)
            elif key == "comment" and colon:
                script.comments.append(stripped)
            elif stripped and not stripped.startswith(("[", ";")):
                oddities.append(Oddity(number, message("oddities.no-event", text=stripped[:60])))
            continue
        (script.tail if seen_events else script.head).append(line)
        if section == "script info" and colon:
            script.picture = script.picture.told(key, value)
        elif section.endswith("styles") and colon and key == "format":
            style_fields = [field.strip().lower() for field in value.split(",")]
        elif section.endswith("styles") and colon and key == "style":
            parts = [part.strip() for part in value.split(",")]
            style = dict(zip(style_fields, parts, strict=False))
            script.looks[style.get("name", "").lstrip("*")] = _look(style, old_form)
    return script


def _columns(line: str) -> tuple[int, Callable[[list[str]], tuple[str, ...]]]:
    """How many fields a line of format names, and what picks `_READ_FIELDS` from an event's parts
    with an empty one behind them, which stands for every field there is not."""
    fields = [field.strip().lower() for field in line.split(",")]
    at = {field: index for index, field in enumerate(fields)}
    return len(fields), itemgetter(*(at.get(field, -1) for field in _READ_FIELDS))


def _look(style: dict[str, str], old_form: bool) -> Look:
    number = _number(style.get("alignment"), 2)
    if old_form:
        number = OLD_PLACES.get(number, 2)
    return Look(
        italic=_number(style.get("italic"), 0) != 0,
        bold=_number(style.get("bold"), 0) != 0,
        underline=_number(style.get("underline"), 0) != 0,
        placement=placement_at(number) if 1 <= number <= 9 else None,
        colour=None
        if (colour := colour_of(style.get("primarycolour", ""))) == "#FFFFFF"
        else colour,
    )


def _number(value: str | None, default: int) -> int:
    try:
        return int(float(value or default))
    except (ValueError, OverflowError):
        return default


def _read_time(text: str) -> int | None:
    match = _TIME.fullmatch(text)
    if match is None:
        return None
    sign, *digits = match.groups()
    value = clock_ms(*digits)
    return -value if sign else value


def _event_extras(values: list[str]) -> Extras:
    """Layer, margins and effect, where they are not what they usually are."""
    extras: Extras = ()
    for (field, _), value in zip(_EVENT_EXTRAS, values, strict=True):
        if value.strip().strip("0"):
            extras = with_extra(extras, f"ass:{field}", value.strip())
    return extras


def _file_extras(script: _Script) -> Extras:
    parts = {
        "ass:head": "\n".join(script.head).strip("\n"),
        "ass:tail": "\n".join(script.tail).strip("\n"),
        "ass:comments": "\n".join(script.comments),
    }
    return tuple((name, value) for name, value in parts.items() if value)


def write(document: Document, context: Context) -> bytes:
    head = extra(document.extras, "ass:head") or _HEAD.strip("\n")
    script = _taken_apart(head.split("\n"), [])
    lines = [head, "", "[Events]", f"Format: {_EVENT_FIELDS}"]
    comments = (extra(document.extras, "ass:comments") or "").split("\n")
    lines += [one_line(line) for line in comments if line.lower().startswith("comment:")]
    for caption in document.captions:
        lines.append(_event(caption, script.looks, script.picture))
    if tail := extra(document.extras, "ass:tail"):
        lines += ["", tail]
    return ("\n".join(lines) + "\n").encode()


def _event(caption: Caption, looks: dict[str, Look], picture: Picture) -> str:
    style = caption.style if caption.style in looks else "Default"
    layer, left, right, vertical, effect = (
        _USUAL_EXTRAS
        if not caption.extras
        else (
            _field(extra(caption.extras, f"ass:{name}") or usual) for name, usual in _EVENT_EXTRAS
        )
    )
    speaker = " ".join(_field(caption.speaker).split()) if caption.speaker else ""
    text = event_text(caption, looks.get(style or "") or _NO_LOOK, picture)
    return (
        f"Dialogue: {layer},{_time(caption.in_ms)},{_time(caption.out_ms)},{style},{speaker},"
        f"{left},{right},{vertical},{effect},{text}"
    )


def _field(value: str) -> str:
    """A value that neither ends its field nor its line."""
    return one_line(value).replace(",", " ")


def _time(ms: int) -> str:
    return (
        f"{ms // 3_600_000}:{TWO_DIGITS[ms // 60_000 % 60]}:{TWO_DIGITS[ms // 1000 % 60]}."
        f"{TWO_DIGITS[ms // 10 % 100]}"
    )
