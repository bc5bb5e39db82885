"""Rules about what stands in a text: a pattern that must not be there, and what to put instead."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from re import Match, Pattern

from dunlin.core.captions.model import substituted
from dunlin.core.messages import Message
from dunlin.core.specs.model import RuleName
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting, Trigger

__all__ = ["Wording", "textual_rule"]


@dataclass(frozen=True)
class Wording:
    """What a spec does not want in a text."""

    pattern: Pattern[str]
    message: Message
    """Told with `found`, the first that was found."""
    replacement: Callable[[Match[str]], str] | None = None
    offends: Callable[[Match[str]], bool] = lambda match: True
    """Which of the pattern's matches are unwanted."""


def textual_rule(
    name: RuleName,
    limits: tuple[str, ...],
    wording: Callable[[Setting], Wording | None],
    trigger: Trigger,
) -> Rule:
    """A rule that finds a pattern in a text, and mends it by putting something else there."""

    def check(setting: Setting) -> Check | None:
        unwanted = wording(setting)
        return None if unwanted is None else _found(unwanted)

    def mend(place: Place, setting: Setting) -> Iterator[Candidate]:
        unwanted = wording(setting)
        if unwanted is None or unwanted.replacement is None:
            return
        caption, put = place.caption, unwanted.replacement

        def replacement(match: Match[str]) -> str:
            return put(match) if unwanted.offends(match) else match[0]

        spans = substituted(caption.spans, unwanted.pattern, replacement)
        if spans != caption.spans:
            yield (caption.id,), (replace(caption, spans=spans),)

    return Rule(name, limits, "places", check, mend, trigger)


def _found(unwanted: Wording) -> Check:
    def check(place: Place) -> Iterable[Broken]:
        found = [m[0] for m in unwanted.pattern.finditer(place.text) if unwanted.offends(m)]
        if not found:
            return ()
        told = unwanted.message
        values = told.values | {"found": found[0].strip()[:40]}
        return ((len(found), 0, Message(told.code, values)),)

    return check
