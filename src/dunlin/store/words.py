"""Recognised words, kept by the run of the recogniser that heard them, and edited as a transcript."""

from collections.abc import Sequence

from sqlalchemy import Connection, Engine, Select, delete, func, insert, select, update

from dunlin.core.speech import Word
from dunlin.store.tables import ProjectRow, WordRow

__all__ = ["OldTranscript", "Words"]

# A passage is written anew between its neighbours' positions, so that the room is not used up by
# editing one place again and again.
_ROOM = 1 << 20

_COLUMNS = (
    WordRow.text,
    WordRow.start_ms,
    WordRow.end_ms,
    WordRow.confidence,
    WordRow.speaker,
    WordRow.begins,
    WordRow.guessed,
    WordRow.italic,
    WordRow.bold,
    WordRow.underline,
)


class OldTranscript(Exception):
    """An edit was made of words that are others by now."""


class Words:
    """The words in a database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(
        self, project_id: str, run: str | None, first: int = 0, count: int | None = None
    ) -> list[Word]:
        """Words of a run in order, from one on."""
        query = _run(project_id, run).order_by(WordRow.position).offset(first)
        with self._engine.connect() as connection:
            return [Word(*row) for row in connection.execute(query.limit(count))]

    def count(self, project_id: str, run: str | None) -> int:
        """Number of words of a run."""
        with self._engine.connect() as connection:
            counted = select(func.count()).where(
                WordRow.project_id == project_id, WordRow.run == run
            )
            return connection.scalar(counted) or 0

    def spoken_between(
        self, project_id: str, run: str | None, in_ms: int, out_ms: int
    ) -> list[Word]:
        """Words of a run that sound at some time from an in to an out."""
        query = _run(project_id, run).where(WordRow.end_ms > in_ms, WordRow.start_ms < out_ms)
        with self._engine.connect() as connection:
            return [Word(*row) for row in connection.execute(query.order_by(WordRow.position))]

    def append(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Adds words behind those that a run has."""
        with self._writing.begin() as connection:
            last = connection.scalar(
                select(func.max(WordRow.position)).where(
                    WordRow.project_id == project_id, WordRow.run == run
                )
            )
            first = 0 if last is None else last + _ROOM
            _insert(
                connection, project_id, run, words, range(first, first + len(words) * _ROOM, _ROOM)
            )

    def replace(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Makes a run's words these."""
        with self._writing.begin() as connection:
            _replace(connection, project_id, run, words)

    def make_current(self, project_id: str, run: str) -> None:
        """Makes a run the project's transcript, and forgets the others."""
        with self._writing.begin() as connection:
            connection.execute(
                update(ProjectRow)
                .where(ProjectRow.id == project_id)
                .values(words_run=run, words_revision=ProjectRow.words_revision + 1)
            )
            connection.execute(
                delete(WordRow).where(WordRow.project_id == project_id, WordRow.run != run)
            )

    def edit(
        self,
        project_id: str,
        run: str,
        revision: int,
        first: int,
        count: int,
        words: Sequence[Word],
    ) -> int:
        """Puts words in the place of `count` others from the one at index `first` on.

        :returns: the transcript's new revision
        :raises OldTranscript: when its revision is not the one the edit was made of
        """
        with self._writing.begin() as connection:
            changed = connection.execute(
                update(ProjectRow)
                .where(
                    ProjectRow.id == project_id,
                    ProjectRow.words_run == run,
                    ProjectRow.words_revision == revision,
                )
                .values(words_revision=revision + 1)
            )
            if not changed.rowcount:
                raise OldTranscript
            # The neighbours on both sides, and the words between them.
            lead = min(first, 1)
            positions = list(
                connection.scalars(
                    select(WordRow.position)
                    .where(WordRow.project_id == project_id, WordRow.run == run)
                    .order_by(WordRow.position)
                    .offset(first - lead)
                    .limit(lead + count + 1)
                )
            )
            low = positions[0] if lead and positions else -_ROOM
            gone = positions[lead : lead + count]
            high = (
                positions[lead + count]
                if len(positions) > lead + count
                else low + _ROOM * (len(words) + 1)
            )
            step = (high - low) // (len(words) + 1)
            if not step:
                listed = [Word(*row) for row in connection.execute(
                    _run(project_id, run).order_by(WordRow.position)
                )]  # fmt: skip
                listed[first : first + count] = words
                _replace(connection, project_id, run, listed)
                return revision + 1
            if gone:
                connection.execute(
                    delete(WordRow).where(
                        WordRow.project_id == project_id,
                        WordRow.run == run,
                        WordRow.position.between(gone[0], gone[-1]),
                    )
                )
            places = range(low + step, low + step * (len(words) + 1), step)
            _insert(connection, project_id, run, words, places)
        return revision + 1

    def rename_speaker(self, project_id: str, old: str, new: str) -> None:
        """Gives the words of one speaker to another name."""
        with self._writing.begin() as connection:
            connection.execute(
                update(WordRow)
                .where(WordRow.project_id == project_id, WordRow.speaker == old)
                .values(speaker=new)
            )


def _run(
    project_id: str, run: str | None
) -> Select[str, int, int, float, str | None, bool, bool, bool, bool, bool]:
    return select(*_COLUMNS).where(WordRow.project_id == project_id, WordRow.run == run)


def _replace(connection: Connection, project_id: str, run: str, words: Sequence[Word]) -> None:
    connection.execute(delete(WordRow).where(WordRow.project_id == project_id, WordRow.run == run))
    _insert(connection, project_id, run, words, range(0, len(words) * _ROOM, _ROOM))


def _insert(
    connection: Connection, project_id: str, run: str, words: Sequence[Word], positions: range
) -> None:
    names = [column.key for column in _COLUMNS]
    rows = [
        {"project_id": project_id, "run": run, "position": position}
        | {name: getattr(word, name) for name in names}
        for word, position in zip(words, positions, strict=True)
    ]
    if rows:
        connection.execute(insert(WordRow), rows)
