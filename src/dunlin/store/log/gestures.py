"""Gestures: what belongs together in the log, and what can be undone and done again."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Connection, exists, insert, select, update

from dunlin.store.log.model import Author, InTheWay
from dunlin.store.tables import GestureRow, LogRow

__all__ = ["begin_gesture", "blocking", "newest", "set_state"]

_ANYBODY = ""


def newest(
    connection: Connection, project_id: str, person: str, targets: Sequence[str], state: str
) -> int | None:
    """The gesture of a person that undo takes back, or that redo does again.

    :param targets: addresses; a gesture counts when it touched one of them
    :param state: `done` gives the newest one; `undone` the one that was undone last
    """
    order, best = (GestureRow.id.desc(), max) if state == "done" else (GestureRow.id.asc(), min)
    # One actor after the other: so an index gives each in order, however long the history is.
    found = [
        connection.scalar(
            select(GestureRow.id)
            .where(
                GestureRow.project_id == project_id,
                GestureRow.actor == actor,
                GestureRow.state == state,
                exists().where(LogRow.gesture_id == GestureRow.id, LogRow.target.in_(targets)),
            )
            .order_by(order)
            .limit(1)
        )
        for actor in (person, _ANYBODY)
    ]
    return best((id_ for id_ in found if id_ is not None), default=None)


def begin_gesture(
    connection: Connection, project_id: str, author: Author, key: str, targets: Sequence[str]
) -> int:
    """Id of the gesture that an edit belongs to: the one that goes on, or a new one.

    What this person had undone in the same targets can no longer be done again.
    """
    while (gone := newest(connection, project_id, author.person, targets, "undone")) is not None:
        set_state(connection, gone, "dropped")
    going_on = connection.execute(
        select(GestureRow.id, GestureRow.key)
        .where(
            GestureRow.project_id == project_id,
            GestureRow.actor == author.person,
            GestureRow.state == "done",
        )
        .order_by(GestureRow.id.desc())
        .limit(1)
    ).first()
    if going_on and going_on.key == key:
        return int(going_on.id)
    values = {"project_id": project_id, "key": key, "actor": author.person, "state": "done"}
    result = connection.execute(insert(GestureRow).values(values))
    return int(result.inserted_primary_key[0])  # type: ignore[index]


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
