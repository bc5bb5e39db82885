"""What is measured on a caption, whatever the spec."""

from dataclasses import dataclass

from dunlin.core.captions.model import Caption, Track
from dunlin.core.text.measure import characters, longest_line, reading_speed
from dunlin.core.timecode import FrameRate, first_frame_from

__all__ = ["Measures", "gap_frames", "measures"]


@dataclass(frozen=True)
class Measures:
    """Figures of one caption. A gap is None before the first and after the last caption."""

    characters: int
    longest_line: int
    lines: int
    reading_speed: float
    duration_ms: int
    gap_before_ms: int | None
    gap_after_ms: int | None


def gap_frames(before: Caption, after: Caption, rate: FrameRate) -> int:
    """Frames on which neither caption is shown; below zero, frames on which both are."""
    return first_frame_from(after.in_ms, rate) - first_frame_from(before.out_ms, rate)


def measures(track: Track, index: int) -> Measures:
    """Measures of the caption at a place in the track's order.

    :raises IndexError: when there is none
    """
    caption = track.at(index)
    if caption is None:
        raise IndexError(index)
    before, after = track.at(index - 1), track.at(index + 1)
    text = caption.text
    return Measures(
        characters=characters(text),
        longest_line=longest_line(text),
        lines=text.count("\n") + 1 if text else 0,
        reading_speed=reading_speed(text, caption.duration_ms),
        duration_ms=caption.duration_ms,
        gap_before_ms=caption.in_ms - before.out_ms if before else None,
        gap_after_ms=after.in_ms - caption.out_ms if after else None,
    )
