"""Edits as data: `apply(track, operation)` gives the new track and the operation that undoes it."""

from collections.abc import Callable
from typing import Any, TypeAlias

from dunlin.core.captions.edits.fields import (
    Change,
    ChangeCaptions,
    Times,
    change_captions,
    lock_captions,
    retime_captions,
    rewrite_text,
    set_text,
)
from dunlin.core.captions.edits.folding import folded
from dunlin.core.captions.edits.outcome import Applied, Conflict
from dunlin.core.captions.edits.structure import (
    DeleteCaptions,
    InsertCaptions,
    MergeCaptions,
    ReplaceCaptions,
    SplitCaption,
    delete_captions,
    insert_captions,
    merge_captions,
    replace_captions,
    split_caption,
)
from dunlin.core.captions.edits.upgrades import SCHEMA, upgraded
from dunlin.core.captions.model import Track

__all__ = [
    "SCHEMA",
    "Applied",
    "Change",
    "ChangeCaptions",
    "Conflict",
    "DeleteCaptions",
    "InsertCaptions",
    "MergeCaptions",
    "Operation",
    "ReplaceCaptions",
    "SplitCaption",
    "Times",
    "apply",
    "captions_named",
    "folded",
    "lock_captions",
    "retime_captions",
    "rewrite_text",
    "set_text",
    "upgraded",
]

Operation: TypeAlias = (
    ChangeCaptions
    | InsertCaptions
    | DeleteCaptions
    | SplitCaption
    | MergeCaptions
    | ReplaceCaptions
)

_APPLY: dict[type, Callable[[Track, Any], Applied]] = {
    ChangeCaptions: change_captions,
    InsertCaptions: insert_captions,
    DeleteCaptions: delete_captions,
    SplitCaption: split_caption,
    MergeCaptions: merge_captions,
    ReplaceCaptions: replace_captions,
}


def apply(track: Track, operation: Operation) -> Applied:
    """Carries out one edit.

    :returns: the new track, the operation that gives the old one back, and the ids touched
    :raises Conflict: when the track does not hold what the operation speaks of, or the outcome
        would be no caption: then nothing has changed
    """
    return _APPLY[type(operation)](track, operation)


def captions_named(operation: Operation) -> frozenset[str]:
    """Ids of the captions that must be as the maker of the operation saw them."""
    return operation.names()
