"""`dunlin` on a disk that is full and a database that is locked at every so manieth write, or that is killed
at one.

`DUNLIN_FAULTS` says which: `fails` or `dies`; `DUNLIN_SEED` at which writes.
"""

import itertools
import os
import random
import signal
import sqlite3
from typing import Any

from sqlalchemy import Engine
from sqlalchemy.event import listen

from dunlin.cli import main

_CODES = itertools.cycle((sqlite3.SQLITE_FULL, sqlite3.SQLITE_BUSY))
_dies = os.environ["DUNLIN_FAULTS"] == "dies"
# Another life of the server ends at another write. An edit has a handful of them.
_random = random.Random(f"{os.environ['DUNLIN_SEED']} {os.getpid()}")
_until = _random.randrange(25, 40) if _dies else 20


def _at_every_write(_: Any, __: Any, statement: str, *rest: Any) -> None:
    global _until
    if not statement.startswith(("INSERT", "UPDATE", "DELETE")):
        return
    _until -= 1
    if _until > 0:
        return
    if _dies:
        os.kill(os.getpid(), signal.SIGKILL)
    _until = _random.randrange(10, 40)
    fault = sqlite3.OperationalError("the disk of the test")
    fault.sqlite_errorcode = next(_CODES)
    raise fault


if __name__ == "__main__":
    listen(Engine, "before_cursor_execute", _at_every_write)
    main()
