"""How the measured values of a track are spread, for a limit to be drawn into."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from dunlin.core.captions.model import Track
from dunlin.core.specs.judge import Judge
from dunlin.core.specs.measures import gap_frames
from dunlin.core.specs.rules.line_shape import balance_of
from dunlin.core.specs.rules.place import Place, Setting
from dunlin.core.specs.rules.safe_area import width_of
from dunlin.core.specs.rules.sentence import captions_of_sentence
from dunlin.core.specs.rules.shot_change import frames_to_shot

__all__ = ["Distribution", "counts_by_rule", "distributions"]

_Value = Callable[[Place, Setting], float | None]
# What is measured, and start, width and number of the bins. These are the same for every track, so that
# a bar stays where it is while limits are tried out; what is counted in whole numbers stands in the
# middle of its bin.
_MEASURES: dict[str, tuple[_Value, float, float, int]] = {
    "characters_per_line": (lambda place, _: place.measures.longest_line, 0.5, 1, 80),
    "lines": (lambda place, _: place.measures.lines, 0.5, 1, 8),
    "safe_area": (width_of, 0, 0.025, 48),
    "line_balance": (lambda place, _: balance_of(place), 0, 5, 21),
    "reading_speed": (lambda place, _: place.measures.reading_speed, 0, 1, 40),
    "words_per_minute": (lambda place, _: place.measures.words_per_minute, 0, 10, 40),
    "duration_ms": (lambda place, _: place.measures.duration_ms, 0, 250, 40),
    "gap_ms": (lambda place, _: place.measures.gap_before_ms, 0, 50, 40),
    "gap_frames": (
        lambda place, setting: (
            gap_frames(place.before, place.caption, setting.rate) if place.before else None
        ),
        -0.5, 1, 48,
    ),
    "shot_change_frames": (frames_to_shot, 0.5, 1, 48),
    "captions_per_sentence": (captions_of_sentence, 0.5, 1, 12),
}  # fmt: skip


@dataclass(frozen=True)
class Distribution:
    """How many captions have a value from `start + n * step` on, for each `n`."""

    measure: str
    start: float
    step: float
    counts: tuple[int, ...]


def distributions(track: Track, judge: Judge) -> list[Distribution]:
    """A distribution for each measure that a limit can be set to; values beyond the ends of the usual
    range are counted in the outermost bins."""
    places = [judge.place(track, index) for index in range(len(track))]
    return [
        _spread(name, (value_of(place, judge.setting) for place in places), start, step, bins)
        for name, (value_of, start, step, bins) in _MEASURES.items()
    ]


def _spread(
    name: str, values: Iterable[float | None], start: float, step: float, bins: int
) -> Distribution:
    counts = [0] * bins
    for value in values:
        if value is not None:
            counts[min(max(int((value - start) // step), 0), bins - 1)] += 1
    return Distribution(name, start, step, tuple(counts))


def counts_by_rule(track: Track, judge: Judge) -> dict[str, int]:
    """How many captions break each rule; rules that none breaks are left out."""
    found: dict[str, set[str]] = {}
    for finding in judge.findings(track):
        found.setdefault(finding.rule, set()).add(finding.caption)
    return {rule: len(ids) for rule, ids in found.items()}
