"""Captions with more text than is judged."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting

__all__ = ["MOST_JUDGED", "RULE"]

MOST_JUDGED = 2_000
"""Characters of a caption that rules look at. Two minutes of talk: whatever a spec allows is far below."""


def _check(_: Setting) -> Check:
    return _found


def _found(place: Place) -> Iterable[Broken]:
    count = len(place.text)
    if count <= MOST_JUDGED:
        return ()
    return ((count, MOST_JUDGED, message("findings.endless", count=count, limit=MOST_JUDGED)),)


RULE = Rule("endless", (), "characters", _check)
