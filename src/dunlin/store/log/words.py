"""The transcript of a project, edited in the database: only the words an edit is about are read."""

from typing import Any

from sqlalchemy import Connection, delete, insert, select, update

from dunlin.core.captions import Conflict
from dunlin.core.messages import message
from dunlin.core.project import PlacedWord, ReplaceWords, TakeRun, replace_words
from dunlin.core.project.transcript import Wording
from dunlin.core.speech import Word
from dunlin.store.tables import ProjectRow, WordRow
from dunlin.store.words import WORD_COLUMNS

__all__ = ["edit_words", "insert_words"]

_AT_ONCE = 500


def edit_words(
    connection: Connection, project_id: str, operation: ReplaceWords | TakeRun
) -> Wording:
    """Carries an edit of the transcript out.

    :raises Conflict: when the transcript does not hold what it speaks of
    """
    if isinstance(operation, TakeRun):
        connection.execute(
            update(ProjectRow).where(ProjectRow.id == project_id).values(words_run=operation.run)
        )
        return Wording(TakeRun(operation.instead_of, operation.run), operation.names())
    run = connection.scalar(select(ProjectRow.words_run).where(ProjectRow.id == project_id))
    if run is None:
        raise Conflict(message("words.none-there"))
    positions = {*operation.removed, *(placed.position for placed in operation.put)}
    done = replace_words(_words_at(connection, project_id, run, positions), operation)
    _remove(connection, project_id, run, sorted(operation.removed))
    insert_words(connection, project_id, run, operation.put)
    return done


def _words_at(
    connection: Connection, project_id: str, run: str, positions: set[int]
) -> dict[int, Word]:
    there: dict[int, Word] = {}
    listed = sorted(positions)
    for at in range(0, len(listed), _AT_ONCE):
        rows: Any = connection.execute(
            select(WordRow.position, *WORD_COLUMNS).where(
                WordRow.project_id == project_id,
                WordRow.run == run,
                WordRow.position.in_(listed[at : at + _AT_ONCE]),
            )
        )
        there |= {position: Word(*rest) for position, *rest in rows}
    return there


def _remove(connection: Connection, project_id: str, run: str, positions: list[int]) -> None:
    for at in range(0, len(positions), _AT_ONCE):
        connection.execute(
            delete(WordRow).where(
                WordRow.project_id == project_id,
                WordRow.run == run,
                WordRow.position.in_(positions[at : at + _AT_ONCE]),
            )
        )


def insert_words(
    connection: Connection, project_id: str, run: str, words: tuple[PlacedWord, ...]
) -> None:
    """Adds words of a run at their positions."""
    rows = [
        {"project_id": project_id, "run": run, "position": placed.position} | vars(placed.word)
        for placed in words
    ]
    if rows:
        connection.execute(insert(WordRow), rows)
