"""Captions without words."""

from collections.abc import Iterable, Iterator

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    return _found if setting.spec.no_empty else None


def _found(place: Place) -> Iterable[Broken]:
    return () if place.text.strip() else ((0, 1, message("findings.empty")),)


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """It is taken away."""
    yield (place.caption.id,), ()


RULE = Rule("empty", ("no_empty",), "characters", _check, _mend)
