"""Edits carried out, written down, taken back: one transaction each."""

import threading
import uuid
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from functools import partial
from typing import Any

from sqlalchemy import Connection, Engine, bindparam, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import Track, apply
from dunlin.core.captions.edits import Applied
from dunlin.core.project import ReplaceWords, SetEntries, TakeRun, Target, captions_of, set_entries
from dunlin.core.project.records import Record
from dunlin.store.log.captions import beside, write_captions
from dunlin.store.log.following import what_follows
from dunlin.store.log.gestures import begin_gesture, blocking, newest, set_state
from dunlin.store.log.held import HeldStates
from dunlin.store.log.model import (
    Author,
    Changed,
    Done,
    Operation,
    Outdated,
    Step,
    UnknownTrack,
    read_operation,
)
from dunlin.store.log.moment import Moment
from dunlin.store.log.records import write_entries
from dunlin.store.log.words import edit_words
from dunlin.store.log.writing import Writing
from dunlin.store.tables import GestureRow, LogRow, ProjectRow, TargetRow, TrackRow

__all__ = ["ProjectLog"]


_INTO = upsert(TargetRow)
_MOVED = _INTO.on_conflict_do_update(set_={"revision": _INTO.excluded.revision})
_GROWN = (
    update(ProjectRow).where(ProjectRow.id == bindparam("project")).values(revision=bindparam("to"))
)
_DONE_BEFORE = select(LogRow.target, LogRow.touched, LogRow.near, LogRow.revision).where(
    LogRow.project_id == bindparam("project"), LogRow.edit_key == bindparam("key")
)
_PROJECT_OF = select(TrackRow.project_id).where(TrackRow.id == bindparam("track"))


class ProjectLog:
    """Projects and their history in a database.

    Tracks and records that were used are held in memory, each with the revision it was read at; what
    another process has moved on from is read again.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._starting = engine.execution_options(begin="IMMEDIATE")
        self._held = HeldStates()
        self._lock = threading.RLock()
        self._here = threading.local()

    @contextmanager
    def moment(self, project_id: str) -> Iterator[Moment]:
        """Whatever this thread reads of a project inside is as it stands at one moment."""
        outer: Moment | None = getattr(self._here, "moment", None)
        if outer is not None and outer.project_id == project_id:
            yield outer
            return
        with self._engine.begin() as connection:
            self._here.moment = Moment(connection, project_id)
            try:
                yield self._here.moment
            finally:
                self._here.moment = outer

    def track(self, track_id: str) -> tuple[Track, int]:
        """A track's captions, and the project's revision when they were last changed.

        :raises UnknownTrack:
        """
        with self._engine.connect() as connection:
            project_id: str | None = connection.scalar(_PROJECT_OF, {"track": track_id})
        if project_id is None:
            raise UnknownTrack
        return self.track_of(project_id, track_id)

    def track_of(self, project_id: str, track_id: str) -> tuple[Track, int]:
        """The same of a track whose project is known."""
        address = captions_of(track_id)
        with self.moment(project_id) as now, self._lock:
            return self._held.at(now, address), now.revision(address) or 0

    def record(self, project_id: str, address: str) -> tuple[Record, int | None]:
        """A record, and the project's revision when it was last changed; None when it never was."""
        with self.moment(project_id) as now, self._lock:
            return self._held.at(now, address), now.revision(address)

    def revision(self, project_id: str, address: str) -> int | None:
        """The project's revision when a target was last changed; None when it never was."""
        with self.moment(project_id) as now:
            return now.revision(address)

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

    def since(self, project_id: str, address: str, revision: int) -> Changed:
        """What was touched in a target after a revision."""
        with self.moment(project_id) as now:
            return now.touched_since(address, revision)

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
            began = Moment(connection, project_id)
            if key and (done := self._done_before(began, key, gesture, author)):
                return done
            for step in steps:
                if step.base is not None:
                    _refuse_outdated(began, step, author.window)
            targets = [step.target for step in steps]
            gesture_id, goes_on = begin_gesture(connection, project_id, author, gesture, targets)
            writing = Writing(began, began.newest, gesture_id, author, key, goes_on)
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
        with self.moment(project_id) as now:
            undoable, redoable = newest(now.connection, project_id, person, targets)
        return undoable is not None, redoable is not None

    def _step(
        self, project_id: str, targets: Sequence[str], author: Author, state: str
    ) -> Done | None:
        undoing = state == "done"
        with self._changing() as (connection, commit):
            undoable, redoable = newest(connection, project_id, author.person, targets)
            gesture_id = undoable if undoing else redoable
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
            began = Moment(connection, project_id)
            writing = Writing(began, began.newest, gesture_id, author)
            for target, _, _, schema, operation in rows:
                kind = "undo" if undoing else "redo"
                self._carry_out(writing, kind, target, read_operation(operation, schema))
            key = connection.scalar(select(GestureRow.key).where(GestureRow.id == gesture_id))
            return commit(writing, key or "")

    def _done_before(self, now: Moment, key: str, gesture: str, author: Author) -> Done | None:
        rows = now.connection.execute(_DONE_BEFORE, {"project": now.project_id, "key": key}).all()
        if not rows:
            return None
        changed = {
            target: Changed(frozenset(touched), frozenset(near), before=at - 1)
            for target, touched, near, at in rows
        }
        return Done(now.project_id, now.newest, gesture, author, changed, again=True)

    @contextmanager
    def _changing(self) -> Iterator[tuple[Connection, Callable[[Writing, str], Done]]]:
        """A transaction; the states that came of it are held in memory once it is committed."""
        written: list[Writing] = []

        def commit(writing: Writing, gesture: str) -> Done:
            self._finish(writing)
            written.append(writing)
            return Done(
                writing.project_id, writing.revision, gesture, writing.author, writing.changed
            )

        with self._lock:
            with self._starting.begin() as connection:
                yield connection, commit
            for writing in written:
                for address in writing.changed.keys() & writing.states.keys():
                    state = writing.states[address]
                    self._held.hold(writing.project_id, address, writing.revision, state)

    def _carry_out(self, writing: Writing, kind: str, address: str, operation: Operation) -> None:
        """One operation: its target becomes another, and the log has an entry more."""
        connection, project_id = writing.connection, writing.project_id
        near: frozenset[str] = frozenset()
        before: Track = Track()
        applied: Applied | None = None
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
            before = self._state(writing, address)
            applied = apply(before, operation)
            inverse, touched, near = applied.inverse, applied.touched, beside(before, applied)
            done = applied.done or operation
            writing.states[address] = applied.track
        writing.revision += 1
        writing.note(address, touched, near)
        writing.add_entry(kind, address, done, inverse, touched, near)
        # What is taken back, or done again, has what followed from it among its entries.
        if applied is not None and kind == "edit" and (track_id := Target.at(address).track):
            read = partial(self._state, writing)
            for other, following in what_follows(track_id, before, applied, read):
                self._carry_out(writing, kind, other, following)

    def _state(self, writing: Writing, address: str) -> Any:
        if address not in writing.states:
            writing.states[address] = self._held.at(writing.began, address)
        return writing.states[address]

    def _finish(self, writing: Writing) -> None:
        """Writes what became of the targets, and at which revision they are."""
        connection, project_id = writing.connection, writing.project_id
        for address, changed in writing.changed.items():
            target, state = Target.at(address), writing.states.get(address)
            if isinstance(state, Track) and target.track:
                write_captions(connection, target.track, state, changed.touched)
            elif state is not None:
                write_entries(connection, project_id, address, state, changed.touched)
            moved = {"project_id": project_id, "address": address, "revision": writing.revision}
            connection.execute(_MOVED, moved)
        connection.execute(_GROWN, {"project": project_id, "to": writing.revision})


def _refuse_outdated(began: Moment, step: Step, window: str) -> None:
    """Refuses what was made without knowing of a change; a window knows of those made in it."""
    now = began.revision(step.target) or 0
    if step.base is None or step.base >= now:
        return
    changed = began.touched_since(step.target, step.base, window).touched
    named = frozenset("*") if step.whole else step.operation.names()
    stale = changed if "*" in named else named if "*" in changed else changed & named
    if stale:
        raise Outdated(step.target, stale, now)
