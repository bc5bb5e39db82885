"""Quotations inside quotations: in single marks."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.captions.model import with_put
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting

__all__ = ["RULE"]

_OPENING, _CLOSING = "“„«", "”»"
# A closing mark of low quotations is the opening one of others.
_SINGLE = {"“": "‘", "”": "’", "„": "‚", "«": "‹", "»": "›"}


def _inner(text: str) -> list[int]:
    """Where double marks stand that open or close a quotation inside another."""
    found: list[int] = []
    open_at: list[str] = []
    for at, character in enumerate(text):
        low = bool(open_at) and open_at[-1] == "„" and character == "“"
        if character in _OPENING and not low:
            if open_at:
                found.append(at)
            open_at.append(character)
        elif (character in _CLOSING or low) and open_at:
            open_at.pop()
            if open_at:
                found.append(at)
    return found


def _check(setting: Setting) -> Check | None:
    if not setting.spec.nested_quotes_single:
        return None

    def found(place: Place) -> Iterable[Broken]:
        places = _inner(place.text)
        return ((len(places), 0, message("findings.nested-quotes")),) if places else ()

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """Single marks in place of the inner ones."""
    caption = place.caption
    marks = [(at, at + 1, _SINGLE[place.text[at]]) for at in _inner(place.text)]
    yield (caption.id,), (replace(caption, spans=with_put(caption.spans, marks)),)


RULE = Rule("nested-quotes", ("nested_quotes_single",), "places", _check, _mend, "mark")
