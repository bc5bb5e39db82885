"""The memory of all translations on this machine: a database of its own, beside the projects'.

It holds what was confirmed, and what came in files. It is searched by words through SQLite's full-text index; what is
near in words is then compared by `alike`.
"""

import logging
import sqlite3
import threading
import time
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import islice, pairwise
from pathlib import Path
from typing import Any

from sqlalchemy import (
    Column,
    Connection,
    Engine,
    Index,
    Integer,
    MetaData,
    String,
    Table,
    bindparam,
    create_engine,
    delete,
    event,
    func,
    insert,
    select,
    text,
)
from sqlalchemy.exc import DatabaseError

from dunlin.core.language.memory.pairs import LEAST_ALIKE, Pair, alike, in_one_line
from dunlin.core.text.words import words_to_compare

__all__ = ["Memory", "Remembered"]

_LOG = logging.getLogger(__name__)

_METADATA = MetaData()
_PAIRS = Table(
    "pairs",
    _METADATA,
    Column("id", Integer, primary_key=True),
    Column("source_language", String, nullable=False),
    Column("target_language", String, nullable=False),
    Column("source", String, nullable=False),
    Column("target", String, nullable=False),
    Column("words", String, nullable=False),
    Column("origin", String, nullable=False),
    Column("when_ms", Integer, nullable=False),
    Column("track", String),
    Column("caption", String),
    Index("by_words", "words"),
    Index("by_caption", "track", "caption", unique=True),
)
"""Pairs; those of this machine's tracks know of which caption they are."""

_INDEX = "CREATE VIRTUAL TABLE IF NOT EXISTS found USING fts5(languages, source, target, tokenize='unicode61 remove_diacritics 0')"
"""The words of pairs, parted as `words_to_compare` parts them."""
_COUNTED = "CREATE VIRTUAL TABLE IF NOT EXISTS counted USING fts5vocab(found, 'row')"

_RARE = 3_000
"""A word in no more pairs than this leads to them all."""
_MOST_WORDS, _MOST_OF_WORD, _MOST_COMPARED = 12, 3_000, 250
_AT_ONCE = 5_000
BUSY_SECONDS = 20.0


@dataclass(frozen=True)
class Remembered:
    """A pair that is remembered, and how alike its source is to what was asked for."""

    pair: Pair
    alike: float
    track: str | None
    """The track of this machine that it is from; None where it came in a file."""
    caption: str | None


class Memory:
    """Pairs that are remembered, in a file."""

    def __init__(self, path: Path) -> None:
        """Opens it, or makes it where there is none. What is no memory any more is kept aside, and a new one begun:
        projects are worked on without it."""
        try:
            self._engine = _opened(path)
        except DatabaseError as error:
            if not isinstance(error.orig, sqlite3.DatabaseError) or isinstance(
                error.orig, sqlite3.OperationalError
            ):
                raise
            aside = path.with_name(f"{path.name}.damaged-{time.time_ns() // 1_000_000}")
            path.rename(aside)
            _LOG.warning("the memory is damaged; it is kept as %s, and a new one is begun", aside)
            self._engine = _opened(path)
        self._lock = threading.Lock()

    def remember(self, pairs: Iterable[tuple[Pair, str, str]]) -> None:
        """Keeps pairs of captions, each in the place of what was kept of that caption before.

        :param pairs: with the ids of their track and caption
        """
        self._put([_row(pair, track, caption) for pair, track, caption in pairs])

    def forget(self, track: str, captions: Sequence[str]) -> None:
        """Keeps nothing of these captions of a track."""
        with self._lock, self._engine.begin() as connection:
            _drop(connection, [(track, caption) for caption in captions])

    def take_in(self, pairs: Iterable[Pair]) -> int:
        """Keeps pairs that came in a file; one that is there already is not kept twice.

        :returns: how many are new
        """
        count = 0
        coming = iter(pairs)
        while batch := list(islice(coming, _AT_ONCE)):
            rows = {tuple(row.values()): row for row in (_row(pair, None, None) for pair in batch)}
            with self._lock, self._engine.begin() as connection:
                fresh = [row for row in rows.values() if not _is_there(connection, row)]
                _insert(connection, fresh)
                count += len(fresh)
        return count

    def _put(self, rows: Sequence[dict[str, Any]]) -> None:
        with self._lock, self._engine.begin() as connection:
            _drop(connection, [(row["track"], row["caption"]) for row in rows])
            _insert(connection, rows)

    def like(
        self, source: str, source_language: str, target_language: str, most: int = 5
    ) -> list[Remembered]:
        """What is remembered of sources like one, the most alike first; of the same source the newest translation first."""
        words = words_to_compare(source)
        if not words:
            return []
        with self._engine.connect() as connection:
            languages = _languages(source_language, target_language)
            ids = _candidates(connection, words, languages)
            rows = _rows(connection, ids)
        found = [
            Remembered(_pair(row), alike(source, row.source), row.track, row.caption)
            for row in rows
            if _languages(row.source_language, row.target_language) == languages
        ]
        near = [one for one in found if one.alike >= LEAST_ALIKE]
        near.sort(key=lambda one: (-one.alike, -one.pair.when_ms))
        distinct = {(one.pair.source, one.pair.target): one for one in reversed(near)}
        return sorted(distinct.values(), key=near.index)[:most]

    def with_words(
        self, wanted: str, source_language: str, target_language: str, most: int = 50
    ) -> list[Remembered]:
        """What is remembered with words in its source or its translation; the last may be the beginning of one."""
        words = words_to_compare(wanted)
        if not words:
            return []
        phrase = " ".join(f'"{word}"' for word in words[:-1]) + f' "{words[-1]}"*'
        asked = f"languages:{_languages(source_language, target_language)} AND {{source target}}:({phrase})"
        with self._engine.connect() as connection:
            ids = connection.scalars(
                text(
                    "SELECT rowid FROM found WHERE found MATCH :asked ORDER BY rowid DESC LIMIT :most"
                ),
                {"asked": asked, "most": most},
            ).all()
            rows = _rows(connection, list(ids))
        return [Remembered(_pair(row), 1.0, row.track, row.caption) for row in rows]

    def pairs(
        self, source_language: str | None = None, target_language: str | None = None
    ) -> Iterator[Pair]:
        """All pairs, or those of two languages, in the order of their sources."""
        asked = select(_PAIRS).order_by(_PAIRS.c.source_language, _PAIRS.c.source, _PAIRS.c.origin)
        for column, tag in (
            ("source_language", source_language),
            ("target_language", target_language),
        ):
            if tag:
                asked = asked.where(_PAIRS.c[column].in_([tag, tag.split("-")[0]]))
        with self._engine.connect().execution_options(yield_per=1000) as connection:
            for row in connection.execute(asked):
                yield _pair(row)

    def count(self) -> int:
        """How many pairs are remembered."""
        with self._engine.connect() as connection:
            return connection.scalar(select(func.count()).select_from(_PAIRS)) or 0

    def close(self) -> None:
        """Lets go of the file."""
        self._engine.dispose()


def _opened(path: Path) -> Engine:
    path.parent.mkdir(parents=True, exist_ok=True)
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": BUSY_SECONDS})

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, record: Any) -> None:
        for pragma in ("journal_mode=WAL", "synchronous=NORMAL"):
            connection.execute(f"PRAGMA {pragma}")

    with engine.begin() as connection:
        _METADATA.create_all(connection)
        connection.execute(text(_INDEX))
        connection.execute(text(_COUNTED))
    return engine


def _row(pair: Pair, track: str | None, caption: str | None) -> dict[str, Any]:
    source, target = in_one_line(pair.source), in_one_line(pair.target)
    when = pair.when_ms or (time.time_ns() // 1_000_000 if track else 0)
    return {
        "source_language": pair.source_language, "target_language": pair.target_language,
        "source": source, "target": target, "words": " ".join(words_to_compare(source)),
        "origin": pair.origin, "when_ms": when, "track": track, "caption": caption,
    }  # fmt: skip


def _languages(source: str, target: str) -> str:
    """The word by which pairs of two languages are found, whatever their regions."""
    return f"{source.split('-')[0].lower()}x{target.split('-')[0].lower()}"


def _insert(connection: Connection, rows: Sequence[dict[str, Any]]) -> None:
    if not rows:
        return
    first = (connection.scalar(select(func.max(_PAIRS.c.id))) or 0) + 1
    numbered = [row | {"id": first + n} for n, row in enumerate(rows)]
    connection.execute(insert(_PAIRS), numbered)
    connection.execute(
        text(
            "INSERT INTO found (rowid, languages, source, target) VALUES (:id, :languages, :words, :target)"
        ),
        [
            {
                "id": row["id"],
                "languages": _languages(row["source_language"], row["target_language"]),
                "words": row["words"],
                "target": " ".join(words_to_compare(row["target"])),
            }
            for row in numbered
        ],
    )


def _drop(connection: Connection, captions: Sequence[tuple[str, str]]) -> None:
    asked = select(_PAIRS.c.id).where(
        _PAIRS.c.track == bindparam("track"), _PAIRS.c.caption == bindparam("caption")
    )
    found = [
        connection.scalar(asked, {"track": track, "caption": caption})
        for track, caption in captions
    ]
    if ids := [{"id": id_} for id_ in found if id_ is not None]:
        connection.execute(text("DELETE FROM found WHERE rowid = :id"), ids)
        connection.execute(delete(_PAIRS).where(_PAIRS.c.id == bindparam("id")), ids)


def _is_there(connection: Connection, row: dict[str, Any]) -> bool:
    asked = select(_PAIRS.c.id).where(
        _PAIRS.c.words == row["words"],
        *(
            _PAIRS.c[name] == row[name]
            for name in ("source", "target", "source_language", "target_language")
        ),
    )
    return connection.scalar(asked.limit(1)) is not None


def _candidates(connection: Connection, words: Sequence[str], languages: str) -> list[int]:
    """Ids of pairs that share rare words with a source, or words in a row where all of them are common; those that share
    most first."""
    counts = {word: _count(connection, word) for word in dict.fromkeys(words)}
    known = sorted((count, word) for word, count in counts.items() if count)
    rare = [word for count, word in known if count <= _RARE][:_MOST_WORDS]
    phrases = [f'"{word}"' for word in rare]
    if len(rare) < min(len(known), 4):
        phrases += [f'"{" ".join(run)}"' for run in pairwise(words)][:_MOST_WORDS]
    if not phrases:
        phrases = [f'"{word}"' for _, word in known]
    votes: dict[int, float] = {}
    asked = text("SELECT rowid FROM found WHERE found MATCH :asked LIMIT :most")
    for phrase in phrases:
        match = f"languages:{languages} AND source:{phrase}"
        ids = connection.scalars(asked, {"asked": match, "most": _MOST_OF_WORD}).all()
        for id_ in ids:
            votes[id_] = votes.get(id_, 0) + 1 / (1 + len(ids)) ** 0.5
    exact = connection.scalars(
        select(_PAIRS.c.id).where(_PAIRS.c.words == " ".join(words)).limit(_MOST_COMPARED)
    )
    best = sorted(votes, key=lambda id_: -votes[id_])[:_MOST_COMPARED]
    return list(dict.fromkeys([*exact, *best]))


def _count(connection: Connection, word: str) -> int:
    asked = text("SELECT doc FROM counted WHERE term = :word")
    return connection.scalar(asked, {"word": word}) or 0


def _rows(connection: Connection, ids: Sequence[int]) -> list[Any]:
    if not ids:
        return []
    by_id = {row.id: row for row in connection.execute(select(_PAIRS).where(_PAIRS.c.id.in_(ids)))}
    return [by_id[id_] for id_ in ids if id_ in by_id]


def _pair(row: Any) -> Pair:
    return Pair(
        row.source_language, row.target_language, row.source, row.target, row.origin, row.when_ms
    )
