"""Captions shown at the same time."""

from collections.abc import Iterable

from dunlin.core.specs.rules.place import Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import parted

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


RULE = Rule("overlap", ("overlap_allowed",), "ms", _check, parted, "figure")
