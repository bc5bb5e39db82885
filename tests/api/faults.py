"""Disks and databases that do not do what they should."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from sqlalchemy import Engine
from sqlalchemy.event import listen, remove

__all__ = ["failing_write", "full_disk", "locked_database", "read_only"]


@contextmanager
def _prepared(engine: Engine, pragma: str, afterwards: str) -> Iterator[None]:
    """Connections that are taken out meanwhile begin with a pragma, and go back without it."""

    def out(connection: sqlite3.Connection, record: Any, proxy: Any) -> None:
        connection.execute(pragma)

    def back(connection: sqlite3.Connection, record: Any) -> None:
        connection.execute(afterwards)

    listen(engine, "checkout", out)
    listen(engine, "checkin", back)
    try:
        yield
    finally:
        remove(engine, "checkout", out)
        remove(engine, "checkin", back)


def full_disk(engine: Engine) -> Any:
    """The database cannot grow."""
    return _prepared(engine, "PRAGMA max_page_count = 1", "PRAGMA max_page_count = 1073741823")


def read_only(engine: Engine) -> Any:
    return _prepared(engine, "PRAGMA query_only = ON", "PRAGMA query_only = OFF")


@contextmanager
def locked_database(folder: Path) -> Iterator[None]:
    """Another program holds the lock of writing."""
    other = sqlite3.connect(folder / "dunlin.db", isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    try:
        yield
    finally:
        other.execute("ROLLBACK")
        other.close()


@contextmanager
def failing_write(engine: Engine, number: int) -> Iterator[list[str]]:
    """The write of that number, and each after it, finds the disk full. Gives what was written before it."""
    written: list[str] = []

    def before(_: Any, __: Any, statement: str, *rest: Any) -> None:
        if not statement.startswith(("INSERT", "UPDATE", "DELETE", "COMMIT")):
            return
        if len(written) >= number:
            fault = sqlite3.OperationalError("database or disk is full")
            fault.sqlite_errorcode = sqlite3.SQLITE_FULL
            raise fault
        written.append(statement.split("(")[0])

    listen(engine, "before_cursor_execute", before)
    try:
        yield written
    finally:
        remove(engine, "before_cursor_execute", before)
