"""TBX, TermBase eXchange (ISO 30042:2019), in its dialect TBX-Basic and the style DCA; read of the edition of 2008 as well.

A concept is one entry: the first term of its first language, or of a wanted one, is the entry's term, those of other languages are its
translations; what a term list forbids is a deprecated term there. TBX-Basic has no word for capitals that must stay, so
`as_written` is a note of the term.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import IO, Any
from xml.sax.saxutils import escape, quoteattr

from lxml import etree
from pydantic import ValidationError

from dunlin.core.language.memory.pairs import in_one_line
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.messages import BadInput, message
from dunlin.core.text.xml import (
    LANGUAGE,
    children_called,
    in_xml,
    language_tag,
    name_of,
    text_in,
    xml_events,
)

__all__ = ["read_tbx", "written_tbx"]

_NAMESPACE = "urn:iso:std:iso:30042:ed-2"
_ROOTS = ("tbx", "martif")
_CONCEPTS, _LANGUAGES = ("conceptEntry", "termEntry"), ("langSec", "langSet")
_TERMS = ("termSec", "tig", "ntig")
_STATUS, _DEPRECATED, _PREFERRED = (
    "administrativeStatus", "deprecatedTerm-admn-sts", "preferredTerm-admn-sts",
)  # fmt: skip
_BAD_STATUSES = (_DEPRECATED, "supersededTerm-admn-sts", "deprecatedTerm", "supersededTerm")
_AS_WRITTEN = "as written"


def read_tbx(file: IO[bytes], language: str) -> Iterator[TermEntry]:
    """The terms of a file, concept by concept.

    :param language: BCP 47 tag of what is to be the entries' own language, where a concept has it
    :raises BadInput: when it is no TBX, is broken, or has what no term list can have
    """
    seen, number = False, 0
    try:
        for event, element in xml_events(file):
            name = name_of(element)
            if event == "start":
                if not seen and name not in _ROOTS:
                    raise BadInput(message("glossary.no-tbx"))
                seen = True
            elif name in _CONCEPTS:
                number += 1
                entry = _entry(element, language, number)
                element.clear()
                if entry:
                    yield entry
    except etree.XMLSyntaxError as error:
        raise BadInput(message("glossary.broken-tbx", line=error.lineno or 1)) from None


def _entry(concept: Any, language: str, number: int) -> TermEntry | None:
    good: dict[str, list[str]] = {}
    bad: dict[str, list[str]] = {}
    as_written = False
    for section in children_called(concept, *_LANGUAGES):
        tag = language_tag(section.get(LANGUAGE) or "")
        for term in children_called(section, *_TERMS):
            words = [in_one_line(text_in(one)) for one in term.iter("{*}term", "term")]
            notes = {
                one.get("type"): text_in(one).strip()
                for one in term.iter("{*}termNote", "termNote")
            }
            said = [text_in(one).strip() for one in term.iter("{*}note", "note")]
            as_written = as_written or _AS_WRITTEN in said
            where = bad if notes.get(_STATUS) in _BAD_STATUSES else good
            if tag:
                where.setdefault(tag, []).extend(word for word in words if word)
    own = next((tag for tag in good if _is_of(tag, language)), next(iter(good), None))
    if own is None:
        return None
    term, *others = good.pop(own)
    note = " ".join(text_in(one).strip() for one in children_called(concept, "note", "descrip"))
    try:
        # Other words for the same in its own language are no translations.
        return TermEntry.model_validate(
            {
                "term": term,
                "language": own,
                "translations": good,
                "forbidden": {tag: words for tag, words in bad.items() if tag != own},
                "as_written": as_written,
                "note": "; ".join(part for part in (note, *others) if part),
            }
        )
    except ValidationError as error:
        place = ".".join(map(str, error.errors()[0]["loc"]))
        raise BadInput(message("glossary.concept", number=number, place=place)) from None


def _is_of(tag: str, language: str) -> bool:
    return tag.split("-")[0].lower() == language.split("-")[0].lower()


def written_tbx(entries: Iterable[TermEntry]) -> Iterator[str]:
    """A TBX-Basic file in pieces, in UTF-8, a concept for each entry."""
    yield (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<tbx type="TBX-Basic" style="dca" xml:lang="en" xmlns="{_NAMESPACE}">\n'
        "<tbxHeader><fileDesc><sourceDesc><p>Dunlin</p></sourceDesc></fileDesc></tbxHeader>\n"
        "<text>\n<body>\n"
    )
    for number, entry in enumerate(entries, start=1):
        yield f'<conceptEntry id="c{number}">\n'
        if entry.note:
            yield f"<note>{_escaped(entry.note)}</note>\n"
        yield from _section(entry.language, [entry.term], [], as_written=entry.as_written)
        for tag in dict.fromkeys([*entry.translations, *entry.forbidden]):
            yield from _section(
                tag, *(_of(words, tag) for words in (entry.translations, entry.forbidden))
            )
        yield "</conceptEntry>\n"
    yield "</body>\n</text>\n</tbx>\n"


def _of(words: Mapping[str, tuple[str, ...]], tag: str) -> list[str]:
    return list(words.get(tag, ()))


def _section(
    tag: str, good: list[str], bad: list[str], *, as_written: bool = False
) -> Iterator[str]:
    yield f"<langSec xml:lang={quoteattr(tag)}>\n"
    note = f"<note>{_AS_WRITTEN}</note>" if as_written else ""
    for words, status in ((good, _PREFERRED), (bad, _DEPRECATED)):
        for n, word in enumerate(words):
            # The best one is preferred; the others are allowed without a word about it.
            told = (
                f'<termNote type="{_STATUS}">{status}</termNote>'
                if status == _DEPRECATED or n == 0
                else ""
            )
            yield f"<termSec><term>{_escaped(word)}</term>{told}{note}</termSec>\n"
    yield "</langSec>\n"


def _escaped(text: str) -> str:
    return escape(in_xml(text))
