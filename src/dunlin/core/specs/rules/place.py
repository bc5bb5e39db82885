"""What a rule looks at, what it says, and what it proposes."""

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal, TypeAlias

from dunlin.core.captions.model import Caption, Track
from dunlin.core.messages import Message
from dunlin.core.specs.measures import Bounds, Measures
from dunlin.core.specs.model import RuleName, Spec
from dunlin.core.specs.spelling import Spelling
from dunlin.core.specs.translation import Translation
from dunlin.core.styles.contrast import Backdrop
from dunlin.core.styles.model import StyleSheet
from dunlin.core.styles.picture import Script
from dunlin.core.timecode import FrameRate

__all__ = [
    "Broken", "Candidate", "Check", "Finding", "Mend", "Place", "Rule", "Setting", "Trigger", "Unit",
    "Weight", "triggers_in",
]  # fmt: skip

Weight: TypeAlias = Literal["error", "advice"]
Unit = Literal[
    "characters", "lines", "cps", "wpm", "ms", "frames", "percent", "captions", "places", "ratio"
]


@dataclass(slots=True)
class Finding:
    """A limit that a caption breaks.

    `measured` and `limit` are in `unit`: characters, lines, characters a second (`cps`), words a
    minute (`wpm`), milliseconds (`ms`), frames, per cent, captions, or the number of places in the
    text.
    """

    rule: RuleName
    caption: str
    in_ms: int
    out_ms: int
    measured: float
    limit: float
    unit: Unit
    weight: Weight
    message: Message
    waived: str | None = None
    """Why it was waived, if it was."""


@dataclass(frozen=True)
class Setting:
    """What rules go by besides the captions: the spec, and what is known of the film."""

    spec: Spec
    rate: FrameRate
    language: str = "en"
    shots: Sequence[int] = ()
    """Milliseconds of the shot changes, in order."""
    picture: Script = field(default_factory=lambda: Script(1280, 720))
    speech: Sequence[tuple[int, int]] = ()
    """Stretches in which somebody speaks, in milliseconds, in order; none where it is not known."""
    film_ends_ms: int | None = None
    """Length of the film; None where there is none, or it is not known."""
    sheet: StyleSheet = field(default_factory=StyleSheet)
    """The styles that captions are drawn in."""
    backdrop: Backdrop | None = None
    """What the film shows behind them; None where that is not known."""
    translation: Translation | None = None
    """What they are the translation of; None where they are none."""
    spelling: Spelling | None = None
    """What their spelling is judged by; None where no dictionary ships for their language."""


@dataclass(slots=True)
class Place:
    """A caption, its neighbours in the order of ins, and its measures."""

    caption: Caption
    text: str
    before: Caption | None
    after: Caption | None
    measures: Measures
    track: Track
    index: int
    is_joined: bool
    """Whether one that came before is still shown when it comes."""


Broken: TypeAlias = tuple[float, float, Message]
"""What is measured, what the limit is, and a message with both."""

Check: TypeAlias = Callable[[Place], Iterable[Broken]]
"""Tells of each time that a limit is broken."""

Candidate: TypeAlias = tuple[tuple[str, ...], tuple[Caption, ...]]
"""A way to mend: ids of captions to take away, and captions to put in; those of the same id replace."""

Mend: TypeAlias = Callable[[Place, Setting], Iterable[Candidate]]


Trigger: TypeAlias = Literal["figure", "line-break", "mark", "spacing", "joined"]
"""What a caption must have before a rule has anything to say: it spares most captions most rules.

A figure is one beyond a limit. Marks are brackets, digits, colons, quotation marks and what tags are
made of; spacing is what stands behind a space or a line break and is no word, and marks in a row.
Joined is one that comes while another is shown.
"""

_MARK = re.compile(r"""[<&{\[(\d:"“”„‟«»]""")
_SPACING = re.compile(r"[ \t\n][ \t\n,.;:!?…–—-]|\.\.|…")


def triggers_in(place: Place, bounds: Bounds) -> tuple[bool, ...]:
    """Which triggers a caption has, in their order."""
    text = place.text
    # The edges of a text are those of a line.
    spaced = _SPACING.search(f"\n{text}\n") is not None
    is_beyond, is_marked = not bounds.hold(place.measures), _MARK.search(text) is not None
    return is_beyond, "\n" in text, is_marked, spaced, place.is_joined


@dataclass(frozen=True)
class Rule:
    """One thing that a spec can ask for."""

    name: RuleName
    limits: tuple[str, ...]
    """The spec's fields it goes by."""
    unit: Unit
    check: Callable[[Setting], Check | None]
    """The check for a setting, or None when the spec does not ask for it."""
    mend: Mend | None = None
    """Ways to mend a finding, the best first; None where only a person can."""
    trigger: Trigger | None = None
    """What a caption must have before the check has anything to say; None for nothing."""
