"""Marks of direction before lines that would run otherwise by their first letter."""

from collections.abc import Iterator

from dunlin.core.captions.model import Span, joined, plain_text, sliced
from dunlin.core.text.direction import base_direction, direction_of_language, first_strong

__all__ = ["directed", "undirected"]

_MARKS = {"rtl": "\N{RIGHT-TO-LEFT MARK}", "ltr": "\N{LEFT-TO-RIGHT MARK}"}


def directed(spans: tuple[Span, ...], language: str) -> tuple[Span, ...]:
    """Styled text in which each line runs as the whole does: one that would not by its first letter
    gets a mark of direction before it, and so does one that begins with a mark of its own."""
    text = plain_text(spans)
    if text.isascii() and direction_of_language(language) == "ltr":
        return spans
    direction = base_direction(_bare(text), language)
    mark = _MARKS[direction]

    parts: list[tuple[Span, ...]] = []
    for start, line in _lines(text):
        if (first_strong(line) or "ltr") != direction or line.startswith(mark):
            parts.append((Span(mark),))
        parts.append(sliced(spans, start, start + len(line) + 1))
    return joined(*parts)


def _lines(text: str) -> Iterator[tuple[int, str]]:
    """Where each line begins, and what it says."""
    start = 0
    for line in text.split("\n"):
        yield start, line
        start += len(line) + 1


def _bare(text: str) -> str:
    return "\n".join(line.lstrip("".join(_MARKS.values())) for line in text.split("\n"))


def undirected(spans: tuple[Span, ...], language: str) -> tuple[Span, ...]:
    """Styled text without the marks that `directed` gave it."""
    text = plain_text(spans)
    if text.isascii() or not any(mark in text for mark in _MARKS.values()):
        return spans
    mark = _MARKS[base_direction(_bare(text), language)]
    return joined(
        *(
            sliced(spans, start + line.startswith(mark), start + len(line) + 1)
            for start, line in _lines(text)
        )
    )
