"""What files in XML share: read an element at a time, without what a hostile one may ask for, and text that may stand in one."""

import re
from collections.abc import Collection, Iterator
from typing import IO, Any

from lxml import etree

__all__ = [
    "LANGUAGE",
    "children_called",
    "in_xml",
    "language_tag",
    "name_of",
    "text_in",
    "xml_events",
]

LANGUAGE = "{http://www.w3.org/XML/1998/namespace}lang"
"""The attribute `xml:lang`, as lxml names it."""

_TAG = re.compile(r"^[A-Za-z]{2,3}([-_][A-Za-z0-9]{2,8})*$")
_NOT_IN_XML = re.compile(r"[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")


def xml_events(file: IO[bytes]) -> Iterator[tuple[str, Any]]:
    """The beginnings and ends of a file's elements, `start` and `end`, whatever encoding it says it is in.

    No entity is resolved, nothing is fetched.

    :raises lxml.etree.XMLSyntaxError: where it is broken
    """
    return iter(
        etree.iterparse(
            file, events=("start", "end"), resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False,
        )
    )  # fmt: skip


def name_of(element: Any) -> str:
    """An element's name without its namespace; nothing for comments and the like."""
    return etree.QName(element).localname if isinstance(element.tag, str) else ""


def children_called(element: Any, *names: str) -> list[Any]:
    """The children that are called so, in whatever namespace."""
    return [child for child in element if name_of(child) in names]


def text_in(element: Any, without: Collection[str] = ()) -> str:
    """All words in an element; comments and entities say nothing.

    :param without: names of elements whose words are none, as they hold codes
    """
    parts = [element.text or ""]
    for child in element:
        name = name_of(child)
        if name and name not in without:
            parts.append(text_in(child, without))
        parts.append(child.tail or "")
    return "".join(parts)


def language_tag(language: str) -> str:
    """A language tag as BCP 47 has it; nothing for what is none."""
    return language.replace("_", "-") if _TAG.match(language) else ""


def in_xml(text: str) -> str:
    """A text without the characters that XML 1.0 has no place for (2.2)."""
    return _NOT_IN_XML.sub("", text)
