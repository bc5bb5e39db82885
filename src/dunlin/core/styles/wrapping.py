"""Lines broken where they would be wider than they may be."""

from collections.abc import Iterable

from dunlin.core.captions.model import Span, joined, plain_text, sliced
from dunlin.core.styles.measuring import text_width
from dunlin.core.styles.model import Style, style_of_words
from dunlin.core.styles.picture import Script

__all__ = ["lines_of", "spans_width", "wrapped"]


def lines_of(spans: Iterable[Span]) -> list[tuple[Span, ...]]:
    """Styled text, a line each."""
    listed = tuple(spans)
    lines, at = [], 0
    for line in plain_text(listed).split("\n"):
        lines.append(sliced(listed, at, at + len(line)))
        at += len(line) + 1
    return lines


def spans_width(spans: Iterable[Span], style: Style, picture: Script) -> float:
    """Pixels that a line of styled text takes."""
    return sum(text_width(s.text, style_of_words(style, s), picture) for s in spans)


def wrapped(spans: tuple[Span, ...], style: Style, picture: Script) -> tuple[Span, ...]:
    """Styled text whose lines are no wider than the style allows, broken at spaces.

    A word that is wider alone stays whole. Without a width in the style nothing is broken.
    """
    if style.width is None:
        return spans
    limit = style.width * picture.width
    lines = [part for line in lines_of(spans) for part in _broken(line, style, picture, limit)]
    return joined(
        *(part for n, line in enumerate(lines) for part in ([Span("\n")] * bool(n), line))
    )


def _broken(
    line: tuple[Span, ...], style: Style, picture: Script, limit: float
) -> list[tuple[Span, ...]]:
    text = plain_text(line)
    lines, start, fits = [], 0, 0
    for at, letter in [*enumerate(text), (len(text), " ")]:
        if letter != " ":
            continue
        if spans_width(sliced(line, start, at), style, picture) > limit and fits > start:
            lines.append(sliced(line, start, fits))
            start = fits + 1
        fits = at
    return [*lines, sliced(line, start, len(text))]
