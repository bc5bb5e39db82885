"""Edits of when captions are shown."""

from dataclasses import dataclass, replace
from typing import Literal

from dunlin.core.captions.edits.outcome import Applied, Conflict, held, timed
from dunlin.core.captions.model import Track

__all__ = ["LockCaptions", "RetimeCaptions", "Times", "lock_captions", "retime_captions"]


@dataclass(frozen=True)
class Times:
    """The in and out a caption shall have, in milliseconds."""

    caption: str
    in_ms: int
    out_ms: int


@dataclass(frozen=True)
class RetimeCaptions:
    """Gives captions new ins and outs: one edge, a whole caption, or many at once.

    Those that are locked stay where they are.
    """

    times: tuple[Times, ...]
    kind: Literal["retime-captions"] = "retime-captions"

    def names(self) -> frozenset[str]:
        return frozenset(times.caption for times in self.times)


def retime_captions(track: Track, edit: RetimeCaptions) -> Applied:
    if len(edit.names()) != len(edit.times):
        raise Conflict("a caption is timed twice in one edit")
    moved = [times for times in edit.times if not held(track, times.caption).locked]
    if edit.times and not moved:
        raise Conflict("the caption is locked" if len(edit.times) == 1 else "all are locked")
    before = [track[times.caption] for times in moved]
    after = [
        timed(replace(caption, in_ms=times.in_ms, out_ms=times.out_ms))
        for caption, times in zip(before, moved, strict=True)
    ]
    inverse = RetimeCaptions(tuple(Times(c.id, c.in_ms, c.out_ms) for c in before))
    return Applied(track.changed((), after), inverse, inverse.names())


@dataclass(frozen=True)
class LockCaptions:
    """Keeps captions at their times, or lets them be timed again."""

    captions: tuple[str, ...]
    locked: bool
    kind: Literal["lock-captions"] = "lock-captions"

    def names(self) -> frozenset[str]:
        return frozenset(self.captions)


def lock_captions(track: Track, edit: LockCaptions) -> Applied:
    before = [held(track, id_) for id_ in edit.captions]
    others = [caption for caption in before if caption.locked != edit.locked]
    after = [replace(caption, locked=edit.locked) for caption in others]
    inverse = LockCaptions(tuple(caption.id for caption in others), not edit.locked)
    return Applied(track.changed((), after), inverse, inverse.names())
