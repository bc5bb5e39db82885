"""Captions that an ASS script has no codes for: drawn as they are in preview and burn, with what they are kept beside it.

Such a caption is a comment that holds it as Dunlin's JSON does, and behind it the events that draw it. Whoever reads the
script sees what is drawn; Dunlin reads the caption again, as long as nobody has changed what is drawn.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from hashlib import sha256

from pydantic import TypeAdapter, ValidationError

from dunlin.core.captions.look import WORD_STATES, Look, said_by
from dunlin.core.captions.model import Caption, Track
from dunlin.core.formats.ass_styles import Picture, ScriptStyle
from dunlin.core.formats.ass_text import OF_WORDS, move_of
from dunlin.core.styles.model import Style, StyleSheet, look_of_caption, styled
from dunlin.core.styles.render_script import event_lines, script_head
from dunlin.core.styles.stacking import raised_by
from dunlin.core.timecode import FrameRate

__all__ = [
    "DRAWN",
    "NOT_IN_LINES",
    "Drawing",
    "drawn_captions",
    "is_beyond_codes",
    "read_drawn",
    "stacked_beside",
    "told_by",
]

DRAWN = "dunlin"
"""What the events of such a caption have in the field of effects; the comment before them has more behind it."""

_ADAPTER = TypeAdapter(Caption)
_OF_WORDS = frozenset(OF_WORDS)
_BEYOND = (
    "line_spacing", "second_line", "depth", "background", "background_opacity", "background_shape", "background_padding",
    "background_corners", "width", "vertical", "layer", "case",
)  # fmt: skip
NOT_IN_LINES = (
    *_BEYOND, "comes", "goes", "moments", "outline_softness", "shadow_softness", "shadow_direction", "tilt_x", "tilt_y", "window",
    "window_keeps", "x", "y", "shape", *WORD_STATES, "spoken_by", "spoken_ground",
)  # fmt: skip
"""What a line of a style has no field for."""
_TOLD = re.compile(rf"{DRAWN} (\d{{1,5}}) ([0-9a-f]{{16}})")
_STYLE = re.compile(r"Style: (Caption|Box)(\d*),(.*)")
_EVENT = re.compile(r"Dialogue: (-?\d+),([^,]*),([^,]*),Caption(\d*),,0,0,0,,(.*)")
_GROUND = re.compile(r"\\rBox(\d*)(?=[\\}])")


@dataclass(frozen=True)
class Drawing:
    """A caption as it is drawn: lines of styles that it needs, and events without speaker and margins."""

    styles: tuple[str, ...]
    events: tuple[tuple[int, str, str, str, str], ...]
    """Layer, start, end, style and text of each."""


def is_beyond_codes(caption: Caption, style: Style, own: ScriptStyle) -> bool:
    """Whether a script has no codes for what a caption looks like or holds.

    :param style: the one that it is set in, as the document has it
    :param own: the same as the script's line says it
    """
    if any(
        span.background or span.ruby or span.language or span.voice or span.spoken
        or (span.look and not said_by(span.look).keys() <= _OF_WORDS)
        for span in caption.spans
    ):  # fmt: skip
        return True
    plain = caption.look is None and caption.placement is None and caption.case is None
    if plain and style is own.style:
        return False
    whole, line = styled(style, look_of_caption(caption)), own.style
    return (
        caption.is_shape
        or any(getattr(whole, name) != getattr(line, name) for name in _BEYOND)
        or bool(whole.shadow and whole.shadow_softness > whole.outline_softness)
        or not {whole.comes, whole.goes} <= {"cut", "fade"}
        or bool(whole.moments and not move_of(Look(moments=whole.moments)))
    )


def stacked_beside(
    captions: Sequence[Caption], drawn: Sequence[str], sheet: StyleSheet, picture: Picture
) -> list[str]:
    """The ids of captions that give way to others in a way that the renderer does not know, and have to say where they are."""
    track, others = Track.of(captions), set(drawn)
    return [
        caption.id
        for n, caption in enumerate(track)
        if caption.id not in others and raised_by(track, n, sheet, picture.script) is not None
    ]


def drawn_captions(
    captions: Sequence[Caption],
    which: Iterable[str],
    sheet: StyleSheet,
    picture: Picture,
    rate: FrameRate,
) -> dict[str, Drawing]:
    """How captions are drawn, by their ids.

    :param captions: all of the document: those that meet are stacked
    :param which: the ids of those that are drawn
    """
    wanted = set(which)
    if not wanted:
        return {}
    script, track = picture.script, Track.of(captions)
    names = ["", *sheet.styles]
    lines = [_STYLE.fullmatch(line) for line in script_head(sheet, script).split("\n")]
    told = {
        (match[1], match[2]): f"Style: {_name(names, match[2], match[1])},{match[3]}"
        for match in lines
        if match
    }
    found = {}
    for n, caption in enumerate(track):
        if caption.id not in wanted:
            continue
        raised = raised_by(track, n, sheet, script)
        text = event_lines(caption, sheet, script, rate, raised)
        matches = [match for line in text.splitlines() if (match := _EVENT.fullmatch(line))]
        used = {("Caption", match[4]) for match in matches}
        used |= {("Box", number) for match in matches for number in _GROUND.findall(match[5])}
        found[caption.id] = Drawing(
            tuple(told[key] for key in sorted(used)),
            tuple(
                (
                    int(match[1]), match[2], match[3], _name(names, match[4], "Caption"),
                    _GROUND.sub(lambda box: f"\\r{_name(names, box[1], 'Box')}", match[5]),
                )
                for match in matches
            ),
        )  # fmt: skip
    return found


def _name(names: Sequence[str], number: str, kind: str) -> str:
    """What the script calls a style that captions are drawn in; no style of a person's has such a name."""
    name = names[int(number or 0)] or "Default"
    return f"{DRAWN}:{name}" + (" ground" if kind == "Box" else "")


def told_by(caption: Caption, events: Iterable[tuple[str, str, str]]) -> tuple[str, str]:
    """The effect and the text of the comment that tells what the events behind it draw.

    :param events: start, end and text of each
    """
    lines = list(events)
    held = _ADAPTER.dump_json(caption, exclude_defaults=True).decode()
    return f"{DRAWN} {len(lines)} {_sum_of(lines)}", held


def read_drawn(
    effect: str, text: str, events: Iterator[tuple[str, str, str]]
) -> tuple[Caption, int] | None:
    """The caption that a comment tells of, and how many events draw it; None when it is none, or they were changed.

    :param events: start, end and text of those behind it
    """
    match = _TOLD.fullmatch(effect.strip())
    if match is None:
        return None
    count = int(match[1])
    lines = [event for event, _ in zip(events, range(count), strict=False)]
    if len(lines) != count or _sum_of(lines) != match[2]:
        return None
    try:
        caption = _ADAPTER.validate_json(text)
    except ValidationError:
        return None
    if caption.in_ms < 0 or caption.out_ms <= caption.in_ms:
        return None
    return replace(caption, locked=False, made=None), count


def _sum_of(lines: Iterable[tuple[str, str, str]]) -> str:
    said = "\n".join(",".join(part.strip() for part in line) for line in lines)
    return sha256(said.encode()).hexdigest()[:16]
