"""Timed Text Markup Language, written in the dialect that a profile asks for."""

import json
import re
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import count
from xml.sax.saxutils import escape, quoteattr

from pydantic import TypeAdapter, ValidationError

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Placement, Span, extra
from dunlin.core.formats.model import Document
from dunlin.core.formats.named_styles import token_of_name
from dunlin.core.formats.ttml_reading import DEFAULT_BOX, keeps_of_region
from dunlin.core.formats.ttml_styles import attributes_of_look
from dunlin.core.text.direction import base_direction
from dunlin.core.timecode import clock

__all__ = ["Dialect", "written_ttml"]

_NAMESPACES = (
    ("ttp", "http://www.w3.org/ns/ttml#parameter"),
    ("tts", "http://www.w3.org/ns/ttml#styling"),
    ("ttm", "http://www.w3.org/ns/ttml#metadata"),
    ("itts", "http://www.w3.org/ns/ttml/profile/imsc1#styling"),
    ("ebutts", "urn:ebu:tt:style"),
    ("ebuttm", "urn:ebu:tt:metadata"),
)
_EBU_STYLES = {"linePadding", "multiRowAlign"}
_IMSC_STYLES = {"fillLineGap"}
_SAID = TypeAdapter(dict[str, dict[str, str]])
# Names that are sure to be no other element's: captions are called c1, styles s1, speakers a1.
_NAME = re.compile(r"(?![acs]\d)[A-Za-z_][\w.-]{0,60}", re.ASCII)
# XML 1.0 has no place for these, not even escaped.
_NO_XML = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")


@dataclass(frozen=True)
class Dialect:
    """What a profile of TTML wants."""

    prefix: str
    """Of TTML's own elements, with its colon, or nothing."""
    root: tuple[tuple[str, str], ...]
    """Attributes of the root beside namespaces and language."""
    metadata: str
    """What the head says about the file."""
    base_style: tuple[tuple[str, str], ...]
    ruby: bool
    edges: bool = False
    """Whether letters can have an outline and a shadow."""


class _Sheet:
    """Styles and regions, each given a name when it is first wanted.

    :param said: what regions of the file it came from said besides where they are, by their names
    """

    def __init__(self, said: dict[str, dict[str, str]]) -> None:
        self.said = said
        self.styles: dict[tuple[tuple[str, str], ...], str] = {}
        self.regions: dict[tuple[Placement, str | None], str] = {}
        self.agents: dict[str, str] = {}

    def style(self, attributes: tuple[tuple[str, str], ...]) -> str:
        return self.styles.setdefault(attributes, f"s{len(self.styles) + 1}")

    def region(self, place: Placement | None, name: str | None = None) -> str:
        """The region of a place, called as in the file it came from where no other one is."""
        place = place or Placement()
        key = (place, name if name in self.said else None)
        if key not in self.regions:
            taken = set(self.regions.values())
            free = (f"r{n}" for n in count(1) if f"r{n}" not in taken)
            named = name is not None and _NAME.fullmatch(name) and name not in taken
            self.regions[key] = name if name and named else next(free)
        return self.regions[key]

    def agent(self, name: str) -> str:
        return self.agents.setdefault(name, f"a{len(self.agents) + 1}")


def written_ttml(document: Document, dialect: Dialect) -> bytes:
    """The file of a document.

    :param document: with nothing in it but what the dialect holds
    """
    sheet, p = _Sheet(_said_of_regions(document)), dialect.prefix
    language = document.language or "und"
    body = [_paragraph(n, c, language, sheet, dialect) for n, c in enumerate(document.captions, 1)]
    # A file without captions has a region all the same.
    regions = sheet.regions or {(Placement(), None): "r1"}
    attributes = [
        ("xmlns:tt" if p else "xmlns", "http://www.w3.org/ns/ttml"),
        *((f"xmlns:{prefix}", uri) for prefix, uri in _NAMESPACES),
        ("xml:lang", document.language or ""),
        ("xml:space", "preserve"),
        *dialect.root,
    ]
    metadata = dialect.metadata + (extra(document.extras, "ttml:metadata") or "")
    agents = "".join(
        f'<ttm:agent xml:id="{id_}" type="person"><ttm:name type="full">{_text(name)}</ttm:name></ttm:agent>'
        for name, id_ in sheet.agents.items()
    )
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f"<{p}tt{_written(attributes)}>",
        f"<{p}head>",
        *([f"<{p}metadata>{metadata}{agents}</{p}metadata>"] if metadata or agents else []),
        f"<{p}styling>",
        f'<{p}style xml:id="s0"{_written(dialect.base_style)}/>',
        *(_named_style(name, look, dialect) for name, look in document.styles.items()),
        *(f'<{p}style xml:id="{id_}"{_written(found)}/>' for found, id_ in sheet.styles.items()),
        f"</{p}styling>",
        f"<{p}layout>",
        *(_region(i, place, sheet.said.get(n or "", {}), p) for (place, n), i in regions.items()),
        f"</{p}layout>",
        f"</{p}head>",
        f'<{p}body style="s0">',
        f"<{p}div>",
        *body,
        f"</{p}div>",
        f"</{p}body>",
        f"</{p}tt>",
    ]
    return ("\n".join(lines) + "\n").encode()


def _written(attributes: Iterable[tuple[str, str]]) -> str:
    return "".join(f" {name}={quoteattr(value)}" for name, value in attributes)


def _named_style(name: str, look: Look, dialect: Dialect) -> str:
    attributes = attributes_of_look(look, with_edges=dialect.edges)
    said = _written((f"tts:{key}", value) for key, value in attributes.items())
    return f'<{dialect.prefix}style xml:id="{token_of_name(name)}"{said}/>'


def _text(text: str) -> str:
    return escape(_NO_XML.sub("\N{REPLACEMENT CHARACTER}", text))


def _said_of_regions(document: Document) -> dict[str, dict[str, str]]:
    try:
        found = _SAID.validate_json(extra(document.extras, "ttml:regions") or "{}")
    except ValidationError:
        return {}
    return {
        id_: {name: value for name, value in said.items() if keeps_of_region(name, value)}
        for id_, said in found.items()
    }


def _region(id_: str, place: Placement, said: dict[str, str], prefix: str) -> str:
    left, top, width, height = _box(place)
    align = {"top": "before", "middle": "center", "bottom": "after"}[place.anchor]
    attributes = [
        ("tts:origin", f"{_percent(left)} {_percent(top)}"),
        ("tts:extent", f"{_percent(width)} {_percent(height)}"),
        ("tts:displayAlign", align),
    ]
    if place.vertical:
        attributes.append(("tts:writingMode", {"rl": "tbrl", "lr": "tblr"}[place.vertical]))
    attributes += [(f"tts:{name}", value) for name, value in sorted(said.items())]
    return f'<{prefix}region xml:id="{id_}"{_written(attributes)}/>'


def _box(place: Placement) -> tuple[float, float, float, float]:
    """The region in which a caption so placed comes to stand where it should."""
    if (place.x, place.y, place.width) == (None, None, None):
        return DEFAULT_BOX
    width = place.width if place.width is not None else DEFAULT_BOX[2]
    x = place.x if place.x is not None else {"left": 0.1, "center": 0.5, "right": 0.9}[place.align]
    left = x - {"left": 0.0, "center": width / 2, "right": width}[place.align]
    y = place.y if place.y is not None else {"top": 0.1, "middle": 0.5, "bottom": 0.9}[place.anchor]
    if place.anchor == "top":
        return left, y, width, 1 - y
    if place.anchor == "bottom":
        return left, 0.0, width, y
    height = 2 * min(y, 1 - y)
    return left, y - height / 2, width, height


def _percent(part: float) -> str:
    return f"{round(part * 100, 3):g}%"


def _paragraph(
    number: int, caption: Caption, language: str, sheet: _Sheet, dialect: Dialect
) -> str:
    align = caption.placement.align if caption.placement else "center"
    attributes = [
        ("xml:id", f"c{number}"),
        ("begin", clock(caption.in_ms)),
        ("end", clock(caption.out_ms)),
        ("region", sheet.region(caption.placement, _kept_region(caption))),
    ]
    style: list[tuple[str, str]] = [("tts:textAlign", align)] if align != "center" else []
    if base_direction(caption.text, language) == "rtl":
        style += [("tts:direction", "rtl"), ("tts:unicodeBidi", "embed")]
    style += _kept_styles(caption)
    named = [token_of_name(caption.style)] if caption.style else []
    if style:
        named.append(sheet.style(tuple(style)))
    if named:
        attributes.append(("style", " ".join(named)))
    if caption.speaker:
        attributes.append(("ttm:agent", sheet.agent(caption.speaker)))
    inner = "".join(_span(span, sheet, dialect) for span in caption.spans)
    return f"<{dialect.prefix}p{_written(attributes)}>{inner}</{dialect.prefix}p>"


def _kept_region(caption: Caption) -> str | None:
    return extra(caption.extras, "ttml:region") if caption.extras else None


def _kept_styles(caption: Caption) -> list[tuple[str, str]]:
    kept = extra(caption.extras, "ttml:style") if caption.extras else None
    if kept is None:
        return []
    try:
        values = json.loads(kept)
    except ValueError:
        return []
    return [(f"{_prefix_of(name)}:{name}", str(value)) for name, value in sorted(values.items())]


def _prefix_of(name: str) -> str:
    if name in _EBU_STYLES:
        return "ebutts"
    return "itts" if name in _IMSC_STYLES else "tts"


def _span(span: Span, sheet: _Sheet, dialect: Dialect) -> str:
    p = dialect.prefix
    text = f"<{p}br/>".join(_text(line) for line in span.text.split("\n"))
    style = [
        (name, value)
        for name, value in (
            ("tts:fontStyle", "italic" if span.italic else None),
            ("tts:fontWeight", "bold" if span.bold else None),
            ("tts:textDecoration", "underline" if span.underline else None),
            ("tts:color", span.colour),
            ("tts:backgroundColor", span.background),
        )
        if value
    ]
    attributes = []
    if style:
        attributes.append(("style", sheet.style(tuple(style))))
    if span.language:
        attributes.append(("xml:lang", span.language))
    if span.voice:
        attributes.append(("ttm:agent", sheet.agent(span.voice)))
    if span.ruby and dialect.ruby:
        text = (
            f'<{p}span tts:ruby="container"><{p}span tts:ruby="base">{text}</{p}span>'
            f'<{p}span tts:ruby="text">{_text(span.ruby)}</{p}span></{p}span>'
        )
    if not attributes and not p:
        return text
    return f"<{p}span{_written(attributes)}>{text}</{p}span>"
