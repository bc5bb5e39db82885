"""Emoji that stand by words: above the lines or beside them, still or moving, from when their words are spoken."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import pi, sin

from dunlin.core.styles.layout import Layout
from dunlin.core.styles.lit_words import placed_words
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["EmojiPose", "Pictured", "pictured", "poses_of_emoji"]

_TALL = 1.5
"""Of the height of a line: how tall an emoji is."""
_GAP = 0.1
_POP_MS, _POP_OVER = 280, 1.25
_SWAY_MS, _SWAY_DEGREES = 1400, 11.0
_TURN_MS = 1800
_EVERY = 2
"""Frames that what goes on moving stands still for: drawn on twos, as animation is."""


@dataclass(frozen=True)
class Pictured:
    """An emoji, by the middle of its lower edge in pixels of the picture, and the height of the line that it is drawn in."""

    emoji: str
    across: float
    bottom: float
    tall: float
    motion: str | None
    start_ms: int


@dataclass(frozen=True)
class EmojiPose:
    """What an emoji is like in some frames: a part of its size, and degrees by which it is turned clockwise."""

    start_ms: int
    end_ms: int
    size: float = 1.0
    turned: float = 0.0


def pictured(layout: Layout, style: Style, picture: Script, in_ms: int) -> Iterator[Pictured]:
    """The emoji that stand by the words of a caption.

    Those above stand over all of its lines, each over its word, and what is the caption's over their middle for as long as
    they are shown; those beside stand at the end of its lines, or at their beginning where there is no room, and above
    where there is none either.

    :param in_ms: of the caption: when one is there whose word has no time
    """
    left, top, right, bottom = layout.box
    height = style.size * base_size(picture)
    tall, gap = height * _TALL, height * _GAP
    seen: list[str] = []
    for word in placed_words(layout, style, picture):
        spoken = word.span.spoken
        if spoken is None or not spoken.emoji:
            continue
        across, at = word.left + word.width / 2, top - gap
        if spoken.emoji_place == "beside":
            place = _beside(left, right, tall, gap, picture)
            if place is not None:
                across, at = place, (top + bottom) / 2 + tall / 2
        elif spoken.emoji_place == "caption":
            across = (left + right) / 2
        across = min(max(across, tall / 2), picture.width - tall / 2)
        start = max(spoken.start_ms or 0, in_ms)
        if spoken.emoji_place == "caption":
            start = in_ms
        if (key := f"{spoken.emoji} {start}") not in seen:
            seen.append(key)
            yield Pictured(spoken.emoji, across, max(at, tall), tall, spoken.emoji_motion, start)


def _beside(left: float, right: float, tall: float, gap: float, picture: Script) -> float | None:
    if right + gap + tall <= picture.width:
        return right + gap + tall / 2
    if left - gap - tall >= 0:
        return left - gap - tall / 2
    return None


def poses_of_emoji(one: Pictured, rate: FrameRate, end_ms: int) -> Iterator[EmojiPose]:
    """How an emoji is from the frame in which its word begins until its caption goes."""
    first, after = frame_at(one.start_ms, rate), first_frame_from(end_ms, rate)
    if one.motion is None:
        frames: Sequence[int] = (first,)
    elif one.motion == "pop":
        frames = [*range(first, frame_at(one.start_ms + _POP_MS, rate) + 1)]
    else:
        frames = range(first, after, _EVERY)
    for n, frame in enumerate(frames):
        until = frames[n + 1] if n + 1 < len(frames) else after
        start, end = start_of_frame(frame, rate), start_of_frame(until, rate)
        end = min(end, end_ms)
        if start < end:
            yield _pose(one.motion, start, end, start - start_of_frame(first, rate))


def _pose(motion: str | None, start_ms: int, end_ms: int, age_ms: int) -> EmojiPose:
    if motion == "pop":
        part = min(age_ms / _POP_MS, 1)
        size = part * (1 + (_POP_OVER - 1) * sin(pi * part) * 1.6)
        return EmojiPose(start_ms, end_ms, max(size, 0.05))
    if motion == "sway":
        return EmojiPose(start_ms, end_ms, turned=_SWAY_DEGREES * sin(2 * pi * age_ms / _SWAY_MS))
    if motion == "turn":
        return EmojiPose(start_ms, end_ms, turned=360 * age_ms / _TURN_MS % 360)
    return EmojiPose(start_ms, end_ms)
