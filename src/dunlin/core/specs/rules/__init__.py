"""The rules, a module each. A rule takes a place in a track and a spec, and gives its findings."""

from collections.abc import Callable, Iterable

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules import duration, gap, line_count, line_length, overlap, reading_speed
from dunlin.core.specs.rules.place import Finding, Place

__all__ = ["RULES", "Finding", "Place"]

RULES: tuple[Callable[[Place, Spec], Iterable[Finding]], ...] = (
    overlap.check,
    gap.check,
    line_length.check,
    line_count.check,
    reading_speed.check,
    duration.check,
)
