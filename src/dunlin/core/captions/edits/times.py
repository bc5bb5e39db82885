"""Edits of when captions are shown."""

from dataclasses import dataclass, replace
from typing import Literal

from dunlin.core.captions.edits.outcome import Applied, Conflict, held, timed
from dunlin.core.captions.model import Track

__all__ = ["RetimeCaptions", "Times", "retime_captions"]


@dataclass(frozen=True)
class Times:
    """The in and out a caption shall have, in milliseconds."""

    caption: str
    in_ms: int
    out_ms: int


@dataclass(frozen=True)
class RetimeCaptions:
    """Gives captions new ins and outs: one edge, a whole caption, or many at once."""

    times: tuple[Times, ...]
    kind: Literal["retime-captions"] = "retime-captions"

    def names(self) -> frozenset[str]:
        return frozenset(times.caption for times in self.times)


def retime_captions(track: Track, edit: RetimeCaptions) -> Applied:
    if len(edit.names()) != len(edit.times):
        raise Conflict("a caption is timed twice in one edit")
    before = [held(track, times.caption) for times in edit.times]
    after = [
        timed(replace(caption, in_ms=times.in_ms, out_ms=times.out_ms))
        for caption, times in zip(before, edit.times, strict=True)
    ]
    inverse = RetimeCaptions(tuple(Times(c.id, c.in_ms, c.out_ms) for c in before))
    return Applied(track.changed((), after), inverse, edit.names())
