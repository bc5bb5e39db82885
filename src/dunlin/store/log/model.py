"""What goes into a project's log and what comes of it."""

import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, TypeAlias

from pydantic import TypeAdapter

from dunlin.core.captions.edits import SCHEMA, upgraded
from dunlin.core.captions.edits import Operation as CaptionsOperation
from dunlin.core.messages import Message, Told, message
from dunlin.core.project import ReplaceWords, SetEntries, TakeRun

__all__ = [
    "Author",
    "Changed",
    "Done",
    "InTheWay",
    "Operation",
    "Outdated",
    "Step",
    "UnknownTrack",
    "dumped",
    "new_caption_id",
    "read_operation",
]

Operation: TypeAlias = CaptionsOperation | SetEntries | ReplaceWords | TakeRun

_OPERATION: TypeAdapter[Operation] = TypeAdapter(Operation)


def dumped(operation: Operation) -> dict[str, Any]:
    """An operation as plain data, in the form of today."""
    data: dict[str, Any] = _OPERATION.dump_python(operation, mode="json")
    return data


def read_operation(data: dict[str, Any], schema: int = SCHEMA) -> Operation:
    """An operation that was written down in the form of a schema."""
    return _OPERATION.validate_python(upgraded(data, schema))


def new_caption_id() -> str:
    """An id that no caption of a track has."""
    return uuid.uuid4().hex[:12]


class UnknownTrack(Told, LookupError):
    """There is no track of that id."""

    def __init__(self) -> None:
        super().__init__(message("tracks.gone"))


@dataclass(frozen=True)
class Author:
    """Who edits: a person, and the window it is done in. Windows of one person share their undo."""

    person: str
    window: str = ""


@dataclass(frozen=True)
class Step:
    """An operation on the target at an address.

    `base` is the project's revision that its maker had seen of the target; None is the newest.
    """

    target: str
    operation: Operation
    base: int | None = None
    whole: bool = False
    """Whether it was made of the target as a whole: any change of it since stands against it."""


@dataclass(frozen=True)
class Changed:
    """What was touched in a target, what stands beside that, and the target's revision before."""

    touched: frozenset[str]
    near: frozenset[str] = frozenset()
    before: int = 0


@dataclass(frozen=True)
class Done:
    """A gesture, or a part of it, that is stored; what it touched, by address."""

    project_id: str
    revision: int
    gesture: str
    author: Author
    changed: Mapping[str, Changed]
    again: bool = False
    """Whether it had been stored before, and its maker did not hear of it."""


class Outdated(Told):
    """An edit was made from an old state of something that has changed since."""

    def __init__(self, target: str, touched: Iterable[str], revision: int) -> None:
        super().__init__(message("edits.outdated"))
        self.target = target
        self.touched = frozenset(touched)
        self.revision = revision


# Enough to go there.
_MOST_NAMED = 20


class InTheWay(Told):
    """A gesture cannot be taken back, or done again, because a later one depends on it."""

    def __init__(self, actor: str, target: str, touched: Iterable[str]) -> None:
        self.actor = actor
        self.target = target
        self.touched = frozenset(touched)
        where = {"actor": actor, "target": target, "touched": sorted(self.touched)[:_MOST_NAMED]}
        super().__init__(Message("edits.in-the-way", where))
