"""Records: small parts of a project, each a value under a key, and the one edit they have."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, TypeAlias

__all__ = ["Record", "SetEntries", "SetRecord", "entries_between", "set_entries"]

Record: TypeAlias = Mapping[str, Any]
"""Values as plain data, by key."""


@dataclass(frozen=True)
class SetEntries:
    """Puts values under keys; None takes a key away."""

    entries: dict[str, Any]
    kind: Literal["set-entries"] = "set-entries"

    def names(self) -> frozenset[str]:
        """Keys that must be as the maker of the edit saw them."""
        return frozenset(self.entries)


@dataclass(frozen=True)
class SetRecord:
    """A record after an edit, the edit that undoes it, and the keys that were set."""

    record: Record
    inverse: SetEntries
    touched: frozenset[str]


def set_entries(record: Record, edit: SetEntries) -> SetRecord:
    """Carries it out; it always can be."""
    before = {key: record.get(key) for key in edit.entries}
    after = {
        key: value for key, value in (dict(record) | edit.entries).items() if value is not None
    }
    return SetRecord(after, SetEntries(before), edit.names())


def entries_between(before: Record, after: Record) -> dict[str, Any]:
    """The entries whose setting makes one record another."""
    gone = {key: None for key in before if key not in after}
    return gone | {key: value for key, value in after.items() if before.get(key) != value}
