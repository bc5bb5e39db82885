"""The edit log: the one way in which captions change."""

import threading
import time
import uuid
from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import Connection, Engine, delete, insert, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import (
    Applied,
    Caption,
    Extras,
    Operation,
    Placement,
    Span,
    Track,
    apply,
    captions_named,
)
from dunlin.store.tables import CaptionRow, EditRow, GestureRow, TrackRow

__all__ = ["EditLog", "Edited", "Outdated", "UnknownTrack", "new_caption_id"]

_OPERATION: TypeAdapter[Operation] = TypeAdapter(Operation)


def new_caption_id() -> str:
    """An id that no caption of a track has."""
    return uuid.uuid4().hex[:12]


class UnknownTrack(LookupError):
    """There is no track of that id."""


class Outdated(Exception):
    """The edit was made from an old state of captions that have changed since."""

    def __init__(self, captions: Iterable[str], revision: int) -> None:
        super().__init__("these captions have changed since")
        self.captions = frozenset(captions)
        self.revision = revision


@dataclass(frozen=True)
class Edited:
    """A track after an edit, the ids of the captions it touched, and of their neighbours."""

    track: Track
    revision: int
    touched: frozenset[str]
    near: frozenset[str]


class EditLog:
    """Tracks and their history in a database.

    Tracks that were used are held in memory, each with the revision it was read at; a revision
    that another process has moved on from is read again.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")
        self._held: dict[str, tuple[int, Track]] = {}
        self._lock = threading.RLock()

    def track(self, track_id: str) -> tuple[Track, int]:
        """A track and its revision. :raises UnknownTrack:"""
        with self._lock, self._engine.begin() as connection:
            return self._current(connection, track_id)

    def edit(
        self,
        track_id: str,
        operation: Operation,
        *,
        base_revision: int | None = None,
        gesture: str,
        actor: str,
    ) -> Edited:
        """Carries out an operation, and logs it.

        :param base_revision: the revision the operation was made from; None for the newest
        :param gesture: edits in a row with the same key are undone together
        :raises Outdated: when captions that the operation speaks of have changed since
        :raises Conflict: when the operation makes no sense on the track
        """
        with self._changing(track_id) as (connection, keep):
            track, revision = self._current(connection, track_id)
            if base_revision is not None and base_revision < revision:
                changed = _touched_since(connection, track_id, base_revision)
                if stale := changed & captions_named(operation):
                    raise Outdated(stale, revision)
            gesture_id = _gesture(connection, track_id, gesture)
            steps = [("edit", operation)]
            return keep(
                self._carry_out(connection, track_id, track, revision, steps, gesture_id, actor)
            )

    def undo(self, track_id: str, *, actor: str) -> Edited | None:
        """Takes back the newest gesture; None when there is none."""
        with self._changing(track_id) as (connection, keep):
            gesture_id = connection.scalar(
                select(GestureRow.id)
                .where(GestureRow.track_id == track_id, GestureRow.state == "done")
                .order_by(GestureRow.id.desc())
                .limit(1)
            )
            if gesture_id is None:
                return None
            _set_state(connection, gesture_id, "undone")
            inverses = self._logged(connection, gesture_id, EditRow.inverse)[::-1]
            return keep(self._again(connection, track_id, "undo", inverses, gesture_id, actor))

    def redo(self, track_id: str, *, actor: str) -> Edited | None:
        """Does again what was undone last; None when there is nothing."""
        with self._changing(track_id) as (connection, keep):
            gesture_id = connection.scalar(
                select(GestureRow.id)
                .where(GestureRow.track_id == track_id, GestureRow.state == "undone")
                .order_by(GestureRow.id)
                .limit(1)
            )
            if gesture_id is None:
                return None
            _set_state(connection, gesture_id, "done")
            operations = self._logged(connection, gesture_id, EditRow.operation)
            return keep(self._again(connection, track_id, "redo", operations, gesture_id, actor))

    def history(self, track_id: str) -> tuple[bool, bool]:
        """Whether there is something to undo, and to redo."""
        with self._engine.connect() as connection:
            states = set(
                connection.scalars(
                    select(GestureRow.state)
                    .where(GestureRow.track_id == track_id, GestureRow.state != "dropped")
                    .distinct()
                )
            )
        return "done" in states, "undone" in states

    @contextmanager
    def _changing(self, track_id: str) -> Iterator[tuple[Connection, Callable[[Edited], Edited]]]:
        """A transaction; what is kept in it is held in memory once it is committed."""
        kept: list[Edited] = []

        def keep(edited: Edited) -> Edited:
            kept.append(edited)
            return edited

        with self._lock:
            with self._writing.begin() as connection:
                yield connection, keep
            for edited in kept:
                self._held[track_id] = (edited.revision, edited.track)

    def _again(
        self,
        connection: Connection,
        track_id: str,
        kind: str,
        operations: Sequence[Operation],
        gesture_id: int,
        actor: str,
    ) -> Edited:
        track, revision = self._current(connection, track_id)
        steps = [(kind, operation) for operation in operations]
        return self._carry_out(connection, track_id, track, revision, steps, gesture_id, actor)

    def _logged(self, connection: Connection, gesture_id: int, column: Any) -> list[Operation]:
        rows = connection.scalars(
            select(column)
            .where(EditRow.gesture_id == gesture_id, EditRow.kind == "edit")
            .order_by(EditRow.seq)
        )
        return [_OPERATION.validate_python(row) for row in rows]

    def _carry_out(
        self,
        connection: Connection,
        track_id: str,
        track: Track,
        revision: int,
        steps: Sequence[tuple[str, Operation]],
        gesture_id: int,
        actor: str,
    ) -> Edited:
        touched: frozenset[str] = frozenset()
        near: frozenset[str] = frozenset()
        for kind, operation in steps:
            applied = apply(track, operation)
            beside = _beside(track, applied)
            track, revision = applied.track, revision + 1
            touched |= applied.touched
            near |= beside
            connection.execute(
                insert(EditRow).values(
                    track_id=track_id,
                    revision=revision,
                    gesture_id=gesture_id,
                    kind=kind,
                    actor=actor,
                    made_ms=time.time_ns() // 1_000_000,
                    operation=_OPERATION.dump_python(operation, mode="json"),
                    inverse=_OPERATION.dump_python(applied.inverse, mode="json"),
                    touched=sorted(applied.touched),
                    near=sorted(beside),
                )
            )
        _store(connection, track_id, track, touched)
        connection.execute(
            update(TrackRow).where(TrackRow.id == track_id).values(revision=revision)
        )
        return Edited(track, revision, touched, near - touched)

    def _current(self, connection: Connection, track_id: str) -> tuple[Track, int]:
        revision = connection.scalar(select(TrackRow.revision).where(TrackRow.id == track_id))
        if revision is None:
            raise UnknownTrack(track_id)
        held = self._held.get(track_id)
        if held is None or held[0] != revision:
            held = (revision, _read(connection, track_id))
            self._held[track_id] = held
        return held[1], revision


def _read(connection: Connection, track_id: str) -> Track:
    columns = (
        CaptionRow.id,
        CaptionRow.in_ms,
        CaptionRow.out_ms,
        CaptionRow.speaker,
        CaptionRow.spans,
        CaptionRow.placement,
        CaptionRow.style,
        CaptionRow.extras,
        CaptionRow.locked,
        CaptionRow.letter_case,
        CaptionRow.made,
    )
    rows = connection.execute(select(*columns).where(CaptionRow.track_id == track_id))
    return Track.of(
        Caption(
            id_, in_ms, out_ms, tuple(map(_span, spans)), speaker,
            Placement(**placement) if placement else None, style, _extras(extras), *rest,
        )
        for id_, in_ms, out_ms, speaker, spans, placement, style, extras, *rest in rows
    )  # fmt: skip


def _span(stored: dict[str, Any]) -> Span:
    return Span(**(stored | {"extras": _extras(stored.get("extras", ()))}))


def _extras(stored: Iterable[Sequence[str]]) -> Extras:
    return tuple((name, value) for name, value in stored)


def _store(connection: Connection, track_id: str, track: Track, touched: Iterable[str]) -> None:
    """Makes the rows of the touched captions what the track says."""
    gone = [id_ for id_ in touched if id_ not in track]
    rows = [
        {
            "track_id": track_id,
            "id": caption.id,
            "in_ms": caption.in_ms,
            "out_ms": caption.out_ms,
            "speaker": caption.speaker,
            "spans": [_stored(span) for span in caption.spans],
            "placement": asdict(caption.placement) if caption.placement else None,
            "style": caption.style,
            "extras": caption.extras,
            "locked": caption.locked,
            "letter_case": caption.case,
            "made": caption.made,
        }
        for caption in (track[id_] for id_ in touched if id_ in track)
    ]
    # In slices: a statement takes a limited number of values.
    for at in range(0, len(gone), 500):
        connection.execute(
            delete(CaptionRow).where(
                CaptionRow.track_id == track_id, CaptionRow.id.in_(gone[at : at + 500])
            )
        )
    if rows:
        statement = upsert(CaptionRow)
        changed = {
            column.name: statement.excluded[column.name]
            for column in CaptionRow.__table__.columns
            if not column.primary_key
        }
        connection.execute(statement.on_conflict_do_update(set_=changed), rows)


def _stored(span: Span) -> dict[str, Any]:
    """A span as plain data, without what it does not say."""
    return {name: value for name, value in asdict(span).items() if value or name == "text"}


def _beside(before: Track, applied: Applied) -> frozenset[str]:
    """Ids of what stood or stands next to what was touched: their gaps may be others now."""
    found = set()
    for track in (before, applied.track):
        for id_ in applied.touched:
            if id_ in track:
                place = track.index(id_)
                found |= {c.id for c in (track.at(place - 1), track.at(place + 1)) if c}
    return frozenset(found) - applied.touched


def _gesture(connection: Connection, track_id: str, key: str) -> int:
    """Id of the gesture that an edit belongs to; what had been undone can no longer be redone."""
    connection.execute(
        update(GestureRow)
        .where(GestureRow.track_id == track_id, GestureRow.state == "undone")
        .values(state="dropped")
    )
    newest = connection.execute(
        select(GestureRow.id, GestureRow.key)
        .where(GestureRow.track_id == track_id, GestureRow.state == "done")
        .order_by(GestureRow.id.desc())
        .limit(1)
    ).first()
    if newest and newest.key == key:
        return int(newest.id)
    result = connection.execute(insert(GestureRow).values(track_id=track_id, key=key, state="done"))
    return int(result.inserted_primary_key[0])  # type: ignore[index]


def _set_state(connection: Connection, gesture_id: int, state: str) -> None:
    connection.execute(update(GestureRow).where(GestureRow.id == gesture_id).values(state=state))


def _touched_since(connection: Connection, track_id: str, revision: int) -> frozenset[str]:
    rows = connection.scalars(
        select(EditRow.touched).where(EditRow.track_id == track_id, EditRow.revision > revision)
    )
    return frozenset(id_ for touched in rows for id_ in touched)
