"""Recognised words, kept by the run of the recogniser that heard them; one run is the transcript."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Connection, Engine, delete, func, insert, select

from dunlin.core.messages import BadInput, message
from dunlin.core.project import PlacedWord, ReplaceWords, spread
from dunlin.core.project.transcript import ROOM
from dunlin.core.speech import Word
from dunlin.store.tables import WordRow

__all__ = ["WORD_COLUMNS", "Words"]

WORD_COLUMNS = (
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
    WordRow.left_out,
)


class Words:
    """The words in a database. What is the transcript is changed by the project's log alone."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._writing = engine.execution_options(begin="IMMEDIATE")

    def of(
        self, project_id: str, run: str | None, first: int = 0, count: int | None = None
    ) -> list[Word]:
        """Words of a run in order, from one on."""
        return [placed.word for placed in self.placed(project_id, run, first, count)]

    def placed(
        self, project_id: str, run: str | None, first: int = 0, count: int | None = None
    ) -> list[PlacedWord]:
        """Words of a run in order, from one on, with their positions."""
        query = (
            select(WordRow.position, *WORD_COLUMNS)
            .where(WordRow.project_id == project_id, WordRow.run == run)
            .order_by(WordRow.position)
            .offset(first)
            .limit(count)
        )
        with self._engine.connect() as connection:
            rows: Any = connection.execute(query).all()
            return [PlacedWord(at, Word(*rest)) for at, *rest in rows]

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
        query = (
            select(*WORD_COLUMNS)
            .where(WordRow.project_id == project_id, WordRow.run == run)
            .where(WordRow.end_ms > in_ms, WordRow.start_ms < out_ms)
        )
        with self._engine.connect() as connection:
            rows: Any = connection.execute(query.order_by(WordRow.position))
            return [Word(*row) for row in rows]

    def append(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Adds words behind those that a run has, while it is being heard."""
        with self._writing.begin() as connection:
            last = connection.scalar(
                select(func.max(WordRow.position)).where(
                    WordRow.project_id == project_id, WordRow.run == run
                )
            )
            _insert(connection, project_id, run, words, 0 if last is None else last + ROOM)

    def replace(self, project_id: str, run: str, words: Sequence[Word]) -> None:
        """Makes the words of a run that nobody works on these."""
        with self._writing.begin() as connection:
            connection.execute(
                delete(WordRow).where(WordRow.project_id == project_id, WordRow.run == run)
            )
            _insert(connection, project_id, run, words, 0)

    def replacing(
        self, project_id: str, run: str | None, first: int, count: int, words: Sequence[Word]
    ) -> ReplaceWords:
        """The edit that puts words in the place of `count` others from the one at index `first` on.

        :raises LookupError: when there are not as many words
        """
        lead = min(first, 1)
        around = self.placed(project_id, run, first - lead, lead + count + 1)
        gone = around[lead : lead + count]
        if len(gone) < count or len(around) < lead:
            raise BadInput(message("words.no-such"))
        after = around[0].position if lead else None
        before = around[lead + count].position if len(around) > lead + count else None
        put = spread(words, after, before)
        if put is None:
            return self._respaced(project_id, run, first, count, words)
        return ReplaceWords(tuple(placed.position for placed in gone), tuple(put))

    def _respaced(
        self, project_id: str, run: str | None, first: int, count: int, words: Sequence[Word]
    ) -> ReplaceWords:
        """As `replacing`, with room made anew between all words: there was none left."""
        there = self.placed(project_id, run)
        listed = [placed.word for placed in there]
        listed[first : first + count] = words
        # Beyond all that are there, so that no position comes to mean another word.
        from_ = there[-1].position + ROOM
        put = tuple(PlacedWord(from_ + n * ROOM, word) for n, word in enumerate(listed))
        return ReplaceWords(tuple(placed.position for placed in there), put)


def _insert(
    connection: Connection, project_id: str, run: str, words: Sequence[Word], from_position: int
) -> None:
    rows = [
        {"project_id": project_id, "run": run, "position": from_position + n * ROOM} | vars(word)
        for n, word in enumerate(words)
    ]
    if rows:
        connection.execute(insert(WordRow), rows)
