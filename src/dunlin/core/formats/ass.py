"""The script that libass reads: styles, events with codes in braces, times in hundredths."""

import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache
from operator import itemgetter
from typing import Any

from dunlin.core.captions.bounds import one_line
from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Extras, extra, with_extra
from dunlin.core.formats.ass_drawn import (
    DRAWN,
    NOT_IN_LINES,
    Drawing,
    drawn_captions,
    is_beyond_codes,
    read_drawn,
    stacked_beside,
    told_by,
)
from dunlin.core.formats.ass_styles import (
    STYLE_FIELDS,
    Picture,
    ScriptStyle,
    line_of_style,
    number_of,
    read_style,
    within,
)
from dunlin.core.formats.ass_text import event_text, read_event_text
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.messages import Message, message
from dunlin.core.styles.file import MOST_STYLES
from dunlin.core.styles.model import STYLES, Style, StyleSheet, sheet_with, styled
from dunlin.core.timecode import TWO_DIGITS, clock_ms, usual_clock_ms

NAME, TITLE, ENDINGS = "ass", "ASS script", (".ass", ".ssa")
HOLDS = Holds(frozenset({
    "italic", "bold", "underline", "colours", "boxes", "alignment", "heights", "sides", "widths", "vertical",
    "speakers", "voices", "languages", "ruby", "overlap", "lines", "styles", "case", "looks", "shapes",
    "words",
}), precision="hundredths")  # fmt: skip

_EVENT_FIELDS = "Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text"
_EVENT_EXTRAS = (
    ("layer", "0"), ("marginl", "0"), ("marginr", "0"), ("marginv", "0"), ("effect", ""),
)  # fmt: skip
_USUAL_EXTRAS = [usual for _, usual in _EVENT_EXTRAS]
_READ_FIELDS = ("start", "end", "style", "name", "text", *(field for field, _ in _EVENT_EXTRAS))
_DEFAULT = "Default"
_TIME = re.compile(r"\s*(-?)(\d{1,9}):(\d{1,2}):(\d{1,2})(?:[.:,](\d{1,3}))?\s*")
# What a style's name cannot have in a project.
_NOT_IN_NAMES = re.compile(r"[/\\{}\x00-\x1f]+")


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
    drawn: dict[int, tuple[str, str]]
    """Effect and text of comments that tell what events draw, by the place of the first of these."""
    styles: dict[str, ScriptStyle]
    picture: Picture


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Dialogue of a script, its styles as looks. Codes that looks have no words for are kept with their words, and told."""
    text, oddities = decoded(data, context)
    script = _taken_apart(text.split("\n"), oddities)
    captions: list[tuple[int, Caption]] = []
    kept: list[frozenset[str]] = []
    at = 0
    while at < len(script.events):
        line, fields = script.events[at]
        if drawn := _drawn_at(script, at):
            caption, count = drawn
            captions.append((line, replace(caption, id=numbered(len(captions)))))
            at += count
            continue
        at += 1

        def odd(told: Message, line: int = line) -> None:
            oddities.append(Oddity(line, told))

        read_event = _caption(fields, script, numbered(len(captions)), odd, kept)
        if read_event is not None:
            captions.append((line, read_event))
    if not captions and "[events]" not in text.lower():
        raise FormatError(message("formats.no-events"), 1)
    if kept:
        codes = ", ".join(f"\\{name}" for name in sorted(frozenset().union(*kept)))
        oddities.append(Oddity(1, message("oddities.codes-kept", codes=codes, count=len(kept))))
    ordered, oddities = put_in_order(captions, oddities)
    styles, default = _styles_of(script, {caption.style for caption in ordered})
    return Document(ordered, None, _file_extras(script), styles, default), oddities


def _drawn_at(script: _Script, at: int) -> tuple[Caption, int] | None:
    """The caption that the events from a place on draw, and how many they are; None of what says itself what it is."""
    if at not in script.drawn:
        return None
    behind = (script.events[n][1] for n in range(at, len(script.events)))
    events: Iterator[tuple[str, str, str]] = ((each[0], each[1], each[4]) for each in behind)
    return read_drawn(*script.drawn[at], events)


def _caption(
    fields: tuple[str, ...],
    script: _Script,
    id_: str,
    odd: Callable[[Message], None],
    kept_codes: list[frozenset[str]],
) -> Caption | None:
    start, end, style, speaker, words, *kept = fields
    in_ms, out_ms = usual_clock_ms(start, 2), usual_clock_ms(end, 2)
    if in_ms is None or out_ms is None:
        in_ms, out_ms = _read_time(start), _read_time(end)
    if in_ms is None or out_ms is None:
        odd(message("oddities.times-unreadable"))
        return None
    name = _clean(style)
    own = script.styles.get(name)
    if own is None:
        own = script.styles.get(_DEFAULT, _NO_STYLE)
        if name != _DEFAULT:
            odd(message("oddities.no-such-style", name=name[:60]))
    said = read_event_text(words, own, script.styles, script.picture, max(out_ms - in_ms, 1))
    if said.kept:
        kept_codes.append(said.kept)
    extras, look = said.extras, said.look
    if kept != _USUAL_EXTRAS:
        margins, more = _of_fields(kept, own, script.picture)
        extras += more
        look = replace(look or Look(), **margins) if margins else look
    caption = Caption(
        id_, in_ms, out_ms, said.spans, speaker.strip() or None, said.placement,
        name if name != _DEFAULT else None, extras, look=look,
    )  # fmt: skip
    return mended_times(caption, odd)


_NO_STYLE = ScriptStyle()


def _clean(style: str) -> str:
    """A style's name as a project can have it."""
    # Nearly all are the same few.
    if style == _DEFAULT:
        return style
    name = " ".join(_NOT_IN_NAMES.sub("-", style.strip().lstrip("*")).split())[:100].strip()
    return name or _DEFAULT


def _styles_of(script: _Script, used: set[str | None]) -> tuple[dict[str, Look], str | None]:
    """The styles of a script as looks, and the one of captions that name none."""
    nothing = line_of_style("", _PLAIN, script.picture)
    listed = {
        name: style.look
        for name, style in list(script.styles.items())[:MOST_STYLES]
        # What captions were drawn in is no style of theirs, unless somebody made it so.
        if (not name.startswith(f"{DRAWN}:") or name in used)
        # The one that we write where nobody said anything says nothing, either.
        and (name != _DEFAULT or line_of_style("", style.style, script.picture) != nothing)
    }
    return listed, _DEFAULT if _DEFAULT in listed else None


def _taken_apart(lines: list[str], oddities: list[Oddity]) -> _Script:
    script = _Script([], [], [], [], {}, {}, Picture())
    section, (count, columns) = "", _columns(_EVENT_FIELDS)
    style_fields = _names(STYLE_FIELDS)
    old_form, seen_events = False, False
    styles: list[dict[str, str]] = []
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
                parts = value.lstrip().split(",", count - 1)
                fields = columns([*parts, ""]) if len(parts) == count else None
                if fields and fields[-1].startswith(f"{DRAWN} "):
                    script.drawn[len(script.events)] = (fields[-1], fields[4])
                else:
                    script.comments.append(stripped)
            elif stripped and not stripped.startswith(("[", ";")):
                oddities.append(Oddity(number, message("oddities.no-event", text=stripped[:60])))
            continue
        (script.tail if seen_events else script.head).append(line)
        if section == "script info" and colon:
            script.picture = script.picture.told(key, value)
        elif section.endswith("styles") and colon and key == "format":
            style_fields = _names(value)
        elif section.endswith("styles") and colon and key == "style":
            styles.append(_fields(value, style_fields))
    # Sizes are those of the picture, wherever that is told.
    for style in styles:
        script.styles[_clean(style.get("name", ""))] = read_style(
            style, script.picture, old_form=old_form
        )
    return script


def _names(line: str) -> list[str]:
    return [field.strip().lower() for field in line.split(",")]


def _fields(line: str, names: list[str]) -> dict[str, str]:
    return dict(zip(names, (part.strip() for part in line.split(",")), strict=False))


def _columns(line: str) -> tuple[int, Callable[[list[str]], tuple[str, ...]]]:
    """How many fields a line of format names, and what picks `_READ_FIELDS` from an event's parts
    with an empty one behind them, which stands for every field there is not."""
    fields = _names(line)
    at = {field: index for index, field in enumerate(fields)}
    return len(fields), itemgetter(*(at.get(field, -1) for field in _READ_FIELDS))


def _read_time(text: str) -> int | None:
    match = _TIME.fullmatch(text)
    if match is None:
        return None
    sign, *digits = match.groups()
    value = clock_ms(*digits)
    return -value if sign else value


def _of_fields(
    values: list[str], own: ScriptStyle, picture: Picture
) -> tuple[dict[str, Any], Extras]:
    """What an event's margins say of its look; and layer, effect and margins that say nothing of it, to be kept."""
    extras: Extras = ()
    look: dict[str, Any] = {}
    told = {field: value.strip() for (field, _), value in zip(_EVENT_EXTRAS, values, strict=True)}
    left, right, up = (number_of(told[f"margin{side}"]) or 0 for side in "lrv")
    if up > 0 and (margin := within("margin", up / picture.height)) is not None:
        look["margin"] = margin
        del told["marginv"]
    if (
        left > 0
        and left == right
        and (side := within("side_margin", left / picture.width)) is not None
    ):
        look["side_margin"] = side
        del told["marginl"], told["marginr"]
    look = {name: value for name, value in look.items() if value != getattr(own.style, name)}
    for field, value in told.items():
        if value.strip("0"):
            extras = with_extra(extras, f"ass:{field}", value)
    return look, extras


def _file_extras(script: _Script) -> Extras:
    # A script without a head has sizes and places in pixels of a picture, too: those of one that says nothing.
    head = "\n".join(script.head).strip("\n") or "[Script Info]\nScriptType: v4.00+"
    parts = {
        "ass:head": head,
        "ass:tail": "\n".join(script.tail).strip("\n"),
        "ass:comments": "\n".join(script.comments),
    }
    return tuple((name, value) for name, value in parts.items() if value)


def write(document: Document, context: Context) -> bytes:
    """A script of the film's picture. A caption that it has codes for is one event; any other is drawn by several."""
    document = _set_in_styles_of_speakers(document)
    sheet = sheet_with(document.styles, document.style)
    sheet = sheet.in_language(document.language or context.language or "en")
    head = _head(document, context)
    script = _taken_apart(head, [])
    plain = sheet if document.style else replace(sheet, default=_PLAIN)
    set_in = _styles_by_lines(plain, script)
    beyond = [
        caption.id
        for caption in document.captions
        if is_beyond_codes(caption, *set_in(caption.style)[:2])
    ]
    if beyond or extra(document.extras, "ass:head") is None:
        # Those that were read and are as they were give way to each other as they did.
        beyond += stacked_beside(document.captions, beyond, sheet, script.picture)
    drawn = drawn_captions(document.captions, beyond, sheet, script.picture, context.rate)
    styles = dict.fromkeys(line for drawing in drawn.values() for line in drawing.styles)
    lines = [*_with_styles(head, styles), "", "[Events]", f"Format: {_EVENT_FIELDS}"]
    comments = (extra(document.extras, "ass:comments") or "").split("\n")
    lines += [one_line(line) for line in comments if line.lower().startswith("comment:")]
    for caption in document.captions:
        if drawing := drawn.get(caption.id):
            lines += _drawn_events(caption, drawing)
        else:
            lines.append(_event(caption, *set_in(caption.style), script))
    if tail := extra(document.extras, "ass:tail"):
        lines += ["", tail]
    return ("\n".join(lines) + "\n").encode()


def _set_in_styles_of_speakers(document: Document) -> Document:
    """A document whose captions are themselves in the styles that their speakers have: a script knows no such level."""
    looks = {
        who: document.styles[name]
        for who, name in document.speakers.items()
        if name in document.styles
    }
    if not looks:
        return document

    def own(caption: Caption) -> Caption:
        look = looks.get(caption.speaker or "")
        if look is None:
            return caption
        if caption.style is None and document.style is None:
            return replace(caption, style=document.speakers[caption.speaker or ""])
        return replace(caption, look=Look(**{**said_by(look), **said_by(caption.look or Look())}))

    return replace(document, captions=tuple(map(own, document.captions)), speakers={})


_PLAIN_LOOK = Look(weight=400)
_PLAIN = replace(STYLES["house"], weight=400)
"""Of captions that nobody gave a style: not bold as the one that ships, so that bold words are told apart everywhere."""


def _styles_by_lines(
    sheet: StyleSheet, script: _Script
) -> Callable[[str | None], tuple[Style, ScriptStyle, str]]:
    """The style of captions that name one; that of the script, and what it is called there. Where the script's line says
    all of the style, it is that of the line itself."""

    # One name is that of thousands of captions.
    @cache
    def set_in(name: str | None) -> tuple[Style, ScriptStyle, str]:
        called = _DEFAULT if name is None or name not in script.styles else name
        own = script.styles.get(called, _NO_STYLE)
        line = own.style
        # What it is called, and in which language words are, is nothing that is seen.
        named = sheet.styles.get(name or "", sheet.default)
        style = replace(named, id=line.id, name=line.name, language=line.language)
        is_said = _is_said(style, line, script.picture)
        return line if is_said else style, own, called

    return set_in


def _is_said(style: Style, line: Style, picture: Picture) -> bool:
    """Whether a style is what a line says: in whole pixels, where such a line has no others."""
    if style == line:
        return True
    says_all = all(getattr(style, name) == getattr(line, name) for name in NOT_IN_LINES)
    return says_all and line_of_style("", style, picture) == line_of_style("", line, picture)


def _head(document: Document, context: Context) -> list[str]:
    """The lines before the events: those that the file had, with its styles as they are by now; or such as are needed."""
    width, height = context.picture
    own = extra(document.extras, "ass:head")
    wanted = dict(document.styles)
    if own is None:
        lines = [
            "[Script Info]",
            "ScriptType: v4.00+",
            f"PlayResX: {width}",
            f"PlayResY: {height}",
            f"LayoutResX: {width}",
            f"LayoutResY: {height}",
            "WrapStyle: 2",
            "ScaledBorderAndShadow: yes",
            "YCbCr Matrix: None",
            "",
            "[V4+ Styles]",
            f"Format: {STYLE_FIELDS}",
        ]
    else:
        lines = own.split("\n")
    script = _taken_apart(lines, [])
    wanted.setdefault(_DEFAULT, document.styles.get(document.style or "", _PLAIN_LOOK))
    if own is not None and _DEFAULT not in document.styles and _DEFAULT in script.styles:
        # Nothing was said of it since the file was read.
        del wanted[_DEFAULT]
    changed = {
        name: line_of_style(name, styled(STYLES["house"], look), script.picture)
        for name, look in sorted(wanted.items(), key=lambda item: item[0] != _DEFAULT)
        if name not in script.styles or script.styles[name].look != look
    }
    return _with_styles(_without_styles(lines, changed), dict.fromkeys(changed.values()))


def _without_styles(lines: list[str], names: Mapping[str, object]) -> list[str]:
    """Lines of a head without those of styles of these names, nor those that captions were drawn in."""
    kept = []
    for line in lines:
        key, _, value = line.strip().partition(":")
        name = _clean(value.split(",", 1)[0]) if key.strip().lower() == "style" else ""
        if not name or (name not in names and not name.startswith(f"{DRAWN}:")):
            kept.append(line)
    return kept


def _with_styles(lines: list[str], styles: Mapping[str, object]) -> list[str]:
    """Lines of a head with those of more styles, behind the last that it has; they name all fields in their own order."""
    if not styles:
        return lines
    ends = [n for n, line in enumerate(lines) if line.strip().lower().startswith("style:")]
    formats = [n for n, line in enumerate(lines) if line.strip().lower().startswith("format:")]
    if not ends and not formats:
        return [*lines, "", "[V4+ Styles]", f"Format: {STYLE_FIELDS}", *styles]
    at = (ends or formats)[-1] + 1
    own = _names(lines[formats[0]].partition(":")[2]) if formats else _names(STYLE_FIELDS)
    return [*lines[:at], *(_in_order(line, own) for line in styles), *lines[at:]]


def _in_order(line: str, names: list[str]) -> str:
    """A style's line, its fields in the order that a script has them in."""
    if names == _names(STYLE_FIELDS):
        return line
    fields = _fields(line.partition(":")[2], _names(STYLE_FIELDS))
    return "Style: " + ",".join(fields.get(name, "0") for name in names)


def _drawn_events(caption: Caption, drawing: Drawing) -> list[str]:
    effect, held = told_by(
        caption, ((start, end, text) for _, start, end, _, text in drawing.events)
    )
    times, speaker = f"{_time(caption.in_ms)},{_time(caption.out_ms)}", _speaker(caption)
    style = caption.style or _DEFAULT
    return [
        f"Comment: 0,{times},{_field(style)},{speaker},0,0,0,{effect},{held}",
        *(
            f"Dialogue: {layer},{start},{end},{name},{speaker},0,0,0,{DRAWN},{text}"
            for layer, start, end, name, text in drawing.events
        ),
    ]


def _event(caption: Caption, style: Style, own: ScriptStyle, name: str, script: _Script) -> str:
    text = event_text(caption, style, own, script.styles, script.picture)
    times, speaker = f"{_time(caption.in_ms)},{_time(caption.out_ms)}", _speaker(caption)
    if not caption.extras and not caption.look:
        return f"Dialogue: 0,{times},{name},{speaker},0,0,0,,{text}"
    fields = {n: _field(extra(caption.extras, f"ass:{n}") or usual) for n, usual in _EVENT_EXTRAS}
    if caption.look:
        fields |= _margins(caption.look, own.style, script.picture)
    layer, left, right, vertical, effect = fields.values()
    return f"Dialogue: {layer},{times},{name},{speaker},{left},{right},{vertical},{effect},{text}"


def _margins(look: Look, style: Style, picture: Picture) -> dict[str, str]:
    """The margins of an event that are others than its style's; there are none that are nothing."""
    fields = {}
    if look.margin is not None and look.margin != style.margin:
        fields["marginv"] = str(max(round(look.margin * picture.height), 1))
    if look.side_margin is not None and look.side_margin != style.side_margin:
        fields["marginl"] = fields["marginr"] = str(max(round(look.side_margin * picture.width), 1))
    return fields


def _speaker(caption: Caption) -> str:
    return " ".join(_field(caption.speaker).split()) if caption.speaker else ""


def _field(value: str) -> str:
    """A value that neither ends its field nor its line."""
    return one_line(value).replace(",", " ")


def _time(ms: int) -> str:
    return (
        f"{ms // 3_600_000}:{TWO_DIGITS[ms // 60_000 % 60]}:{TWO_DIGITS[ms // 1000 % 60]}."
        f"{TWO_DIGITS[ms // 10 % 100]}"
    )
