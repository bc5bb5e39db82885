"""TMX 1.4b, the Translation Memory eXchange format (LISA OSCAR, 26 April 2005), read and written a unit at a time."""

from collections.abc import Iterable, Iterator
from datetime import UTC, datetime
from itertools import groupby
from typing import IO, Any
from xml.sax.saxutils import escape, quoteattr

from lxml import etree

from dunlin.core.language.memory.pairs import Pair, in_one_line
from dunlin.core.messages import BadInput, message
from dunlin.core.text.xml import LANGUAGE, in_xml, language_tag, name_of, text_in, xml_events

__all__ = ["read_tmx", "written_tmx"]

_MOST_IN_TEXT = 5_000
_CODES = ("bpt", "ept", "it", "ph", "ut", "sub")
"""Elements that hold codes of a format, which are no words; `hi` marks words."""


def read_tmx(file: IO[bytes], name: str = "") -> Iterator[Pair]:
    """The pairs of a file, one after the other, however large it is: of each unit its source language with every other.

    :param file: whatever its encoding says it is in
    :param name: of the file, as where the pairs are from, where no unit tells of a project
    :raises BadInput: when it is no TMX, or is broken at some place
    """
    try:
        source = "*all*"
        seen = False
        for event, element in xml_events(file):
            if event == "start":
                if not seen and name_of(element) != "tmx":
                    raise BadInput(message("memory.no-tmx"))
                seen = True
                if element.tag == "header":
                    source = element.get("srclang") or source
            elif element.tag == "tu":
                yield from _pairs(element, element.get("srclang") or source, name)
                _forget(element)
        if not seen:
            raise BadInput(message("memory.no-tmx"))
    except etree.XMLSyntaxError as error:
        line = error.lineno or 1
        raise BadInput(message("memory.broken", line=line)) from None


def _forget(element: Any) -> None:
    """Lets go of what was read."""
    element.clear()
    while element.getprevious() is not None:
        del element.getparent()[0]


def _pairs(unit: Any, source: str, name: str) -> Iterator[Pair]:
    variants = [
        (language_tag(variant.get(LANGUAGE) or variant.get("lang") or ""), _text(variant))
        for variant in unit.findall("tuv")
    ]
    variants = [(tag, text) for tag, text in variants if tag and text]
    wanted = source.lower()
    firsts = [v for v in variants if v[0].lower() == wanted]
    firsts = firsts or [v for v in variants if v[0].split("-")[0].lower() == wanted.split("-")[0]]
    project = next((p.text for p in unit.findall("prop") if p.get("type") == "project"), None)
    when = _when(unit.get("changedate") or unit.get("creationdate"))
    for first in firsts[:1] or variants[:1]:
        for other in variants:
            if other is not first and other[0] != first[0]:
                yield Pair(first[0], other[0], first[1], other[1], project or name, when)


def _text(variant: Any) -> str:
    segment = variant.find("seg")
    return "" if segment is None else in_one_line(text_in(segment, _CODES))[:_MOST_IN_TEXT]


def _when(date: str | None) -> int:
    try:
        moment = datetime.strptime(date or "", "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC)
    except ValueError:
        return 0
    return round(moment.timestamp() * 1000)


def written_tmx(pairs: Iterable[Pair]) -> Iterator[str]:
    """A TMX file in pieces, in UTF-8; pairs that follow each other and have the same source are one unit."""
    yield (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<tmx version="1.4">\n'
        '<header creationtool="Dunlin" creationtoolversion="1" segtype="block" o-tmf="Dunlin" adminlang="en" srclang="*all*"'
        ' datatype="plaintext"/>\n<body>\n'
    )
    key = lambda pair: (pair.source_language, pair.source, pair.origin)  # noqa: E731
    for (language, source, origin), unit in groupby(pairs, key=key):
        others = list(unit)
        when = max(pair.when_ms for pair in others)
        date = datetime.fromtimestamp(when / 1000, UTC).strftime("%Y%m%dT%H%M%SZ")
        dated = f' changedate="{date}"' if when else ""
        yield f"<tu srclang={quoteattr(language)}{dated}>\n"
        if origin:
            yield f'<prop type="project">{_escaped(origin)}</prop>\n'
        yield _variant(language, source)
        yield from (_variant(pair.target_language, pair.target) for pair in others)
        yield "</tu>\n"
    yield "</body>\n</tmx>\n"


def _variant(language: str, text: str) -> str:
    return f"<tuv xml:lang={quoteattr(language)}><seg>{_escaped(text)}</seg></tuv>\n"


def _escaped(text: str) -> str:
    return escape(in_xml(text))
