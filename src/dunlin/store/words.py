"""Recognised words, kept by the run of the recogniser that heard them."""

from collections.abc import Sequence

from sqlalchemy import Connection, Engine, delete, func, insert, select, update

from dunlin.core.speech import Word
from dunlin.store.tables import ProjectRow, WordRow

__all__ = ["Words"]


class Words:
    """The words in a database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(self, project_id: str, run: str | None, first: int = 0) -> list[Word]:
        """Words of a run from a position on, in order."""
        columns = (WordRow.text, WordRow.start_ms, WordRow.end_ms, WordRow.confidence)
        with self._engine.connect() as connection:
            rows = connection.execute(
                select(*columns)
                .where(
                    WordRow.project_id == project_id, WordRow.run == run, WordRow.position >= first
                )
                .order_by(WordRow.position)
            )
            return [Word(*row) for row in rows]

    def count(self, project_id: str, run: str | None) -> int:
        """Number of words of a run."""
        with self._engine.connect() as connection:
            return (
                connection.scalar(
                    select(func.count()).where(WordRow.project_id == project_id, WordRow.run == run)
                )
                or 0
            )

    def spoken_between(
        self, project_id: str, run: str | None, in_ms: int, out_ms: int
    ) -> list[Word]:
        """Words of a run that sound at some time from an in to an out."""
        columns = (WordRow.text, WordRow.start_ms, WordRow.end_ms, WordRow.confidence)
        with self._engine.connect() as connection:
            rows = connection.execute(
                select(*columns)
                .where(
                    WordRow.project_id == project_id,
                    WordRow.run == run,
                    WordRow.end_ms > in_ms,
                    WordRow.start_ms < out_ms,
                )
                .order_by(WordRow.position)
            )
            return [Word(*row) for row in rows]

    def append(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Adds words behind those that a run has."""
        with self._writing.begin() as connection:
            count = connection.scalar(
                select(func.count()).where(WordRow.project_id == project_id, WordRow.run == run)
            )
            self._insert(connection, project_id, run, words, count or 0)

    def replace(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Makes a run's words these."""
        with self._writing.begin() as connection:
            connection.execute(
                delete(WordRow).where(WordRow.project_id == project_id, WordRow.run == run)
            )
            self._insert(connection, project_id, run, words, 0)

    def make_current(self, project_id: str, run: str) -> None:
        """Makes a run the project's transcript, and forgets the others."""
        with self._writing.begin() as connection:
            connection.execute(
                update(ProjectRow).where(ProjectRow.id == project_id).values(words_run=run)
            )
            connection.execute(
                delete(WordRow).where(WordRow.project_id == project_id, WordRow.run != run)
            )

    @staticmethod
    def _insert(
        connection: Connection, project_id: str, run: str, words: Sequence[Word], first: int
    ) -> None:
        rows = [
            {
                "project_id": project_id,
                "run": run,
                "position": first + index,
                "text": word.text,
                "start_ms": word.start_ms,
                "end_ms": word.end_ms,
                "confidence": word.confidence,
            }
            for index, word in enumerate(words)
        ]
        if rows:
            connection.execute(insert(WordRow), rows)
