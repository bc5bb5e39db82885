"""What the spelling of captions is judged by."""

from collections.abc import Set
from dataclasses import dataclass

from dunlin.core.text.dictionaries import Dictionary

__all__ = ["Spelling"]


@dataclass(frozen=True)
class Spelling:
    """A dictionary, and the words that are right although it has them not."""

    dictionary: Dictionary
    known: Set[str]
    """In small letters."""
