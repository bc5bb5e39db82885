"""A gesture that goes on: its edits become one."""

from typing import TYPE_CHECKING

from dunlin.core.captions.edits.fields import Change, ChangeCaptions

if TYPE_CHECKING:
    from dunlin.core.captions.edits import Operation

__all__ = ["folded"]


def folded(first: "Operation", then: "Operation") -> "Operation | None":
    """One edit that does what two do, the inverse of the first undoing both; None where there is none.

    That is so when both give the same captions the same fields: a drag, or typing that goes on. Both
    are edits as they were carried out (`Applied.done`).
    """
    if not isinstance(first, ChangeCaptions) or not isinstance(then, ChangeCaptions):
        return None
    return then if _set_by(first) == _set_by(then) else None


def _set_by(edit: ChangeCaptions) -> dict[str, frozenset[str]]:
    return {change["caption"]: _names(change) for change in edit.changes}


def _names(change: Change) -> frozenset[str]:
    return frozenset(change) - {"caption"}
