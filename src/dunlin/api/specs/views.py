"""Specs and what captions measure by them."""

from dunlin.api.wire import View
from dunlin.core.specs import RuleName

__all__ = ["DistributionView", "JudgementView", "RuleView"]


class RuleView(View):
    """A rule, the limits of a spec it goes by, and whether a machine can mend what it finds."""

    name: RuleName
    limits: tuple[str, ...]
    unit: str
    mends: bool


class DistributionView(View):
    """How many captions have a value from `start + n * step` on, for each `n`."""

    measure: str
    start: float
    step: float
    counts: tuple[int, ...]


class JudgementView(View):
    """A track judged by a spec that is being tried out."""

    caption_count: int
    broken: dict[str, int]
    """How many captions break each rule."""
    distributions: list[DistributionView]
