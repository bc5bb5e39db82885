"""What is measured on a caption."""

from dataclasses import dataclass
from math import inf

from dunlin.core.captions.model import Caption
from dunlin.core.specs.model import Spec
from dunlin.core.text.measure import line_lengths, read_characters, word_count
from dunlin.core.timecode import FrameRate, first_frame_from

__all__ = [
    "Bounds",
    "Measures",
    "gap_frames",
    "least_duration_ms",
    "least_gap_ms",
    "measures",
]


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


@dataclass(slots=True)
class Bounds:
    """Figures between which no limit of a spec is broken."""

    longest_line: float
    lines: float
    reading_speed: float
    words_per_minute: float
    least_duration_ms: float
    greatest_duration_ms: float
    least_gap_ms: float

    @classmethod
    def of(cls, spec: Spec, rate: FrameRate) -> "Bounds":
        """The bounds that a spec sets; infinite where it sets none."""
        return cls(
            spec.characters_per_line or inf,
            spec.lines or inf,
            spec.reading_speed or inf,
            spec.words_per_minute or inf,
            # Of some lengths more is wanted; no more than this of any.
            max(spec.least_duration_ms or 0, *(ms for _, ms in spec.least_duration_by_length), 0),
            spec.greatest_duration_ms or inf,
            # From there on a gap has its frames, is none to be closed, and is no overlap.
            max(least_gap_ms(spec, rate), spec.close_gaps_below_ms or 0),
        )

    def hold(self, figures: Measures) -> bool:
        """Whether all figures of a caption are within them."""
        return (
            figures.longest_line <= self.longest_line
            and figures.lines <= self.lines
            and figures.reading_speed <= self.reading_speed
            and figures.words_per_minute <= self.words_per_minute
            and self.least_duration_ms <= figures.duration_ms <= self.greatest_duration_ms
            and (figures.gap_before_ms is None or figures.gap_before_ms >= self.least_gap_ms)
        )


def gap_frames(before: Caption, after: Caption, rate: FrameRate) -> int:
    """Frames on which neither caption is shown; below zero, frames on which both are."""
    return first_frame_from(after.in_ms, rate) - first_frame_from(before.out_ms, rate)


def least_duration_ms(spec: Spec, characters: int) -> int:
    """Milliseconds for which a spec wants a caption of so many characters shown at the least."""
    by_length = (ms for count, ms in spec.least_duration_by_length if characters >= count)
    return max(spec.least_duration_ms or 0, *by_length, 0)


def least_gap_ms(spec: Spec, rate: FrameRate) -> int:
    """Milliseconds that make a gap long enough for a spec, whichever frames it begins and ends on."""
    frames = -(-(spec.least_gap_frames or 0) * 1000 * rate.denominator // rate.numerator)
    return max(frames, spec.least_gap_ms or 0)


def measures(
    caption: Caption, text: str, before: Caption | None, after: Caption | None, spec: Spec
) -> Measures:
    """Measures of a caption with its text, between its neighbours in the order of ins, counted as a
    spec counts."""
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
