"""The edit of what captions are: any of their fields, of as many captions as it takes."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any, Literal, Required

from typing_extensions import TypedDict

from dunlin.core.captions.bounds import Milliseconds, Text
from dunlin.core.captions.edits.outcome import Applied, Conflict, held, timed
from dunlin.core.captions.look import Case, Look
from dunlin.core.captions.model import (
    Caption,
    Extras,
    Placement,
    Span,
    Track,
    joined,
    rewritten,
)
from dunlin.core.messages import message

__all__ = [
    "Change",
    "ChangeCaptions",
    "Times",
    "change_captions",
    "lock_captions",
    "retime_captions",
    "rewrite_text",
    "set_text",
]


@dataclass(frozen=True)
class Times:
    """The in and out a caption shall have, in milliseconds."""

    caption: str
    in_ms: Milliseconds
    out_ms: Milliseconds


class Change(TypedDict, total=False):
    """A caption, and the fields of it that shall be others; those that are left out stay."""

    caption: Required[str]
    in_ms: Milliseconds
    out_ms: Milliseconds
    text: Text
    """Other words; what was not rewritten keeps its style."""
    spans: tuple[Span, ...]
    speaker: Text | None
    placement: Placement | None
    style: str | None
    extras: Extras
    locked: bool
    case: Case | None
    made: str | None
    look: Look | None


@dataclass(frozen=True)
class ChangeCaptions:
    """Gives captions other fields. Those that are locked keep their times, unless they are unlocked."""

    changes: tuple[Change, ...]
    kind: Literal["change-captions"] = "change-captions"

    def names(self) -> frozenset[str]:
        """Ids of the captions it changes."""
        return frozenset(change["caption"] for change in self.changes)


def change_captions(track: Track, edit: ChangeCaptions) -> Applied:
    """Carries it out.

    :raises Conflict: when a caption is not there, stands in it twice, would end before it starts, or
        when nothing is left to do because all captions that would be timed are locked
    """
    if len(edit.names()) != len(edit.changes):
        raise Conflict(message("edits.changed-twice"))
    after: list[Caption] = []
    there: list[dict[str, Any]] = []
    back: list[dict[str, Any]] = []
    for change in edit.changes:
        caption = held(track, change["caption"])
        fields = _fields(caption, change)
        if not fields:
            continue
        after.append(timed(replace(caption, **fields)))
        there.append({"caption": caption.id} | fields)
        back.append({"caption": caption.id} | {name: getattr(caption, name) for name in fields})
    if edit.changes and not after:
        raise Conflict(
            message("edits.locked") if len(edit.changes) == 1 else message("edits.all-locked")
        )
    done, undo = _edit(there), _edit(back)
    return Applied(track.changed((), after), undo, undo.names(), done)


def _edit(changes: list[dict[str, Any]]) -> ChangeCaptions:
    return ChangeCaptions(tuple(changes))  # type: ignore[arg-type]


def _fields(caption: Caption, change: Change) -> dict[str, Any]:
    """What a change sets in a caption, by the names of the caption's fields."""
    fields: dict[str, Any] = {name: value for name, value in change.items() if name != "caption"}
    if "text" in fields:
        fields["spans"] = rewritten(caption.spans, fields.pop("text"))
    elif "spans" in fields:
        fields["spans"] = joined(fields["spans"])
    if caption.locked and fields.get("locked", True):
        fields.pop("in_ms", None)
        fields.pop("out_ms", None)
    return fields


def retime_captions(times: Iterable[Times]) -> ChangeCaptions:
    """Gives captions new ins and outs: one edge, a whole caption, or many at once."""
    return ChangeCaptions(
        tuple(Change(caption=t.caption, in_ms=t.in_ms, out_ms=t.out_ms) for t in times)
    )


def lock_captions(captions: Iterable[str], locked: bool) -> ChangeCaptions:
    """Keeps captions at their times, or lets them be timed again."""
    return ChangeCaptions(tuple(Change(caption=id_, locked=locked) for id_ in captions))


def rewrite_text(caption: str, text: str) -> ChangeCaptions:
    """Gives a caption these words; what was not rewritten keeps its style."""
    return ChangeCaptions((Change(caption=caption, text=text),))


def set_text(caption: str, spans: tuple[Span, ...]) -> ChangeCaptions:
    """Gives a caption this styled text."""
    return ChangeCaptions((Change(caption=caption, spans=spans),))
