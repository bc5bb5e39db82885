"""Timed Text Markup Language (W3C TTML 2), read with its styles, regions and speakers."""

import json
import re
from codecs import BOM_UTF16_BE, BOM_UTF16_LE
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import pairwise
from typing import Any

from lxml import etree

from dunlin.core.captions.model import Caption, Extras, Placement, Span, joined
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.model import Context, Document, FormatError, Oddity
from dunlin.core.formats.named_styles import StyleNames, name_of_token
from dunlin.core.formats.ttml_styles import STYLES_OF_IMSC, look_of_attributes
from dunlin.core.formats.ttml_values import LINE_BREAK, clock_of, collapsed, colour_of, two_lengths
from dunlin.core.formats.voices import with_speaker
from dunlin.core.messages import Message, message

__all__ = ["DEFAULT_BOX", "keeps_of_region", "looks_like_ttml", "read_ttml"]

DEFAULT_BOX = (0.1, 0.1, 0.8, 0.8)
"""Left, top, width and height of the region that captions stand in when nothing is said."""

_KEPT_OF_REGIONS = {
    "padding": re.compile(r"[\d.]+%(?: [\d.]+%){0,3}"),
    "overflow": re.compile("visible|hidden"),
    "showBackground": re.compile("always|whenActive"),
}
"""What a region says besides where it is, and how every profile has it."""

_XML = "{http://www.w3.org/XML/1998/namespace}"
# A background is not inherited by the standard, but it is seen behind what stands in front of it.
_INHERITED = {"fontStyle", "fontWeight", "textDecoration", "color", "textAlign", "backgroundColor"}
# Marks of UTF-16, and a declaration of another encoding than UTF-8: those the parser converts.
_WIDE = (BOM_UTF16_LE, BOM_UTF16_BE, b"<\0", b"\0<")
_ENCODING = re.compile(rb"""\s*<\?xml[^>]*\sencoding\s*=\s*["'](?!utf-?8["'])""", re.IGNORECASE)
_GREATEST_DEPTH = 100
# That one element refers to.
_MOST_STYLES = 100


def looks_like_ttml(text: str) -> bool:
    """Whether a text begins like a TTML file."""
    return re.search(r"<(?:[\w-]+:)?tt[\s>]", text[:4000]) is not None


def keeps_of_region(name: str, value: str) -> bool:
    """Whether what a region says is given back to it."""
    pattern = _KEPT_OF_REGIONS.get(name)
    return pattern is not None and pattern.fullmatch(value) is not None


def read_ttml(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions of a TTML file.

    Entities are not expanded and nothing outside of the file is looked at; a document type
    declaration is refused, for no timed text needs one.

    :raises FormatError: when it is no XML, or no TTML
    """
    oddities: list[Oddity] = []
    root = _parsed(data, context, oddities)
    try:
        return _document(_Reader(root, context, oddities), root)
    except UnicodeDecodeError as error:
        # Of an encoding that it declares, and is not in.
        raise FormatError(message("formats.no-xml-because", reason=error)) from None


def _document(reader: "_Reader", root: Any) -> tuple[Document, list[Oddity]]:
    body = next(_children(root, "body"), None)
    captions = list(reader.captions(body)) if body is not None else []
    reader.tell_sizes()
    ordered, oddities = put_in_order(captions, reader.oddities)
    ordered = tuple(replace(caption, id=numbered(n)) for n, caption in enumerate(ordered))
    return Document(ordered, reader.language, reader.kept_head(), reader.names.looks), oddities


def _parsed(data: bytes, context: Context, oddities: list[Oddity]) -> Any:
    if not data.strip():
        raise FormatError(message("files.empty"), 1)
    if context.encoding is not None:
        text = data.decode(context.encoding, errors="replace")
        data = re.sub(r"<\?xml[^>]*\?>", "", text.lstrip("\ufeff"), count=1).encode()
    elif not data.startswith(_WIDE) and _ENCODING.match(data) is None:
        # What is not UTF-8 would stop the parser's own text from being read later on.
        text = data.decode(errors="replace")
        if "\ufffd" in text and text.encode() != data:
            oddities.append(Oddity(1, message("oddities.wrong-bytes", encoding="utf-8")))
        data = text.encode()
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, recover=True, huge_tree=False,
        remove_comments=True, remove_pis=True,
    )  # fmt: skip
    try:
        root: Any = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise FormatError(
            message("formats.no-xml-because", reason=error), getattr(error, "lineno", None)
        ) from None
    if root is None:
        raise FormatError(message("formats.no-xml"), 1)
    if root.getroottree().docinfo.doctype:
        raise FormatError(message("formats.document-type"), 1)
    for entry in list(parser.error_log)[:200]:
        oddities.append(
            Oddity(max(entry.line, 1), message("oddities.xml-mended", reason=entry.message))
        )
    if _name(root) != "tt":
        told = message("formats.other-xml", root=_name(root)[:60])
        raise FormatError(told, root.sourceline)
    return root


def _name(element: Any) -> str:
    return _local(element.tag) if isinstance(element.tag, str) else ""


def _local(name: str) -> str:
    # Not by lxml's own means, which refuse the broken names that a mended file can have.
    return name.rpartition("}")[2].rpartition(":")[2]


def _children(element: Any, name: str) -> Iterator[Any]:
    return (child for child in element if _name(child) == name)


def _attributes(element: Any) -> dict[str, str]:
    """Attributes by local name; those of XML itself keep their prefix."""
    found = {}
    for key, value in element.attrib.items():
        local = _local(key)
        found[f"xml:{local}" if key.startswith(_XML) else local] = value
    return found


@dataclass(frozen=True)
class _Styled:
    """Style attributes as they are in force at an element, and what it inherits besides."""

    style: dict[str, str] = field(default_factory=dict)
    region: str | None = None
    language: str | None = None
    speaker: str | None = None
    preserve: bool = False


class _Reader:
    """A file's styles, regions and speakers, and the walk through its body."""

    def __init__(self, root: Any, context: Context, oddities: list[Oddity]) -> None:
        self.oddities = oddities
        attributes = _attributes(root)
        self.clock = clock_of(attributes, context)
        self.language = attributes.get("xml:lang") or None
        self.preserve = attributes.get("xml:space") == "preserve"
        self.pixels = two_lengths(attributes.get("extent", ""), (1.0, 1.0))
        head = next(_children(root, "head"), None)
        self.head = head
        self.styles: dict[str, dict[str, str]] = {}
        self.regions: dict[str, dict[str, str]] = {}
        self.speakers: dict[str, str] = {}
        self.sized = 0
        self.names = StyleNames(STYLES_OF_IMSC)
        if head is not None:
            self._read_head(head)

    def _read_head(self, head: Any) -> None:
        found: dict[str, dict[str, str]] = {}
        for element in head.iter():
            name, attributes = _name(element), _attributes(element)
            id_ = attributes.get("xml:id")
            if name == "style" and id_:
                found[id_] = attributes
            elif name == "region" and id_:
                nested: dict[str, str] = {}
                for style in _children(element, "style"):
                    nested |= _attributes(style)
                self.regions[id_] = attributes | nested
            elif name == "agent" and id_:
                names = [
                    " ".join("".join(n.itertext()).split()) for n in _children(element, "name")
                ]
                self.speakers[id_] = next(filter(None, names), id_)
        for id_ in found:
            self._resolve(found, id_, 0)
        for id_, region in self.regions.items():
            self.regions[id_] = self._referred(region) | region

    def _resolve(self, found: dict[str, dict[str, str]], id_: str, depth: int) -> None:
        """Notes a style with the styles it refers to, each worked out once; those that go round in a
        circle are broken off, for they find themselves without what is still being worked out."""
        if id_ in self.styles or id_ not in found:
            return
        own = {k: v for k, v in found[id_].items() if k not in ("style", "xml:id")}
        self.styles[id_] = own
        result: dict[str, str] = {}
        for other in found[id_].get("style", "").split()[:_MOST_STYLES]:
            if depth < _GREATEST_DEPTH:
                self._resolve(found, other, depth + 1)
                result |= self.styles.get(other, {})
        self.styles[id_] = result | own

    def _referred(self, attributes: dict[str, str]) -> dict[str, str]:
        result: dict[str, str] = {}
        for id_ in attributes.get("style", "").split()[:_MOST_STYLES]:
            result |= self.styles.get(id_, {})
        return result

    def captions(self, body: Any) -> Iterator[tuple[int, Caption]]:
        base = _Styled(language=self.language, preserve=self.preserve)
        yield from self._walked(body, base, 0, None, 0)

    def _walked(
        self, element: Any, outer: _Styled, start: int, end: int | None, depth: int
    ) -> Iterator[tuple[int, Caption]]:
        """Captions in an element that is shown from `start` until `end`."""
        name = _name(element)
        if name not in ("body", "div", "p") or depth > _GREATEST_DEPTH:
            return
        styled = self._styled(element, outer)
        try:
            begin, finish = self._shown(element, start, end)
        except ValueError as error:
            self._odd(element, message("oddities.left-out", reason=error))
            return
        if styled.style.get("display") == "none" and name != "p":
            self._odd(element, message("oddities.hidden"))
            return
        if name == "p":
            yield from self._paragraph(element, styled, begin, finish)
            return
        if any("backgroundImage" in key for key in element.attrib):
            self._odd(element, message("oddities.picture"))
        one_by_one = element.get("timeContainer") == "seq"
        for child in element:
            yield from self._walked(child, styled, begin, finish, depth + 1)
            if one_by_one:
                try:
                    begin = self._shown(child, begin, finish)[1] or begin
                except ValueError:
                    continue

    def _shown(self, element: Any, start: int, end: int | None) -> tuple[int, int | None]:
        attributes = _attributes(element)
        begin = start + self.clock.milliseconds(attributes.get("begin") or "0s")
        finish = end
        if "dur" in attributes:
            finish = begin + self.clock.milliseconds(attributes["dur"])
        if "end" in attributes:
            told = start + self.clock.milliseconds(attributes["end"])
            finish = min(finish, told) if "dur" in attributes and finish is not None else told
        return begin, finish

    def _styled(self, element: Any, outer: _Styled) -> _Styled:
        attributes = _attributes(element)
        inherited = {k: v for k, v in outer.style.items() if k in _INHERITED}
        style = inherited | self._referred(attributes) | attributes
        region = attributes.get("region") or outer.region
        agents = attributes.get("agent", "").split()
        space = attributes.get("xml:space")
        return _Styled(
            style,
            region,
            attributes.get("xml:lang") or outer.language,
            (self.speakers.get(agents[0], agents[0]) if agents else None) or outer.speaker,
            space == "preserve" if space else outer.preserve,
        )

    def _paragraph(
        self, p: Any, styled: _Styled, begin: int, finish: int | None
    ) -> Iterator[tuple[int, Caption]]:
        """One caption, or where parts of it have times of their own, one for each moment at which
        something else of it is shown."""
        if self._is_hidden(p, styled):
            return
        shown: dict[Any, tuple[int, int | None]] = {}
        for span in p.iter():
            if _name(span) == "span" and ("begin" in span.attrib or "end" in span.attrib):
                try:
                    shown[span] = self._shown(span, begin, finish)
                except ValueError as error:
                    self._odd(span, message("oddities.left-out", reason=error))
                    shown[span] = (begin, begin)
        if not shown:
            yield from self._caption(p, styled, begin, finish, frozenset())
            return
        told = {ms for times in shown.values() for ms in times if ms is not None}
        last = finish if finish is not None else max(told)
        moments = sorted({begin, last} | {ms for ms in told if begin < ms < last})
        for start, end in pairwise(moments):
            away = frozenset(
                span
                for span, (first, until) in shown.items()
                if not (first <= start and (until is None or end <= until))
            )
            yield from self._caption(p, styled, start, end, away)

    def _caption(
        self, p: Any, styled: _Styled, begin: int, finish: int | None, away: frozenset[Any]
    ) -> Iterator[tuple[int, Caption]]:
        """:param away: spans that are not shown then"""
        if finish is None:
            self._odd(p, message("oddities.no-end"))
            return
        parts = list(self._inside(p, styled, 0, away))
        spans = collapsed(parts, preserve=styled.preserve)
        if not spans and (away or not p.get("begin")):
            return
        spans, speaker = with_speaker(spans, styled.speaker)
        spans = joined(
            replace(s, language=None if s.language == self.language else s.language) for s in spans
        )
        look, told = look_of_attributes(styled.style)
        caption = Caption(
            "c", begin, finish, spans, speaker, self._placement(styled),
            self.names.name_of(look, self._style_saying(p, told)) if told else None,
            self._caption_extras(styled, told),
        )  # fmt: skip
        yield p.sourceline, mended_times(caption, lambda message: self._odd(p, message))

    def _is_hidden(self, element: Any, styled: _Styled) -> bool:
        """Whether an element is not to be shown at all, which is told once."""
        region = self.regions.get(styled.region or "", {})
        hidden = "none" in (styled.style.get("display"), region.get("display"))
        if hidden:
            self._odd(element, message("oddities.hidden"))
        return hidden

    def _inside(
        self, element: Any, styled: _Styled, depth: int, away: frozenset[Any] = frozenset()
    ) -> Iterator[Span]:
        """Text of an element and of the spans in it, but for those that are away."""
        if element.text:
            yield self._text(element.text, styled)
        for child in element:
            name = _name(child)
            if name == "br":
                yield self._text(LINE_BREAK, styled)
            elif name == "span" and depth < _GREATEST_DEPTH and child not in away:
                yield from self._span(child, styled, depth, away)
            if child.tail:
                yield self._text(child.tail, styled)

    def _span(self, span: Any, outer: _Styled, depth: int, away: frozenset[Any]) -> Iterator[Span]:
        styled = self._styled(span, outer)
        if styled.style.get("display") == "none":
            self._odd(span, message("oddities.hidden"))
            return
        own = self._referred(_attributes(span)) | _attributes(span)
        self.sized += own.get("fontSize", "100%") != "100%" or "lineHeight" in own
        if styled.style.get("ruby") == "container":
            base, reading = [], ""
            for part in _children(span, "span"):
                texts = list(self._inside(part, self._styled(part, styled), depth + 1))
                kind = self._styled(part, styled).style.get("ruby")
                if kind in ("text", "textContainer"):
                    reading += "".join(text.text for text in texts)
                # What stands around a reading where it cannot be drawn above is none of the text.
                elif kind != "delimiter":
                    base += texts
            yield from (replace(text, ruby=reading or None) for text in base)
            return
        yield from self._inside(span, styled, depth + 1, away)

    def tell_sizes(self) -> None:
        """Tells of words in a size of their own, and of regions in several, which are not kept."""
        found = {region.get("fontSize") for region in self.regions.values()} - {None}
        if self.sized or len(found) > 1:
            self.oddities.append(Oddity(1, message("oddities.sizes", count=max(self.sized, 1))))

    def _text(self, text: str, styled: _Styled) -> Span:
        style = styled.style
        colour = colour_of(style.get("color"))
        return Span(
            text,
            italic=style.get("fontStyle") in ("italic", "oblique"),
            bold=style.get("fontWeight") == "bold",
            underline="underline" in style.get("textDecoration", "").split(),
            colour=None if colour == "#FFFFFF" else colour,
            background=colour_of(style.get("backgroundColor")),
            language=styled.language,
            voice=styled.speaker,
        )

    def _placement(self, styled: _Styled) -> Placement | None:
        region = self.regions.get(styled.region or "", {})
        if "origin" in styled.style:
            region = region | styled.style
        align = styled.style.get("textAlign") or region.get("textAlign") or "center"
        place = Placement(
            anchor={"before": "top", "center": "middle"}.get(
                region.get("displayAlign", ""), "bottom"
            ),  # type: ignore[arg-type]
            align={"start": "left", "left": "left", "end": "right", "right": "right"}.get(
                align, "center"
            ),  # type: ignore[arg-type]
            vertical={"tbrl": "rl", "tb": "rl", "tblr": "lr"}.get(region.get("writingMode", "")),  # type: ignore[arg-type]
        )
        if region and "displayAlign" not in region:
            place = replace(place, anchor="top")
        if "origin" in region or "extent" in region:
            left, top = two_lengths(region.get("origin", ""), self.pixels)
            width, height = two_lengths(region.get("extent", ""), self.pixels, (1 - left, 1 - top))
            if tuple(round(v, 4) for v in (left, top, width, height)) != DEFAULT_BOX:
                x = left + {"left": 0, "center": width / 2, "right": width}[place.align]
                y = top + {"top": 0, "middle": height / 2, "bottom": height}[place.anchor]
                place = replace(place, x=round(x, 4), y=round(y, 4), width=round(width, 4))
        return None if place == Placement() else place

    def _style_saying(self, p: Any, told: set[str]) -> str:
        """The name of the style that an element is in which says some of this, the last of several."""
        ids = p.get("style", "").split()[:_MOST_STYLES]
        saying = [id_ for id_ in ids if self.styles.get(id_, {}).keys() & told]
        return name_of_token(saying[-1]) if saying else "Style"

    def _caption_extras(self, styled: _Styled, told: set[str]) -> Extras:
        kept_here = _KEPT_STYLES - told
        other = {key: value for key, value in styled.style.items() if key in kept_here}
        kept = [("ttml:style", json.dumps(other, sort_keys=True))] if other else []
        if styled.region in self.regions:
            kept.append(("ttml:region", styled.region))
        return tuple(kept)

    def kept_head(self) -> Extras:
        """The file's metadata, as far as it is not the speakers', and what its regions say besides where
        they are."""
        if self.head is None:
            return ()
        metadata = "".join(
            etree.tostring(child, encoding="unicode", with_tail=False)
            for metadata in _children(self.head, "metadata")
            for child in metadata
            if _name(child) not in ("agent", "")
        )
        said = {
            id_: kept
            for id_, region in self.regions.items()
            if (kept := {k: v for k, v in region.items() if keeps_of_region(k, v)})
        }
        regions = json.dumps(said, sort_keys=True) if said else ""
        parts = (("ttml:metadata", metadata), ("ttml:regions", regions))
        return tuple((name, value) for name, value in parts if value)

    def _odd(self, element: Any, told: Message) -> None:
        self.oddities.append(Oddity(element.sourceline or 1, told))


_KEPT_STYLES = {"fontFamily", "fontSize", "lineHeight", "opacity", "textOutline", "textShadow",
                "textEmphasis", "shear", "linePadding", "multiRowAlign", "fillLineGap"}  # fmt: skip
