"""XLIFF Version 2.0 (OASIS Standard, 5 August 2014), a unit for each caption.

What travels beside the words, as the standard has room for it: how many characters there is time to read as a size restriction (5.7), the
times as metadata (5.5), who speaks as a note, and how far it is as the state of its segment.
"""

import re
from collections.abc import Iterator
from typing import IO, Any
from xml.sax.saxutils import escape, quoteattr

from lxml import etree

from dunlin.core.language.handover.model import HandedOver, Returned, Row, State, Unit
from dunlin.core.messages import BadInput, message
from dunlin.core.text.xml import (
    children_called,
    in_xml,
    language_tag,
    name_of,
    text_in,
    xml_events,
)
from dunlin.core.timecode import clock, parse_time

__all__ = ["read_xliff", "written_xliff"]

_CORE = "urn:oasis:names:tc:xliff:document:2.0"
_METADATA = "urn:oasis:names:tc:xliff:metadata:2.0"
_SIZES = "urn:oasis:names:tc:xliff:sizerestriction:2.0"
_CODES = ("ph", "sc", "ec", "cp", "sm", "em")
"""Inline elements that stand for codes and not for words (4.2.3)."""
_UNIT = re.compile(r"^caption-(.+)$")
_NAME_TOKEN = re.compile(r"[^A-Za-z0-9_.-]")
_STATES: dict[str, State] = {
    "initial": "initial", "translated": "translated", "reviewed": "translated", "final": "final",
}  # fmt: skip


def written_xliff(given: HandedOver) -> Iterator[str]:
    """An XLIFF file in pieces, in UTF-8."""
    yield (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<xliff xmlns="{_CORE}" xmlns:mda="{_METADATA}" xmlns:slr="{_SIZES}" version="2.0"'
        f" srcLang={quoteattr(given.language)} trgLang={quoteattr(given.target)}>\n"
        f'<file id="captions" original={quoteattr(in_xml(given.title))}>\n'
        '<slr:profiles generalProfile="xliff:codepoints" storageProfile=""/>\n'
    )
    for unit in given.units:
        yield from _unit(unit)
    yield "</file>\n</xliff>\n"


def _unit(unit: Unit) -> Iterator[str]:
    most = "" if unit.most is None else f' slr:sizeRestriction="{max(unit.most, 0)}"'
    yield f"<unit id={quoteattr(f'caption-{unit.id}')}{most}>\n"
    yield '<mda:metadata><mda:metaGroup category="times">'
    yield f'<mda:meta type="in">{clock(unit.in_ms)}</mda:meta><mda:meta type="out">{clock(unit.out_ms)}</mda:meta>'
    yield "</mda:metaGroup></mda:metadata>\n"
    if unit.speaker:
        yield f'<notes><note category="speaker">{_escaped(unit.speaker)}</note></notes>\n'
    yield f'<segment state="{unit.state}"><source xml:space="preserve">{_escaped(unit.source)}</source>'
    if unit.target or unit.state != "initial":
        yield f'<target xml:space="preserve">{_escaped(unit.target)}</target>'
    yield "</segment>\n</unit>\n"


def read_xliff(file: IO[bytes]) -> Returned:
    """The units of a file, whatever tool wrote it; several segments of a unit are one row.

    :raises BadInput: when it is no XLIFF, is of another version, or is broken
    """
    rows: list[Row] = []
    language = target = None
    seen = False
    try:
        for event, element in xml_events(file):
            if event == "start" and not seen:
                seen = True
                _check(element)
                language = language_tag(element.get("srcLang") or "") or None
                target = language_tag(element.get("trgLang") or "") or None
            elif event == "end" and name_of(element) == "unit":
                rows.append(_row(element))
                element.clear()
    except etree.XMLSyntaxError as error:
        raise BadInput(message("handover.broken-xliff", line=error.lineno or 1)) from None
    return Returned(rows, language, target)


def _check(root: Any) -> None:
    if name_of(root) != "xliff":
        raise BadInput(message("handover.no-xliff"))
    if root.tag != f"{{{_CORE}}}xliff":
        raise BadInput(message("handover.other-xliff", version=root.get("version") or "?"))


def _row(unit: Any) -> Row:
    segments = children_called(unit, "segment", "ignorable")
    states = {
        _STATES.get(one.get("state") or "initial", "initial")
        for one in segments
        if name_of(one) == "segment"
    }
    least: State = next(
        (one for one in ("initial", "translated", "final") if one in states), "initial"
    )
    named = _UNIT.match(unit.get("id") or "")
    return Row(
        _said(segments, "source"), _said(segments, "target"), named[1] if named else "",
        _in_ms(unit), least,
    )  # fmt: skip


def _said(segments: list[Any], side: str) -> str:
    parts = [text_in(one, _CODES) for segment in segments for one in children_called(segment, side)]
    # What a tool wrapped to indent its file is no line of a caption.
    lines = "".join(parts).split("\n")
    return "\n".join(" ".join(line.split()) for line in lines).strip("\n")


def _in_ms(unit: Any) -> int | None:
    for meta in unit.iter(f"{{{_METADATA}}}meta"):
        if meta.get("type") == "in":
            try:
                return parse_time(meta.text or "")
            except BadInput:
                return None
    return None


def _escaped(text: str) -> str:
    return escape(in_xml(text))
