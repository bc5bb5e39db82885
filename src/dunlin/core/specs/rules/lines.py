"""How many lines, and how long."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks_or_two

__all__ = ["COUNT", "LENGTH"]


def _too_many(setting: Setting) -> Check | None:
    limit = setting.spec.lines
    if not limit:
        return None

    def found(place: Place) -> Iterable[Broken]:
        lines = place.measures.lines
        return (
            ()
            if lines <= limit
            else ((lines, limit, message("findings.lines", lines=lines, limit=limit)),)
        )

    return found


def _too_long(setting: Setting) -> Check | None:
    limit = setting.spec.characters_per_line
    if not limit:
        return None

    def found(place: Place) -> Iterable[Broken]:
        longest = place.measures.longest_line
        if longest <= limit:
            return ()
        return ((longest, limit, message("findings.line-length", longest=longest, limit=limit)),)

    return found


COUNT = Rule("lines", ("lines",), "lines", _too_many, other_breaks_or_two, "figure")
LENGTH = Rule(
    "line-length",
    ("characters_per_line", "wide_characters_count_two"),
    "characters",
    _too_long,
    other_breaks_or_two,
    "figure",
)
