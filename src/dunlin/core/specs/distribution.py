"""How the measured values of a track are spread, for a limit to be drawn into."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from dunlin.core.captions.model import Track
from dunlin.core.specs.judge import Judge
from dunlin.core.specs.measures import Measures

__all__ = ["Distribution", "counts_by_rule", "distributions"]

# Start, width and number of the bins. They are the same for every track, so that a bar stays where it
# is while limits are tried out; what is counted in whole numbers stands in the middle of its bin.
_BINS = {
    "characters_per_line": (0.5, 1, 80),
    "lines": (0.5, 1, 8),
    "reading_speed": (0, 1, 40),
    "words_per_minute": (0, 10, 40),
    "duration_ms": (0, 250, 40),
    "gap_ms": (0, 50, 40),
}
_VALUES: dict[str, Callable[[Measures], float | None]] = {
    "characters_per_line": lambda measures: measures.longest_line,
    "lines": lambda measures: measures.lines,
    "reading_speed": lambda measures: measures.reading_speed,
    "words_per_minute": lambda measures: measures.words_per_minute,
    "duration_ms": lambda measures: measures.duration_ms,
    "gap_ms": lambda measures: measures.gap_before_ms,
}


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
    measured = [judge.place(track, index).measures for index in range(len(track))]
    found = []
    for name, value_of in _VALUES.items():
        values = [value for measures in measured if (value := value_of(measures)) is not None]
        found.append(_spread(name, values))
    return found


def _spread(name: str, values: Iterable[float]) -> Distribution:
    start, step, bins = _BINS[name]
    counts = [0] * bins
    for value in values:
        counts[min(max(int((value - start) // step), 0), bins - 1)] += 1
    return Distribution(name, start, step, tuple(counts))


def counts_by_rule(track: Track, judge: Judge) -> dict[str, int]:
    """How many captions break each rule; rules that none breaks are left out."""
    found: dict[str, set[str]] = {}
    for finding in judge.findings(track):
        found.setdefault(finding.rule, set()).add(finding.caption)
    return {rule: len(ids) for rule, ids in found.items()}
