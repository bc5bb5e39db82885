"""Edits of the transcript. Words stand at positions: numbers with room between any two."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from dunlin.core.captions import Conflict
from dunlin.core.messages import message
from dunlin.core.speech.words import Word

__all__ = ["ROOM", "PlacedWord", "ReplaceWords", "TakeRun", "Wording", "replace_words", "spread"]

ROOM = 1 << 20
"""Between words that are heard. A passage is written anew between its neighbours' positions, so that
the room is not used up by editing one place again and again."""


@dataclass(frozen=True)
class PlacedWord:
    """A word and its position."""

    position: int
    word: Word


@dataclass(frozen=True)
class ReplaceWords:
    """Takes the words at positions away, and puts others in."""

    removed: tuple[int, ...]
    put: tuple[PlacedWord, ...]
    kind: Literal["replace-words"] = "replace-words"

    def names(self) -> frozenset[str]:
        """Its places were found by counting, so the whole must be as the maker of the edit saw it."""
        return frozenset({"*"})


@dataclass(frozen=True)
class TakeRun:
    """Makes the words of one recognition, or of a file, the transcript; None makes it empty."""

    run: str | None
    instead_of: str | None
    kind: Literal["take-run"] = "take-run"

    def names(self) -> frozenset[str]:
        """It is about all words."""
        return frozenset({"*"})


@dataclass(frozen=True)
class Wording:
    """The edit that undoes another of the transcript, and the positions it touched; `*` is all."""

    inverse: ReplaceWords | TakeRun
    touched: frozenset[str]


def replace_words(there: Mapping[int, Word], edit: ReplaceWords) -> Wording:
    """What an edit does to the words at the positions it speaks of.

    :param there: the words that stand at positions of the edit now
    :raises Conflict: when a word to be taken away is not there, or another stands where one is put
    """
    removed = frozenset(edit.removed)
    positions = [placed.position for placed in edit.put]
    if len(removed) != len(edit.removed) or len(set(positions)) != len(positions):
        raise Conflict(message("edits.word-twice"))
    if removed - there.keys() or any(at in there and at not in removed for at in positions):
        raise Conflict(message("edits.other-transcript"))
    before = tuple(PlacedWord(at, there[at]) for at in edit.removed)
    touched = frozenset(map(str, {*removed, *positions}))
    return Wording(ReplaceWords(tuple(positions), before), touched)


def spread(words: Sequence[Word], after: int | None, before: int | None) -> list[PlacedWord] | None:
    """Words at positions between two others; None where there is no room for as many.

    :param after: position of the word they follow, None at the beginning
    :param before: position of the word they come before, None at the end
    """
    if after is not None:
        low = after
    else:
        low = -ROOM if before is None else before - ROOM * (len(words) + 1)
    high = before if before is not None else low + ROOM * (len(words) + 1)
    step = (high - low) // (len(words) + 1)
    if not step and words:
        return None
    return [PlacedWord(low + step * (n + 1), word) for n, word in enumerate(words)]
