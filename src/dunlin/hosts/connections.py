"""Connections to hosts of films, with their tokens: in a file that nobody but the user reads, apart from the log, from copies of
projects and from all that pages are told."""

import os
import threading
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from pydantic import TypeAdapter

from dunlin.core.messages import Told, message
from dunlin.media.drafts import whole_file

__all__ = ["Connection", "Connections", "UnknownConnection"]


class UnknownConnection(Told, LookupError):
    """There is no connection of that id."""

    def __init__(self) -> None:
        super().__init__(message("hosts.no-connection"))


@dataclass(frozen=True)
class Connection:
    """A host that Dunlin may ask."""

    id: str
    origin: str
    """Scheme, host and port."""
    token: str = field(repr=False)
    host: str
    """What the host calls itself."""
    name: str
    """What the token is called there."""
    scopes: tuple[str, ...]
    expires_ms: int | None


_FILE: TypeAdapter[dict[str, Connection]] = TypeAdapter(dict[str, Connection])
_WRITING = threading.Lock()


class Connections:
    """The connections of a data folder."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def all(self) -> Mapping[str, Connection]:
        """By their ids, in the order in which they were made."""
        return _FILE.validate_json(self._path.read_bytes()) if self._path.is_file() else {}

    def get(self, id_: str) -> Connection:
        """:raises UnknownConnection:"""
        if found := self.all().get(id_):
            return found
        raise UnknownConnection

    def put(self, connection: Connection) -> None:
        with _WRITING:
            self._write({**self.all(), connection.id: connection})

    def remove(self, id_: str) -> None:
        """:raises UnknownConnection:"""
        with _WRITING:
            there = dict(self.all())
            if there.pop(id_, None) is None:
                raise UnknownConnection
            self._write(there)

    def _write(self, connections: Mapping[str, Connection]) -> None:
        data = _FILE.dump_json(dict(connections))
        with whole_file(self._path) as draft:
            # From its first byte on it is the user's alone.
            opened = os.open(draft, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
            with os.fdopen(opened, "wb") as file:
                file.write(data)
