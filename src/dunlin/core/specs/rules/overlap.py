"""Captions shown at the same time."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import parted

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    return None if setting.spec.overlap_allowed else _found


def _found(place: Place) -> Iterable[Broken]:
    if place.before is None:
        return ()
    overlap = place.before.out_ms - place.caption.in_ms
    if overlap <= 0:
        return ()
    return ((overlap, 0, message("findings.overlap", overlap=overlap)),)


RULE = Rule("overlap", ("overlap_allowed",), "ms", _check, parted, "figure")
