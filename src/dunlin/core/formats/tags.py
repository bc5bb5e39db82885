"""Tags in text, as SRT by custom and WebVTT by its standard have them, into styled spans."""

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from dunlin.core.captions.model import Span, joined
from dunlin.core.messages import Message, message

__all__ = ["Tag", "simple_tags", "spans_from_tags"]

_TAG = re.compile(r"<(/?)([a-zA-Z]+|(?=\d))((?:[.\s\d][^<>]*)?)>")
# Tags in tags: each carries the styles of all that it stands in, and no hand nests this many.
_GREATEST_DEPTH = 50
_SIMPLE = {"i": "italic", "b": "bold", "u": "underline"}


@dataclass(frozen=True)
class Tag:
    """A tag that opens something: its name in lower case, and what stands behind the name.

    A time, which opens nothing and counts from here on, has no name.
    """

    name: str
    rest: str


def spans_from_tags(
    text: str,
    *,
    known: Iterable[str],
    style: Callable[[Span, Tag], Span],
    odd: Callable[[Message], None],
) -> tuple[Span, ...]:
    """Styled spans of a text with tags.

    :param known: names of tags besides `i`, `b` and `u`, and `""` for times; others are plain text
    :param style: gives the span inside a tag its style
    :param odd: is told about unclosed and stray tags
    """
    known = {*known, *_SIMPLE}
    parts: list[list[Span]] = []
    stack: list[tuple[str, Span]] = []
    current, at = Span(""), 0
    for match in _TAG.finditer(text):
        closing, name, rest = match[1], match[2].lower(), match[3]
        if name not in known:
            continue
        parts.append([current.with_text(text[at : match.start()])])
        at = match.end()
        if not name:
            current = style(current, Tag("", rest))
            stack = [(opened, style(outer, Tag("", rest))) for opened, outer in stack]
        elif not closing and len(stack) >= _GREATEST_DEPTH:
            odd(message("oddities.too-deep", tag=name))
        elif not closing:
            stack.append((name, current))
            current = style(_simply_styled(current, name), Tag(name, rest))
        elif any(name == opened for opened, _ in stack):
            while stack:
                opened, current = stack.pop()
                if opened == name:
                    break
                odd(message("oddities.not-closed-before", tag=opened, next=name))
        else:
            odd(message("oddities.closes-nothing", tag=name))
    for opened, _ in stack:
        # WebVTT lets a voice run to the end of its cue.
        if opened != "v":
            odd(message("oddities.not-closed", tag=opened))
    parts.append([current.with_text(text[at:])])
    return joined(*parts)


def _simply_styled(span: Span, name: str) -> Span:
    return replace(span, **{_SIMPLE[name]: True}) if name in _SIMPLE else span  # type: ignore[arg-type]


def simple_tags(span: Span) -> list[str]:
    """Names of the tags for italic, bold and underline that a span wants."""
    return [name for name, field in _SIMPLE.items() if getattr(span, field)]
