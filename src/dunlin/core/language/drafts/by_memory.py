"""Drafts of what was translated before: whole, with other numbers and terms put in, or sentence by sentence."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from babel.numbers import format_decimal

from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.language.memory.pairs import Pair, alike, in_one_line
from dunlin.core.specs.translation import Term
from dunlin.core.text.cldr import locale_of
from dunlin.core.text.joints import sentence_ends
from dunlin.core.text.measure import read_characters
from dunlin.core.text.numbers import numbers_in
from dunlin.core.text.stems import term_places
from dunlin.core.text.words import is_unspaced

__all__ = ["draft_of_memory", "exact_draft"]

_SAME = 0.99
"""So alike are sources that have the same words."""
_NEAR_ENOUGH = 0.8
"""What is as alike is put right sooner than it is written anew."""


def draft_of_memory(wanted: Wanted, known: Known) -> Draft | None:
    """A draft of what is remembered and of the term list; None where these have nothing.

    In this order: the same source; one that differs in numbers and terms alone, with those put in; each of its sentences
    so; a source that is nothing but a term; and a source that is nearly the same, as it stands.
    """
    found = known.like(wanted.text)
    whole = _same(wanted, found) or _repaired(wanted.text, found, known)
    if whole:
        return whole
    parts = [_part(sentence, known) for sentence in _sentences(wanted.text, known.language)]
    if len(parts) > 1 and (sentences := [part for part in parts if part]) and all(parts):
        between = "" if is_unspaced(sentences[0].text) else " "
        return Draft(between.join(part.text for part in sentences), sentences[0].origin)
    if only := _term_alone(wanted.text, known):
        return only
    near = next((pair for pair in found if alike(pair.source, wanted.text) >= _NEAR_ENOUGH), None)
    return Draft(near.target, near.origin) if near else None


def exact_draft(wanted: Wanted, known: Known) -> Draft | None:
    """What the same source became before: the newest that can be read in its time, or else the newest."""
    return _same(wanted, known.like(wanted.text))


def _same(wanted: Wanted, found: Sequence[Pair]) -> Draft | None:
    same = [pair for pair in found if alike(pair.source, wanted.text) >= _SAME]
    # The very same marks go before the same words.
    same.sort(key=lambda pair: in_one_line(pair.source) != in_one_line(wanted.text))
    fitting = (
        pair for pair in same
        if wanted.most is None or read_characters(pair.target) <= wanted.most
    )  # fmt: skip
    best = next(fitting, same[0] if same else None)
    return Draft(best.target, best.origin) if best else None


def _part(sentence: str, known: Known) -> Draft | None:
    found = known.like(sentence)
    return _same(Wanted(sentence), found) or _repaired(sentence, found, known)


def _sentences(text: str, language: str) -> list[str]:
    sentences: list[list[str]] = [[]]
    for word in text.split():
        sentences[-1].append(word)
        if sentence_ends(word, language):
            sentences.append([])
    return [" ".join(words) for words in sentences if words]


@dataclass(frozen=True)
class _Slot:
    """A place of a text that may hold something else: a number, or a term."""

    start: int
    end: int
    value: Decimal | Term


def _slots(text: str, known: Known) -> list[_Slot]:
    numbers = [
        _Slot(one.start, one.end, one.value)
        for one in numbers_in(text, known.language)
        if one.in_figures
    ]
    terms = [_Slot(start, end, term) for term, start, end in known.terms.found_in(text)]
    slots: list[_Slot] = []
    for slot in sorted([*numbers, *terms], key=lambda one: (one.start, -one.end)):
        if not slots or slot.start >= slots[-1].end:
            slots.append(slot)
    return slots


def _frame(text: str, slots: Sequence[_Slot]) -> list[str]:
    """What stands between the slots of a text, and of which kind each slot is."""
    at, parts = 0, []
    for slot in slots:
        parts += [text[at : slot.start], "1" if isinstance(slot.value, Decimal) else "term"]
        at = slot.end
    return [*parts, text[at:]]


def _repaired(text: str, found: Sequence[Pair], known: Known) -> Draft | None:
    """What is the same in all but numbers and terms, with those of this source in its translation."""
    slots = _slots(text, known)
    if not slots:
        return None
    for pair in found:
        source = in_one_line(pair.source)
        others = _slots(source, known)
        if _frame(source, others) != _frame(text, slots):
            continue
        target: str | None = pair.target
        for old, new in zip(others, slots, strict=True):
            if target is not None and old.value != new.value:
                target = _exchanged(target, old, new, text, known.target)
        if target is not None and target != pair.target:
            return Draft(target, pair.origin)
    return None


def _exchanged(target: str, old: _Slot, new: _Slot, text: str, language: str) -> str | None:
    """A translation with another number or term; None where it cannot be said where the old one stands."""
    if isinstance(old.value, Term) and isinstance(new.value, Term):
        if not new.value.targets:
            return None
        places = [
            place
            for word in old.value.targets
            for place in term_places(target, word, language, as_written=True)
        ]
        # In another form than the list's, the new one would have to be bent as well.
        there = [(a, b) for a, b in places if target[a:b] in old.value.targets]
        said = new.value.targets[0]
    else:
        there = [
            (one.start, one.end)
            for one in numbers_in(target, language)
            if one.in_figures and one.value == old.value
        ]
        said = _figures(new, text, language)
    if len(there) != 1:
        return None
    [(start, end)] = there
    return target[:start] + said + target[end:]


def _figures(slot: _Slot, text: str, language: str) -> str:
    """A number as a language writes it; one without any mark stays as it is, as that of a year or a house."""
    written = text[slot.start : slot.end]
    locale = locale_of(language)
    if written.isdigit() or locale is None:
        return written
    assert isinstance(slot.value, Decimal)
    return str(format_decimal(slot.value, locale=locale, decimal_quantization=False))


def _term_alone(text: str, known: Known) -> Draft | None:
    bare = text.strip(" .,!?…:;–-")
    for term, start, end in known.terms.found_in(bare):
        if (start, end) == (0, len(bare)) and term.targets:
            said = term.targets[0]
            return Draft(
                text.replace(bare, said[:1].upper() + said[1:] if bare[:1].isupper() else said), ""
            )
    return None
