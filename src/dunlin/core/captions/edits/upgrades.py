"""Edits as earlier versions of Dunlin wrote them down, in the words of today."""

from collections.abc import Callable
from typing import Any

__all__ = ["SCHEMA", "upgraded"]

SCHEMA = 2
"""The form that edits of captions are written down in now."""

_Plain = dict[str, Any]


def upgraded(operation: _Plain, schema: int) -> _Plain:
    """An operation as plain data, in the form of `SCHEMA`.

    :param schema: the form it is in; 1 had an edit of its own for each field of a caption
    """
    if schema < 2 and (change := _FIRST.get(operation["kind"])):
        return change(operation)
    return operation


def _changing(changes: list[_Plain]) -> _Plain:
    return {"kind": "change-captions", "changes": changes}


_FIRST: dict[str, Callable[[_Plain], _Plain]] = {
    "set-text": lambda was: _changing([{"caption": was["caption"], "spans": was["spans"]}]),
    "rewrite-text": lambda was: _changing([{"caption": was["caption"], "text": was["text"]}]),
    "retime-captions": lambda was: _changing(was["times"]),
    "lock-captions": lambda was: _changing(
        [{"caption": id_, "locked": was["locked"]} for id_ in was["captions"]]
    ),
}
