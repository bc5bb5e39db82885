"""A transaction of the log under way."""

import time
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import Connection, bindparam, delete, insert, select

from dunlin.core.captions import folded
from dunlin.core.captions.edits import SCHEMA
from dunlin.core.project import ReplaceWords, SetEntries, TakeRun
from dunlin.store.log.model import Author, Changed, Operation, dumped, read_operation
from dunlin.store.log.moment import Moment
from dunlin.store.tables import LogRow

__all__ = ["Writing"]


_ENTRY = insert(LogRow)
_LAST = (
    select(LogRow.__table__)
    .where(LogRow.project_id == bindparam("project"), LogRow.target == bindparam("target"))
    .order_by(LogRow.revision.desc())
    .limit(1)
)


@dataclass
class Writing:
    """The project's revision as it grows, states as they become, and entries as they are written."""

    began: Moment
    revision: int
    gesture_id: int
    author: Author
    key: str | None = None
    """Name of the edit."""
    goes_on: bool = False
    """Whether the gesture has entries already."""
    states: dict[str, Any] = field(default_factory=dict)
    changed: dict[str, Changed] = field(default_factory=dict)

    @property
    def connection(self) -> Connection:
        return self.began.connection

    @property
    def project_id(self) -> str:
        return self.began.project_id

    def note(self, address: str, touched: frozenset[str], near: frozenset[str]) -> None:
        """Remembers what was touched in a target, for who is told of it."""
        known = self.changed.get(address)
        if known is None:
            known = Changed(frozenset(), before=self.began.revision(address) or 0)
        both = known.touched | touched
        self.changed[address] = Changed(both, (known.near | near) - both, known.before)

    def add_entry(
        self,
        kind: str,
        address: str,
        operation: Operation,
        inverse: Operation,
        touched: frozenset[str],
        near: frozenset[str],
    ) -> None:
        """Writes an entry; one that goes on with a gesture takes the place of its last."""
        if kind == "edit" and self.goes_on and self._fold(address, operation, touched, near):
            return
        self.connection.execute(
            _ENTRY,
            self._entry(kind, address)
            | {
                "operation": dumped(operation),
                "inverse": dumped(inverse),
                "touched": sorted(touched),
                "near": sorted(near),
            },
        )

    def _entry(self, kind: str, address: str) -> dict[str, Any]:
        return {
            "project_id": self.project_id,
            "revision": self.revision,
            "gesture_id": self.gesture_id,
            "kind": kind,
            "target": address,
            "actor": self.author.person,
            "window": self.author.window,
            "edit_key": self.key,
            "made_ms": time.time_ns() // 1_000_000,
            "schema": SCHEMA,
        }

    def _fold(
        self,
        address: str,
        operation: Operation,
        touched: frozenset[str],
        near: frozenset[str],
    ) -> bool:
        """Puts the entry of a gesture that goes on in the place of its last one, where both are one edit.

        It moves forward in the log, so that whoever saw the last one is told of this one. Nothing else may
        have touched the target since.
        """
        connection = self.connection
        last = connection.execute(_LAST, {"project": self.project_id, "target": address}).first()
        if last is None or last.gesture_id != self.gesture_id or last.kind != "edit":
            return False
        first = read_operation(last.operation, last.schema)
        if isinstance(first, SetEntries | ReplaceWords | TakeRun) or isinstance(
            operation, SetEntries | ReplaceWords | TakeRun
        ):
            return False
        one = folded(first, operation)
        if one is None:
            return False
        inverse = dumped(read_operation(last.inverse, last.schema))
        connection.execute(delete(LogRow).where(LogRow.seq == last.seq))
        connection.execute(
            _ENTRY,
            self._entry("edit", address)
            | {
                "operation": dumped(one),
                "inverse": inverse,
                "touched": sorted(frozenset(last.touched) | touched),
                "near": sorted(frozenset(last.near) | near),
            },
        )
        return True
