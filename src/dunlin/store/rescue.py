"""What is stored of a project, row by row and as it is, for one that cannot be read any more."""

from collections.abc import Iterator
from typing import Any

from sqlalchemy import Connection, text

__all__ = ["rows_of_project", "tracks_of_project", "words_of_project"]

_OF_PROJECT = (
    ("projects", "SELECT * FROM projects WHERE id = :project"),
    ("films", "SELECT * FROM films WHERE project_id = :project"),
    ("records", "SELECT * FROM records WHERE project_id = :project"),
    (
        "captions",
        "SELECT captions.* FROM captions JOIN tracks ON tracks.id = track_id "
        "WHERE project_id = :project",
    ),
    ("words", "SELECT * FROM words WHERE project_id = :project"),
)
"""Tables, and what asks for the rows of a project in them."""


def rows_of_project(
    connection: Connection, project_id: str
) -> Iterator[tuple[str, dict[str, Any]]]:
    """Rows with the names of their tables, their values as the database has them."""
    for table, asked in _OF_PROJECT:
        rows = connection.execute(text(asked), {"project": project_id})
        for row in rows.mappings():
            yield table, {name: _plain(value) for name, value in row.items()}


def tracks_of_project(connection: Connection, project_id: str) -> list[str]:
    """Ids of all tracks that are or were in it."""
    asked = text("SELECT id FROM tracks WHERE project_id = :project ORDER BY id")
    return list(connection.scalars(asked, {"project": project_id}))


def words_of_project(connection: Connection, project_id: str) -> str:
    """The words of its transcript, in order."""
    asked = text(
        "SELECT text FROM words WHERE project_id = :project AND run = "
        "(SELECT words_run FROM projects WHERE id = :project) ORDER BY position"
    )
    return " ".join(str(word) for word in connection.scalars(asked, {"project": project_id}))


def _plain(value: Any) -> Any:
    return value.decode("utf-8", "replace") if isinstance(value, bytes) else value
