"""The SQLite database: opened safely, brought up to date by its migrations."""

import sqlite3
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event, inspect, text

__all__ = ["migrate", "open_database"]

_MIGRATIONS = Path(__file__).parent / "migrations"
BUSY_SECONDS = 20.0
"""How long a write waits for another one."""


def open_database(folder: Path) -> Engine:
    """Opens, or makes, the database in a folder.

    Write-ahead logging lets readers and the one writer work side by side; every commit is on the
    disk before it is answered.
    """
    folder.mkdir(parents=True, exist_ok=True)
    engine = create_engine(
        f"sqlite:///{folder / 'dunlin.db'}",
        connect_args={"isolation_level": None, "timeout": BUSY_SECONDS},
    )

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, record: Any) -> None:
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begin(connection: Any) -> None:
        # A write begins as one: two that only read first could each wait for the other.
        mode = connection.get_execution_options().get("begin", "DEFERRED")
        connection.exec_driver_sql(f"BEGIN {mode}")

    return engine


def migrate(engine: Engine) -> None:
    """Brings the database to the newest form."""
    with engine.connect() as connection:
        if _revision_of(connection) == _newest_revision():
            return
        # Loaded here: hardly any start has something to bring up to date.
        from alembic import command
        from alembic.config import Config

        config = Config(attributes={"connection": connection})
        config.set_main_option("script_location", str(_MIGRATIONS))
        command.upgrade(config, "head")
        connection.commit()


def _revision_of(connection: Connection) -> str | None:
    """The migration that brought the database to its form; None before the first."""
    if not inspect(connection).has_table("alembic_version"):
        return None
    found: str | None = connection.scalar(text("SELECT version_num FROM alembic_version"))
    return found


def _newest_revision() -> str:
    """A migration's file begins with its revision, which counts up."""
    newest = max(path.name for path in (_MIGRATIONS / "versions").glob("[0-9]*.py"))
    return newest.partition("_")[0]
