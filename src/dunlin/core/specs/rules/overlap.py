"""Captions shown at the same time."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.rules.place import Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_after, frame_at_or_before

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    return None if setting.spec.overlap_allowed else _found


def _found(place: Place) -> Iterable[tuple[float, float, str]]:
    if place.before is None:
        return ()
    overlap = place.before.out_ms - place.caption.in_ms
    if overlap <= 0:
        return ()
    return ((overlap, 0, f"starts {overlap} ms before the caption before it ends"),)


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The one before ends earlier, or this one starts later; the one that says the same is joined."""
    before, caption = place.before, place.caption
    if before is None:
        return
    gap = least_gap_ms(setting.spec, setting.rate)
    out_ms = frame_at_or_before(caption.in_ms - gap, setting)
    if out_ms > before.in_ms:
        yield (before.id,), (replace(before, out_ms=out_ms),)
    in_ms = frame_at_or_after(before.out_ms + gap, setting)
    if in_ms < caption.out_ms:
        yield (caption.id,), (replace(caption, in_ms=in_ms),)


RULE = Rule("overlap", ("overlap_allowed",), "ms", _check, _mend)
