"""What a look is: a style, how much is shown at once, which words weigh, and what is done where words are too wide."""

from dataclasses import dataclass, field
from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from dunlin.core.captions.look import Look, StyleName

__all__ = [
    "ALL_SEEN",
    "AMOUNTS",
    "Amount",
    "Fit",
    "Mend",
    "Rhythm",
    "Seen",
    "ShortLook",
    "Weighing",
]


@dataclass(frozen=True)
class Amount:
    """How much is shown at once: so many words in so many lines, or as many words as the lines hold."""

    words: int | None
    lines: int


AMOUNTS = (
    Amount(1, 1), Amount(2, 1), Amount(3, 1), Amount(4, 1), Amount(None, 1), Amount(6, 2), Amount(None, 2),
)  # fmt: skip
"""From a single word to two full lines."""


@dataclass(frozen=True)
class Rhythm:
    """Where captions begin and end."""

    by: Literal["amount", "breath", "spec"] = "amount"
    """By how much is shown at once, by the pauses of whoever speaks, or within a spec's limits."""
    amount: Annotated[int, Field(ge=1, le=len(AMOUNTS))] = 3
    """Which of `AMOUNTS`, counted from 1."""


Mend: TypeAlias = Literal["fewer-words", "two-lines", "smaller"]


@dataclass(frozen=True)
class Fit:
    """What is done, in this order, where words are wider than what a viewer sees."""

    order: Annotated[tuple[Mend, ...], Field(max_length=3)] = (
        "fewer-words",
        "two-lines",
        "smaller",
    )
    smallest: Annotated[float, Field(ge=0.2, le=1, allow_inf_nan=False)] = 0.6
    """Of their size: how small letters may become before anything else is done."""


_Share: TypeAlias = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


@dataclass(frozen=True)
class Seen:
    """The part of the picture that no player covers with its own: edges as parts of its width and height."""

    left: _Share = 0.03
    top: _Share = 0.03
    right: _Share = 0.97
    bottom: _Share = 0.97


ALL_SEEN = Seen()
"""The whole picture, but for a brim."""


@dataclass(frozen=True)
class Weighing:
    """How many words are words of weight."""

    share: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.12
    """Of all words, at the most."""
    colours: Annotated[int, Field(ge=0, le=2)] = 1
    """In how many ways they are set apart: none, one, or numbers and names in another than the rest."""


@dataclass(frozen=True)
class ShortLook:
    """A look for short form."""

    name: StyleName
    style: Look
    """Of captions, and of their words by whether they are spoken; with case, motion and place."""
    rhythm: Rhythm = field(default_factory=Rhythm)
    weighing: Weighing = field(default_factory=Weighing)
    fit: Fit = field(default_factory=Fit)
