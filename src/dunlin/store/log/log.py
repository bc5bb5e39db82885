"""Edits carried out, written down, taken back: one transaction each."""

import threading
import time
import uuid
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import Connection, Engine, delete, insert, or_, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import Track, apply, folded
from dunlin.core.captions.edits import SCHEMA
from dunlin.core.project import ReplaceWords, SetEntries, TakeRun, Target, captions_of, set_entries
from dunlin.core.project.records import Record
from dunlin.store.log.captions import beside, read_track, write_captions
from dunlin.store.log.gestures import begin_gesture, blocking, newest, set_state
from dunlin.store.log.model import (
    Author,
    Changed,
    Done,
    Operation,
    Outdated,
    Step,
    UnknownTrack,
    dumped,
    read_operation,
)
from dunlin.store.log.records import read_record, write_entries
from dunlin.store.log.words import edit_words
from dunlin.store.tables import GestureRow, LogRow, ProjectRow, TargetRow, TrackRow

__all__ = ["ProjectLog"]

# As many tracks and records are held in memory; what was not used for longest is read again.
_HELD = 200


@dataclass
class _Writing:
    """A transaction under way: the project's revision as it grows, and states as they become."""

    connection: Connection
    project_id: str
    revision: int
    gesture_id: int
    author: Author
    key: str | None = None
    states: dict[str, Any] = field(default_factory=dict)
    changed: dict[str, Changed] = field(default_factory=dict)


class ProjectLog:
    """Projects and their history in a database.

    Tracks and records that were used are held in memory, each with the revision it was read at; what
    another process has moved on from is read again.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._starting = engine.execution_options(begin="IMMEDIATE")
        self._held: OrderedDict[tuple[str, str], tuple[int | None, Any]] = OrderedDict()
        self._lock = threading.RLock()

    def track(self, track_id: str) -> tuple[Track, int]:
        """A track's captions, and the project's revision when they were last changed.

        :raises UnknownTrack:
        """
        with self._lock, self._engine.begin() as connection:
            project_id = _project_of(connection, track_id)
            revision, track = self._current(connection, project_id, captions_of(track_id))
            return track, revision or 0

    def record(self, project_id: str, address: str) -> tuple[Record, int | None]:
        """A record, and the project's revision when it was last changed; None when it never was."""
        with self._lock, self._engine.begin() as connection:
            revision, record = self._current(connection, project_id, address)
            return record, revision

    def revision(self, project_id: str, address: str) -> int | None:
        """The project's revision when a target was last changed; None when it never was."""
        with self._engine.connect() as connection:
            return _revision_of(connection, project_id, address)

    def stored(self, project_id: str, key: str) -> list[tuple[int, Operation]]:
        """The operations that are stored under the name of an edit, with their revisions; none when
        it is not known."""
        rows = (
            select(LogRow.revision, LogRow.operation, LogRow.schema)
            .where(LogRow.project_id == project_id, LogRow.edit_key == key)
            .order_by(LogRow.revision)
        )
        with self._engine.connect() as connection:
            return [
                (revision, read_operation(operation, schema))
                for revision, operation, schema in connection.execute(rows)
            ]

    def since(self, project_id: str, address: str, revision: int) -> tuple[Changed, int]:
        """What was touched in a target after a revision, and the revision it is at now."""
        with self._engine.begin() as connection:
            now = _revision_of(connection, project_id, address) or 0
            return _touched_since(connection, project_id, address, revision), now

    def edit(
        self,
        project_id: str,
        steps: Sequence[Step],
        author: Author,
        *,
        gesture: str | None = None,
        key: str | None = None,
    ) -> Done:
        """Carries out operations as one, and writes them down.

        :param gesture: edits in a row with the same name are undone together
        :param key: a name of this edit alone; when it is stored already, nothing is done
        :raises Outdated: when something that an operation speaks of has changed since its base
        :raises Conflict: when an operation makes no sense on its target
        """
        gesture = gesture or uuid.uuid4().hex
        with self._changing() as (connection, commit):
            if key and (done := self._done_before(connection, project_id, key, gesture, author)):
                return done
            for step in steps:
                if step.base is not None:
                    _refuse_outdated(connection, project_id, step, author.window)
            targets = [step.target for step in steps]
            gesture_id = begin_gesture(connection, project_id, author, gesture, targets)
            writing = _begin(connection, project_id, gesture_id, author, key)
            for step in steps:
                self._carry_out(writing, "edit", step.target, step.operation)
            return commit(writing, gesture)

    def undo(self, project_id: str, targets: Sequence[str], author: Author) -> Done | None:
        """Takes back a person's newest gesture that touched one of the targets; None when there is none.

        :raises InTheWay: when an edit of somebody else came on top of it
        """
        return self._step(project_id, targets, author, "done")

    def redo(self, project_id: str, targets: Sequence[str], author: Author) -> Done | None:
        """Does again what a person undid last in one of the targets; None when there is nothing.

        :raises InTheWay: when something else was done there meanwhile
        """
        return self._step(project_id, targets, author, "undone")

    def history(self, project_id: str, targets: Sequence[str], person: str) -> tuple[bool, bool]:
        """Whether a person has something to undo, and to redo, in one of the targets."""
        with self._engine.connect() as connection:
            found = (
                newest(connection, project_id, person, targets, state)
                for state in ("done", "undone")
            )
            can_undo, can_redo = (gesture is not None for gesture in found)
        return can_undo, can_redo

    def _step(
        self, project_id: str, targets: Sequence[str], author: Author, state: str
    ) -> Done | None:
        undoing = state == "done"
        with self._changing() as (connection, commit):
            gesture_id = newest(connection, project_id, author.person, targets, state)
            if gesture_id is None:
                return None
            column = LogRow.inverse if undoing else LogRow.operation
            rows = connection.execute(
                select(LogRow.target, LogRow.revision, LogRow.touched, LogRow.schema, column)
                .where(LogRow.gesture_id == gesture_id, LogRow.kind == "edit")
                .order_by(LogRow.revision.desc() if undoing else LogRow.revision)
            ).all()
            places = [(row.target, row.revision, row.touched, gesture_id) for row in rows]
            if in_the_way := blocking(connection, project_id, places):
                raise in_the_way
            set_state(connection, gesture_id, "undone" if undoing else "done")
            writing = _begin(connection, project_id, gesture_id, author, None)
            for target, _, _, schema, operation in rows:
                kind = "undo" if undoing else "redo"
                self._carry_out(writing, kind, target, read_operation(operation, schema))
            key = connection.scalar(select(GestureRow.key).where(GestureRow.id == gesture_id))
            return commit(writing, key or "")

    def _done_before(
        self, connection: Connection, project_id: str, key: str, gesture: str, author: Author
    ) -> Done | None:
        rows = connection.execute(
            select(LogRow.target, LogRow.touched, LogRow.near, LogRow.revision).where(
                LogRow.project_id == project_id, LogRow.edit_key == key
            )
        ).all()
        if not rows:
            return None
        changed = {
            target: Changed(frozenset(touched), frozenset(near), before=at - 1)
            for target, touched, near, at in rows
        }
        revision = _project_revision(connection, project_id)
        return Done(project_id, revision, gesture, author, changed, again=True)

    @contextmanager
    def _changing(self) -> Iterator[tuple[Connection, Callable[[_Writing, str], Done]]]:
        """A transaction; the states that came of it are held in memory once it is committed."""
        written: list[_Writing] = []

        def commit(writing: _Writing, gesture: str) -> Done:
            self._finish(writing)
            written.append(writing)
            return Done(
                writing.project_id, writing.revision, gesture, writing.author, writing.changed
            )

        with self._lock:
            with self._starting.begin() as connection:
                yield connection, commit
            for writing in written:
                for address, state in writing.states.items():
                    self._hold(writing.project_id, address, writing.revision, state)

    def _carry_out(self, writing: _Writing, kind: str, address: str, operation: Operation) -> None:
        """One operation: its target becomes another, and the log has an entry more."""
        connection, project_id = writing.connection, writing.project_id
        near: frozenset[str] = frozenset()
        done: Operation = operation
        inverse: Operation
        if isinstance(operation, ReplaceWords | TakeRun):
            wording = edit_words(connection, project_id, operation)
            inverse, touched = wording.inverse, wording.touched
        elif isinstance(operation, SetEntries):
            entries = set_entries(self._state(writing, address), operation)
            inverse, touched = entries.inverse, entries.touched
            writing.states[address] = entries.record
        else:
            before: Track = self._state(writing, address)
            applied = apply(before, operation)
            inverse, touched, near = applied.inverse, applied.touched, beside(before, applied)
            done = applied.done or operation
            writing.states[address] = applied.track
        writing.revision += 1
        _note(writing, address, touched, near)
        if kind == "edit" and _fold(writing, address, done, touched, near):
            return
        connection.execute(
            insert(LogRow).values(
                **_entry(writing, kind, address),
                operation=dumped(done),
                inverse=dumped(inverse),
                touched=sorted(touched),
                near=sorted(near),
            )
        )

    def _state(self, writing: _Writing, address: str) -> Any:
        if address not in writing.states:
            _, state = self._current(writing.connection, writing.project_id, address)
            writing.states[address] = state
        return writing.states[address]

    def _finish(self, writing: _Writing) -> None:
        """Writes what became of the targets, and at which revision they are."""
        connection, project_id = writing.connection, writing.project_id
        for address, changed in writing.changed.items():
            target, state = Target.at(address), writing.states.get(address)
            if isinstance(state, Track) and target.track:
                write_captions(connection, target.track, state, changed.touched)
            elif state is not None:
                write_entries(connection, project_id, address, state, changed.touched)
            statement = upsert(TargetRow).values(
                project_id=project_id, address=address, revision=writing.revision
            )
            connection.execute(statement.on_conflict_do_update(set_={"revision": writing.revision}))
        connection.execute(
            update(ProjectRow).where(ProjectRow.id == project_id).values(revision=writing.revision)
        )

    def _current(
        self, connection: Connection, project_id: str, address: str
    ) -> tuple[int | None, Any]:
        revision = _revision_of(connection, project_id, address)
        held = self._held.get((project_id, address))
        if held is not None and held[0] == revision:
            self._held.move_to_end((project_id, address))
            return held
        target = Target.at(address)
        if target.kind == "captions" and target.track:
            state: Any = read_track(connection, target.track)
        else:
            state = read_record(connection, project_id, address)
        self._hold(project_id, address, revision, state)
        return revision, state

    def _hold(self, project_id: str, address: str, revision: int | None, state: Any) -> None:
        self._held[project_id, address] = (revision, state)
        self._held.move_to_end((project_id, address))
        if len(self._held) > _HELD:
            self._held.popitem(last=False)


def _begin(
    connection: Connection, project_id: str, gesture_id: int, author: Author, key: str | None
) -> _Writing:
    revision = _project_revision(connection, project_id)
    return _Writing(connection, project_id, revision, gesture_id, author, key)


def _note(writing: _Writing, address: str, touched: frozenset[str], near: frozenset[str]) -> None:
    known = writing.changed.get(address)
    if known is None:
        before = _revision_of(writing.connection, writing.project_id, address) or 0
        known = Changed(frozenset(), before=before)
    both = known.touched | touched
    writing.changed[address] = Changed(both, (known.near | near) - both, known.before)


def _entry(writing: _Writing, kind: str, address: str) -> dict[str, Any]:
    return {
        "project_id": writing.project_id,
        "revision": writing.revision,
        "gesture_id": writing.gesture_id,
        "kind": kind,
        "target": address,
        "actor": writing.author.person,
        "window": writing.author.window,
        "edit_key": writing.key,
        "made_ms": time.time_ns() // 1_000_000,
        "schema": SCHEMA,
    }


def _fold(
    writing: _Writing,
    address: str,
    operation: Operation,
    touched: frozenset[str],
    near: frozenset[str],
) -> bool:
    """Puts the entry of a gesture that goes on in the place of its last one, where both are one edit.

    It moves forward in the log, so that whoever saw the last one is told of this one. Nothing else may
    have touched the target since.
    """
    connection = writing.connection
    last = connection.execute(
        select(LogRow.__table__)
        .where(LogRow.project_id == writing.project_id, LogRow.target == address)
        .order_by(LogRow.revision.desc())
        .limit(1)
    ).first()
    if last is None or last.gesture_id != writing.gesture_id or last.kind != "edit":
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
        insert(LogRow).values(
            **_entry(writing, "edit", address),
            operation=dumped(one),
            inverse=inverse,
            touched=sorted(frozenset(last.touched) | touched),
            near=sorted(frozenset(last.near) | near),
        )
    )
    return True


def _refuse_outdated(connection: Connection, project_id: str, step: Step, window: str) -> None:
    """Refuses what was made without knowing of a change; a window knows of those made in it."""
    now = _revision_of(connection, project_id, step.target) or 0
    if step.base is None or step.base >= now:
        return
    changed = _touched_since(connection, project_id, step.target, step.base, window).touched
    named = step.operation.names()
    stale = changed if "*" in named else named if "*" in changed else changed & named
    if stale:
        raise Outdated(step.target, stale, now)


def _touched_since(
    connection: Connection, project_id: str, address: str, revision: int, but_for: str = ""
) -> Changed:
    """What was touched after a revision, but for what was done in one window, if it is named."""
    rows = connection.execute(
        select(LogRow.touched, LogRow.near).where(
            LogRow.project_id == project_id,
            LogRow.target == address,
            LogRow.revision > revision,
            or_(LogRow.window != but_for, LogRow.window == ""),
        )
    )
    touched: set[str] = set()
    near: set[str] = set()
    for ours, beside_ours in rows:
        touched.update(ours)
        near.update(beside_ours)
    return Changed(frozenset(touched), frozenset(near - touched))


def _revision_of(connection: Connection, project_id: str, address: str) -> int | None:
    found: int | None = connection.scalar(
        select(TargetRow.revision).where(
            TargetRow.project_id == project_id, TargetRow.address == address
        )
    )
    return found


def _project_revision(connection: Connection, project_id: str) -> int:
    return connection.scalar(select(ProjectRow.revision).where(ProjectRow.id == project_id)) or 0


def _project_of(connection: Connection, track_id: str) -> str:
    owner: str | None = connection.scalar(
        select(TrackRow.project_id).where(TrackRow.id == track_id)
    )
    if owner is None:
        raise UnknownTrack
    return owner
