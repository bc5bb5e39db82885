"""What a rule looks at, and what it says."""

from dataclasses import dataclass
from typing import Literal

from dunlin.core.captions.model import Caption
from dunlin.core.specs.measures import Measures
from dunlin.core.timecode import FrameRate

__all__ = ["Finding", "Place"]


@dataclass(frozen=True)
class Finding:
    """A limit that a caption breaks.

    `measured` and `limit` are in `unit`: characters, lines, characters a second (`cps`),
    milliseconds (`ms`) or `frames`.
    """

    rule: str
    caption: str
    in_ms: int
    out_ms: int
    measured: float
    limit: float
    unit: Literal["characters", "lines", "cps", "ms", "frames"]
    weight: Literal["error", "advice"]
    message: str


@dataclass(frozen=True)
class Place:
    """A caption, its neighbours in the order of ins, and its measures."""

    caption: Caption
    before: Caption | None
    after: Caption | None
    measures: Measures
    rate: FrameRate

    def finding(
        self,
        rule: str,
        measured: float,
        limit: float,
        unit: Literal["characters", "lines", "cps", "ms", "frames"],
        message: str,
    ) -> Finding:
        """An error about this caption."""
        caption = self.caption
        return Finding(
            rule, caption.id, caption.in_ms, caption.out_ms, measured, limit, unit, "error", message
        )
