"""A project's log as it stands at one moment, read within one transaction."""

from dataclasses import dataclass
from functools import cached_property

from sqlalchemy import Connection, bindparam, or_, select

from dunlin.store.log.model import Changed
from dunlin.store.tables import LogRow, ProjectRow, TargetRow

__all__ = ["Moment"]

# Statements that each edit needs are put together once: that takes longer than carrying them out.
_REVISIONS = (
    select(ProjectRow.revision, TargetRow.address, TargetRow.revision)
    .outerjoin(TargetRow, TargetRow.project_id == ProjectRow.id)
    .where(ProjectRow.id == bindparam("project"))
)
_TOUCHED = select(LogRow.touched, LogRow.near).where(
    LogRow.project_id == bindparam("project"),
    LogRow.target == bindparam("target"),
    LogRow.revision > bindparam("after"),
    or_(LogRow.window != bindparam("window"), LogRow.window == ""),
)


@dataclass
class Moment:
    """The revisions of a project and of its targets, and what was touched between them."""

    connection: Connection
    project_id: str

    @cached_property
    def _revisions(self) -> tuple[int, dict[str, int]]:
        rows = self.connection.execute(_REVISIONS, {"project": self.project_id}).all()
        return (rows[0][0] if rows else 0), {address: at for _, address, at in rows if address}

    @property
    def newest(self) -> int:
        """The project's revision."""
        return self._revisions[0]

    def revision(self, address: str) -> int | None:
        """The project's revision when a target was last changed; None when it never was."""
        return self._revisions[1].get(address)

    def touched_since(self, address: str, revision: int, but_for: str = "") -> Changed:
        """What was touched in a target after a revision.

        :param but_for: a window; what was done in it is left out
        """
        if (self.revision(address) or 0) <= revision:
            return Changed(frozenset(), frozenset())
        rows = self.connection.execute(
            _TOUCHED,
            {"project": self.project_id, "target": address, "after": revision, "window": but_for},
        )
        touched: set[str] = set()
        near: set[str] = set()
        for ours, beside_ours in rows:
            touched.update(ours)
            near.update(beside_ours)
        return Changed(frozenset(touched), frozenset(near - touched))
