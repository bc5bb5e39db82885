"""A translation against its source: what must be in both, and what must not stay as it was."""

import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace

from dunlin.core.captions.model import with_put
from dunlin.core.messages import message
from dunlin.core.specs.model import RuleName
from dunlin.core.specs.rules.place import (
    Broken,
    Candidate,
    Check,
    Mend,
    Place,
    Rule,
    Setting,
    Unit,
)
from dunlin.core.specs.translation import Against, Term
from dunlin.core.text.numbers import Number, months_in, numbers_in
from dunlin.core.text.stems import term_places
from dunlin.core.text.words import words_to_compare

__all__ = ["OF_TRANSLATIONS"]

_Found = Callable[[Place, Against, Setting], Iterable[Broken]]

_LONG_ENOUGH = 20
"""Characters of a source from which its length says something of that of its translation."""
_WORDS_ENOUGH = 3
"""Words from which a translation that is the same as its source is none; fewer may be names."""


def _rule(
    name: RuleName,
    limits: tuple[str, ...],
    found: _Found,
    unit: Unit = "places",
    mend: Mend | None = None,
) -> Rule:
    """A rule about captions that have a source and words; which words are right in another language only a person can say."""

    def check(setting: Setting) -> Check | None:
        translation = setting.translation
        if translation is None or not any(getattr(setting.spec, name) for name in limits):
            return None

        def of(place: Place) -> Iterable[Broken]:
            against = translation.against(place.caption.id)
            if against is None or not place.text.strip():
                return ()
            return found(place, against, setting)

        return of

    return Rule(name, limits, unit, check, mend)


def _numbers(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    assert setting.translation is not None
    source, target = setting.translation.language, setting.language
    said, there = numbers_in(against.text, source), numbers_in(place.text, target)
    # What has its own way to be said in words need not be found; what is written in figures must be.
    missing = _without(said, there) if _knows(there, said, place.text, target) else []
    others = _without(there, said)
    added = [one for one in others if one.in_figures]
    if missing or added:
        told = message(
            "findings.number-differs",
            source=_listed(missing, against.text),
            target=_listed(others, place.text),
        )
        return ((len(missing) + len(added), 0, told),)
    months = months_in(against.text, source)
    if months and (named := months_in(place.text, target)) and sorted(months) != sorted(named):
        told = message("findings.month-differs")
        return ((1, 0, told),)
    return ()


def _knows(there: list[Number], said: list[Number], text: str, language: str) -> bool:
    """Whether a missing number is surely missing: those in figures, and those in words where words are known there."""
    return bool(there) or all(one.in_figures for one in said) or bool(numbers_in("12", language))


def _without(numbers: list[Number], others: list[Number]) -> list[Number]:
    """Numbers without those that are among others, each as often as it is."""
    left = [other.value for other in others]
    found = []
    for one in numbers:
        if one.value in left:
            left.remove(one.value)
        else:
            found.append(one)
    return found


def _listed(numbers: list[Number], text: str) -> str:
    return ", ".join(text[one.start : one.end] for one in numbers) or "–"


def _names(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    assert setting.translation is not None
    missing = [
        name
        for name in setting.translation.names
        if re.search(rf"(?<!\w){re.escape(name)}(?!\w)", against.text)
        and name.lower() not in " ".join(place.text.split()).lower()
        # Other scripts write names in their own letters.
        and _same_script(name, place.text)
    ]
    if not missing:
        return ()
    return ((len(missing), 0, message("findings.name-missing", names=", ".join(missing))),)


def _same_script(name: str, text: str) -> bool:
    return any("a" <= letter.lower() <= "z" for letter in name) == any(
        "a" <= letter.lower() <= "z" for letter in text
    )


def _terms(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    assert setting.translation is not None
    if setting.translation.terms is None:
        return ()
    text, said = " ".join(place.text.split()), " ".join(against.text.split())
    broken = []
    for term in dict.fromkeys(term for term, *_ in setting.translation.terms.found_in(said)):
        target = setting.language
        wrong = [one for one in term.forbidden if _stands(text, one, target, term)]
        if wrong:
            told = message(
                "findings.term-forbidden", term=term.source, wrong=wrong[0], right=_right(term)
            )
            broken.append(told)
        elif term.targets and not any(_stands(text, one, target, term) for one in term.targets):
            broken.append(message("findings.term-missing", term=term.source, right=_right(term)))
    return ((len(broken), 0, broken[0]),) if broken else ()


def _right(term: Term) -> str:
    return term.targets[0] if term.targets else "–"


def _stands(text: str, term: str, language: str, of: Term) -> bool:
    return next(term_places(text, term, language, as_written=of.as_written), None) is not None


def _same(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    assert setting.translation is not None
    source, target = setting.translation.language, setting.language
    if source.split("-")[0] == target.split("-")[0]:
        return ()
    words = words_to_compare(place.text)
    if len(words) < _WORDS_ENOUGH or words != words_to_compare(against.text):
        return ()
    return ((1, 0, message("findings.untranslated")),)


_END = re.compile(r"([.!?…。！？؟।]|\.\.\.)[\"'”’»“)\]]*$")
_KINDS = {"...": "…", "。": ".", "！": "!", "？": "?", "؟": "?", "।": "."}


def _end_of(text: str) -> str:
    match = _END.search(text.strip())
    return _KINDS.get(match[1], match[1]) if match else ""


def _end_marks(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    there, said = _end_of(place.text), _end_of(against.text)
    # Whether a statement has a point at its end is a matter of the spec; a question must stay one.
    if there == said or {there, said} <= {"", "."}:
        return ()
    return ((1, 0, message("findings.end-mark", there=there or "–", said=said or "–")),)


_WRITTEN = {
    ("ar", "fa", "ur"): {"?": "؟"},
    ("zh", "ja"): {"?": "？", "!": "！", ".": "。"},
    ("el",): {"?": ";"},
}
"""End marks as languages write them, where they do not write them as English does."""


def _with_end_of_source(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The end mark that the source has, as the language writes it, behind the last word or in the place of another."""
    assert setting.translation is not None
    against = setting.translation.against(place.caption.id)
    text = place.text.rstrip()
    wanted = _end_of(against.text) if against else ""
    if not wanted or not text:
        return
    base = setting.language.split("-")[0]
    for languages, marks in _WRITTEN.items():
        if base in languages:
            wanted = marks.get(wanted, wanted)
    match = _END.search(text)
    start, end = match.span(1) if match else (len(text), len(text))
    yield (
        (place.caption.id,),
        (replace(place.caption, spans=with_put(place.caption.spans, [(start, end, wanted)])),),
    )


def _length(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    least, most = setting.spec.translation_least_length, setting.spec.translation_greatest_length
    said = len(" ".join(against.text.split()))
    if said < _LONG_ENOUGH:
        return ()
    percent = round(100 * len(" ".join(place.text.split())) / said)
    if least and percent < least:
        return ((percent, least, message("findings.far-shorter", percent=percent, limit=least)),)
    if most and percent > most:
        return ((percent, most, message("findings.far-longer", percent=percent, limit=most)),)
    return ()


_SPEAKER_LINE = re.compile(r"^\s*[-–—]", re.MULTILINE)


def _speakers(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    there = max(len(_SPEAKER_LINE.findall(place.text)), 1)
    said = max(len(_SPEAKER_LINE.findall(against.text)), 1)
    # Of sources that were joined each may be another speaker's.
    if there == said or there == max(said, against.speakers):
        return ()
    return ((there, said, message("findings.speakers-differ", there=there, said=said)),)


def _two_ways(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    assert setting.translation is not None
    here, said = words_to_compare(place.text), words_to_compare(against.text)
    for source, target in setting.translation.twins(place.caption.id):
        if words_to_compare(source) == said and words_to_compare(target) != here:
            told = message("findings.two-ways", other=" ".join(target.split())[:60])
            return ((1, 0, told),)
        if words_to_compare(target) == here and words_to_compare(source) != said:
            told = message("findings.two-sources", other=" ".join(source.split())[:60])
            return ((1, 0, told),)
    return ()


def _draft(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    told = {"draft": "findings.draft", "doubtful": "findings.doubtful-pair"}.get(
        against.progress or ""
    )
    return ((1, 0, message(told)),) if told else ()


def _source_changed(place: Place, against: Against, setting: Setting) -> Iterable[Broken]:
    if against.said is None:
        return ()
    if against.said == " ".join(against.text.split()):
        return ()
    return ((1, 0, message("findings.source-changed")),)


OF_TRANSLATIONS = (
    _rule("source-changed", ("source_current",), _source_changed),
    _rule("draft", ("no_drafts",), _draft),
    _rule("untranslated", ("no_untranslated",), _same),
    _rule("number-differs", ("numbers_kept",), _numbers),
    _rule("name-missing", ("names_kept",), _names),
    _rule("term", ("terms_kept",), _terms),
    _rule("end-mark", ("end_marks_kept",), _end_marks, mend=_with_end_of_source),
    _rule("speakers-differ", ("speakers_kept",), _speakers),
    _rule(
        "translation-length",
        ("translation_least_length", "translation_greatest_length"),
        _length,
        "percent",
    ),
    _rule("two-ways", ("translated_alike",), _two_ways),
)
"""In the order in which their findings are listed."""
