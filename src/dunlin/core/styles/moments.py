"""What a caption looks like at the moments of its time: between two that say something, in even steps from one to the other."""

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any, TypeAlias

from dunlin.core.captions.look import MOMENTARY, Moment
from dunlin.core.captions.model import Caption
from dunlin.core.styles.model import Style
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame

__all__ = ["at_moment", "moving_styles"]

_Course: TypeAlias = tuple[Sequence[int], Sequence[Any]]
"""The times at which a property is said, and what it is there."""


def at_moment(style: Style, at_ms: float) -> Style:
    """A look as it is at a time, without the moments it is made of.

    Before the first moment that says a property it is as there, after the last one as there.

    :param at_ms: from the caption's in
    """
    return _at(style, _courses(style.moments), at_ms) if style.moments else style


def moving_styles(
    caption: Caption, style: Style, rate: FrameRate, start_ms: int, end_ms: int
) -> Iterator[tuple[int, int, Style]]:
    """From which time until which a caption looks how, within a part of its time: frame by frame where it changes."""
    if not style.moments:
        yield start_ms, end_ms, style
        return
    courses = _courses(style.moments)
    begun, now = start_ms, None
    for frame in range(first_frame_from(start_ms, rate), first_frame_from(end_ms, rate)):
        at_ms = start_of_frame(frame, rate)
        then = _at(style, courses, at_ms - caption.in_ms)
        if now is not None and then != now:
            yield begun, at_ms, now
            begun = at_ms
        now = then
    if now is not None:
        yield begun, end_ms, now


def _courses(moments: Sequence[Moment]) -> dict[str, _Course]:
    ordered = sorted(moments, key=lambda moment: moment.at_ms)
    courses: dict[str, _Course] = {}
    for name in MOMENTARY:
        known = [(m.at_ms, value) for m in ordered if (value := getattr(m, name)) is not None]
        if known:
            courses[name] = ([at for at, _ in known], [value for _, value in known])
    return courses


def _at(style: Style, courses: Mapping[str, _Course], at_ms: float) -> Style:
    said = {name: _value(times, values, at_ms) for name, (times, values) in courses.items()}
    return replace(style, **said, moments=None)


def _value(times: Sequence[int], values: Sequence[Any], at_ms: float) -> Any:
    after = bisect_right(times, at_ms)
    if after == 0 or after == len(times):
        return values[max(after - 1, 0)]
    part = (at_ms - times[after - 1]) / (times[after] - times[after - 1])
    return _mixed(values[after - 1], values[after], part)


def _mixed(before: Any, after: Any, part: float) -> Any:
    """What lies so far on the way from one value to another: numbers, or colours channel by channel."""
    if not isinstance(before, str):
        return before + (after - before) * part
    channels = (
        round(_mixed(int(before[n : n + 2], 16), int(after[n : n + 2], 16), part))
        for n in (1, 3, 5)
    )
    return "#" + "".join(f"{channel:02X}" for channel in channels)
