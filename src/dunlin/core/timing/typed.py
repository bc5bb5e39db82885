"""Times and amounts as people type them."""

import re
from typing import Literal, TypeAlias

from dunlin.core.captions import Caption, Times
from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import FrameRate, frame_at, parse_time, snap, start_of_frame

__all__ = ["TypedField", "amount_ms", "place_ms", "typed_times"]

TypedField: TypeAlias = Literal["in", "out", "duration"]

_AMOUNT = re.compile(r"([+-]?)\s*(.+?)\s*(ms|f|s)?")


def amount_ms(text: str, rate: FrameRate, at_ms: int = 0) -> int:
    """An amount of time: `+500ms`, `-3f`, `2.5`, `-1:02.5`, `+00:00:01:12`. Bare numbers are seconds.

    :param at_ms: where frames are counted from, for no film has whole milliseconds to a frame
    :raises ValueError: when it is none
    """
    match = _AMOUNT.fullmatch(text.strip().replace("\N{MINUS SIGN}", "-"))
    if match is None:
        raise BadInput(message("times.no-amount", text=text))
    sign, value, unit = match.groups()
    factor = -1 if sign == "-" else 1
    if unit == "f":
        if not value.isdecimal() or len(value) > 9:
            raise BadInput(message("times.no-whole-frames", text=text))
        start = frame_at(snap(at_ms, rate), rate)
        frame = max(start + factor * int(value), 0) if at_ms else factor * int(value)
        if frame < 0:
            return -start_of_frame(-frame, rate)
        return start_of_frame(frame, rate) - (snap(at_ms, rate) if at_ms else 0)
    if unit == "ms":
        if not value.isdecimal() or len(value) > 9:
            raise BadInput(message("times.no-whole-milliseconds", text=text))
        return factor * int(value)
    return factor * parse_time(value, rate)


def place_ms(text: str, now_ms: int, rate: FrameRate) -> int:
    """The place in a film that somebody types: a time such as `0:30`, a frame such as `120f`, or how far
    from where one is, such as `+5` or `-12f`.

    :raises ValueError: when it is none, or would be before the film
    """
    stripped = text.strip().replace("\N{MINUS SIGN}", "-")
    relative = stripped.startswith(("+", "-"))
    place = now_ms + amount_ms(stripped, rate, now_ms) if relative else amount_ms(stripped, rate)
    if place < 0:
        raise BadInput(message("times.before-film", text=stripped))
    return snap(place, rate)


def typed_times(
    caption: Caption, field: TypedField, text: str, rate: FrameRate, *, on_frames: bool = False
) -> Times:
    """The times a caption has when somebody types one for its in, its out or its duration.

    With a sign, or in frames or milliseconds, it is an amount by which that one changes. A new in takes
    the whole caption along where it would come behind the out.

    :param on_frames: what was typed comes to lie on the frame that begins nearest

    :raises ValueError: when it is no time, or the out would come before the in
    """
    stripped = text.strip().replace("\N{MINUS SIGN}", "-")
    relative = stripped.startswith(("+", "-"))
    values = {"in": caption.in_ms, "out": caption.out_ms, "duration": caption.duration_ms}
    before = values[field]
    change = amount_ms(stripped, rate, caption.out_ms if field != "in" else caption.in_ms)
    value = before + change if relative else amount_ms(stripped, rate)
    if value < 0:
        raise BadInput(message("times.before-film", text=stripped))
    in_ms, out_ms = caption.in_ms, caption.out_ms
    if on_frames:
        value = snap(value, rate) if field != "duration" else snap(in_ms + value, rate) - in_ms
    if field == "in":
        in_ms = value
        if in_ms >= out_ms:
            out_ms = in_ms + caption.duration_ms
    else:
        out_ms = value if field == "out" else in_ms + value
    if out_ms <= in_ms:
        raise BadInput(message("times.out-before-in"))
    return Times(caption.id, in_ms, out_ms)
