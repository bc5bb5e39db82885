"""What is measured on a caption."""

from dataclasses import dataclass

from dunlin.core.captions.model import Caption
from dunlin.core.specs.model import Spec
from dunlin.core.text.measure import line_lengths, read_characters, word_count
from dunlin.core.timecode import FrameRate, first_frame_from

__all__ = ["Measures", "gap_frames", "least_gap_ms", "measures"]


@dataclass(slots=True)
class Measures:
    """Figures of one caption. A gap is None before the first and after the last caption."""

    characters: int
    longest_line: int
    lines: int
    reading_speed: float
    words_per_minute: float
    duration_ms: int
    gap_before_ms: int | None
    gap_after_ms: int | None
    line_lengths: list[int]
    """Characters of each line."""


def gap_frames(before: Caption, after: Caption, rate: FrameRate) -> int:
    """Frames on which neither caption is shown; below zero, frames on which both are."""
    return first_frame_from(after.in_ms, rate) - first_frame_from(before.out_ms, rate)


def least_gap_ms(spec: Spec, rate: FrameRate) -> int:
    """Milliseconds that make a gap long enough for a spec, whichever frames it begins and ends on."""
    frames = -(-(spec.least_gap_frames or 0) * 1000 * rate.denominator // rate.numerator)
    return max(frames, spec.least_gap_ms or 0)


def measures(
    caption: Caption, before: Caption | None, after: Caption | None, spec: Spec
) -> Measures:
    """Measures of a caption between its neighbours in the order of ins, counted as a spec counts."""
    text = caption.text
    wide = spec.wide_characters_count_two
    lengths = line_lengths(text, wide_as_two=wide)
    count = sum(lengths)
    duration = caption.out_ms - caption.in_ms
    read = count
    if not (spec.spaces_count and spec.punctuation_counts):
        read = read_characters(
            text, spaces=spec.spaces_count, punctuation=spec.punctuation_counts, wide_as_two=wide
        )
    return Measures(
        count,
        max(lengths),
        len(lengths) if text else 0,
        read * 1000 / duration,
        word_count(text) * 60_000 / duration,
        duration,
        caption.in_ms - before.out_ms if before else None,
        after.in_ms - caption.out_ms if after else None,
        lengths,
    )
