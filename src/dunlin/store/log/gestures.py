"""Gestures: what belongs together in the log, and what can be undone and done again."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Connection, ScalarSelect, bindparam, exists, insert, select, update

from dunlin.store.log.model import Author, InTheWay
from dunlin.store.tables import GestureRow, LogRow

__all__ = ["begin_gesture", "blocking", "newest", "set_state"]

_ANYBODY = ""


def _first(actor: str, state: str) -> ScalarSelect[int]:
    """The gesture of an actor that is undone first, or done again first."""
    order = GestureRow.id.desc() if state == "done" else GestureRow.id.asc()
    return (
        select(GestureRow.id)
        .where(
            GestureRow.project_id == bindparam("project"),
            GestureRow.actor == bindparam(actor),
            GestureRow.state == state,
            exists().where(
                LogRow.gesture_id == GestureRow.id,
                LogRow.target.in_(bindparam("targets", expanding=True)),
            ),
        )
        .order_by(order)
        .limit(1)
        .scalar_subquery()
    )


# One actor after the other: so an index gives each in order, however long the history is.
_NEWEST = select(
    *(_first(actor, state) for state in ("done", "undone") for actor in ("own", "anybody"))
)
_LAST = (
    select(GestureRow.id, GestureRow.key)
    .where(
        GestureRow.project_id == bindparam("project"),
        GestureRow.actor == bindparam("own"),
        GestureRow.state == "done",
    )
    .order_by(GestureRow.id.desc())
    .limit(1)
)
_BEGIN = insert(GestureRow)


def newest(
    connection: Connection, project_id: str, person: str, targets: Sequence[str]
) -> tuple[int | None, int | None]:
    """The gesture of a person that undo takes back: the newest; and the one that redo does again: the
    one that was undone last.

    :param targets: addresses; a gesture counts when it touched one of them
    """

    asked = {"project": project_id, "own": person, "anybody": _ANYBODY, "targets": list(targets)}
    found = connection.execute(_NEWEST, asked).one()
    return (
        max((id_ for id_ in found[:2] if id_ is not None), default=None),
        min((id_ for id_ in found[2:] if id_ is not None), default=None),
    )


def begin_gesture(
    connection: Connection, project_id: str, author: Author, key: str, targets: Sequence[str]
) -> tuple[int, bool]:
    """Id of the gesture that an edit belongs to, the last one or a new one, and whether it goes on.

    What this person had undone in the same targets can no longer be done again.
    """
    while (undone := newest(connection, project_id, author.person, targets)[1]) is not None:
        set_state(connection, undone, "dropped")
    last = connection.execute(_LAST, {"project": project_id, "own": author.person}).first()
    if last and last.key == key:
        return int(last.id), True
    values = {"project_id": project_id, "key": key, "actor": author.person, "state": "done"}
    result = connection.execute(_BEGIN, values)
    return int(result.inserted_primary_key[0]), False  # type: ignore[index]


def set_state(connection: Connection, gesture_id: int, state: str) -> None:
    """Says that a gesture is done, undone or dropped."""
    connection.execute(update(GestureRow).where(GestureRow.id == gesture_id).values(state=state))


def blocking(connection: Connection, project_id: str, rows: Sequence[Any]) -> InTheWay | None:
    """A later edit that stands, of something that entries of the log touched; None where none does.

    :param rows: entries of one gesture: target, revision and what was touched
    """
    for target, revision, touched, gesture_id in rows:
        mine = frozenset(touched)
        later = connection.execute(
            select(LogRow.actor, LogRow.touched)
            .join(GestureRow, GestureRow.id == LogRow.gesture_id)
            .where(
                LogRow.project_id == project_id,
                LogRow.target == target,
                LogRow.revision > revision,
                LogRow.gesture_id != gesture_id,
                LogRow.kind == "edit",
                GestureRow.state == "done",
            )
            .order_by(LogRow.revision)
        )
        for actor, theirs in later:
            if both := _overlap(mine, frozenset(theirs)):
                return InTheWay(actor, target, both)
    return None


def _overlap(mine: frozenset[str], theirs: frozenset[str]) -> frozenset[str]:
    """What both touched; `*` is all of a target."""
    if "*" in mine:
        return theirs
    return mine if "*" in theirs else mine & theirs
