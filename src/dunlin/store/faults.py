"""What the disk and the database refuse or have lost, in words and by what can be done about it."""

import errno
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Literal

from sqlalchemy.exc import DBAPIError

from dunlin.core.messages import Told, message

__all__ = ["DamagedProject", "StorageFault", "storage_fault", "told_as_damage"]

Kind = Literal["full", "busy", "read-only", "damaged", "failing"]

# Result codes of SQLite (sqlite.org/rescode.html), the primary ones.
_BY_RESULT: dict[int, Kind] = {
    sqlite3.SQLITE_FULL: "full",
    sqlite3.SQLITE_BUSY: "busy",
    sqlite3.SQLITE_LOCKED: "busy",
    sqlite3.SQLITE_READONLY: "read-only",
    sqlite3.SQLITE_CANTOPEN: "read-only",
    sqlite3.SQLITE_PERM: "read-only",
    sqlite3.SQLITE_CORRUPT: "damaged",
    sqlite3.SQLITE_NOTADB: "damaged",
    sqlite3.SQLITE_IOERR: "failing",
}
_PRIMARY = 0xFF
_BY_NUMBER: dict[int, Kind] = {
    errno.ENOSPC: "full",
    errno.EDQUOT: "full",
    errno.EFBIG: "full",
    errno.EROFS: "read-only",
    errno.EACCES: "read-only",
    errno.EPERM: "read-only",
    errno.EIO: "failing",
}


class StorageFault(Told):
    """Something cannot be stored or read now. Nothing was half done: what was asked may be asked again."""

    def __init__(self, kind: Kind, reason: str) -> None:
        told = {"full": message("storage.full"), "busy": message("storage.busy")}.get(kind)
        super().__init__(told or message(f"storage-fault.{kind}", reason=reason))
        self.kind = kind

    @property
    def is_full(self) -> bool:
        """Whether there is no room; otherwise it may work again by itself, or when somebody sees to it."""
        return self.kind == "full"


def storage_fault(error: BaseException) -> StorageFault | None:
    """What the disk or the database refused; None for an error of another kind."""
    if isinstance(error, DBAPIError):
        error = error.orig or error
    if isinstance(error, sqlite3.Error):
        kind = _BY_RESULT.get(getattr(error, "sqlite_errorcode", 0) & _PRIMARY)
        return StorageFault(kind, str(error)) if kind else None
    if isinstance(error, OSError) and error.errno in _BY_NUMBER:
        return StorageFault(_BY_NUMBER[error.errno], error.strerror or str(error))
    return None


class DamagedProject(Told):
    """What is stored of a project is not what it has to be. The rest of it can be kept as a file."""

    def __init__(self) -> None:
        super().__init__(message("projects.damaged"))


@contextmanager
def told_as_damage() -> Iterator[None]:
    """Tells what goes wrong while stored values are made into what they stand for.

    :raises DamagedProject: when they are not what was once stored
    """
    try:
        yield
    except Told:
        raise
    except (LookupError, TypeError, ValueError, AttributeError) as error:
        raise DamagedProject from error
    except DBAPIError as error:
        # SQLite itself refuses to look into broken JSON.
        if storage_fault(error) is not None:
            raise
        raise DamagedProject from error
