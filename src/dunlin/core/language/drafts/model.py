"""What a draft is asked for, and what comes."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

from dunlin.core.language.memory.pairs import Pair
from dunlin.core.specs.translation import TermList

__all__ = ["Draft", "Known", "Wanted"]


@dataclass(frozen=True)
class Wanted:
    """A caption that a draft is wanted for."""

    text: str
    """What its sources say, in one line."""
    before: str = ""
    """What is said before it and behind it, which tells how it is meant."""
    after: str = ""
    most: int | None = None
    """Characters that can be read in its time; None without a limit."""
    from_ms: int = 0
    """When its sources are said."""
    to_ms: int = 0


@dataclass(frozen=True)
class Draft:
    """A translation that no person has confirmed yet."""

    text: str
    """In one line."""
    origin: str
    """The name of a memory's film or file, or of an engine, as people call it."""


Lookup: TypeAlias = Callable[[str], Sequence[Pair]]
"""What is remembered of sources like one, the most alike first."""


@dataclass(frozen=True)
class Known:
    """What people have translated before, in one pair of languages."""

    language: str
    """BCP 47 tags of the source and the target."""
    target: str
    like: Lookup
    terms: TermList
