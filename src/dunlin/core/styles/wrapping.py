"""Lines broken where they would be wider than they may be."""

from collections.abc import Callable, Iterable

import regex

from dunlin.core.captions.model import Caption, Span, joined, plain_text, sliced
from dunlin.core.styles.measuring import surely_fitting_in_any_face, text_width
from dunlin.core.styles.model import Style, style_of_words
from dunlin.core.styles.picture import Script
from dunlin.core.styles.telling import shown_words
from dunlin.core.text.words import word_places

__all__ = ["joined_lines", "lines_of", "room_of", "spans_width", "wrapped", "wrapped_caption"]

_CLUSTER = regex.compile(r"\X")


def lines_of(spans: Iterable[Span]) -> list[tuple[Span, ...]]:
    """Styled text, a line each."""
    listed = tuple(spans)
    lines, at = [], 0
    for line in plain_text(listed).split("\n"):
        lines.append(sliced(listed, at, at + len(line)))
        at += len(line) + 1
    return lines


def joined_lines(lines: Iterable[tuple[Span, ...]]) -> tuple[Span, ...]:
    """Lines as one styled text; the other way round than `lines_of`."""
    return joined(*((*[Span("\n")] * bool(n), *line) for n, line in enumerate(lines)))


def spans_width(spans: Iterable[Span], style: Style, picture: Script) -> float:
    """Pixels that a line of styled text takes."""
    return sum(text_width(s.text, style_of_words(style, s), picture) for s in spans)


def room_of(style: Style) -> float:
    """Part of the picture's width that a line may take before it wraps."""
    return _between_margins(style) if style.width is None else style.width


def _between_margins(style: Style) -> float:
    return 1 - 2 * style.side_margin


def wrapped(spans: tuple[Span, ...], style: Style, picture: Script) -> tuple[Span, ...]:
    """Styled text whose lines are no wider than the style allows, broken where words end. A word that is
    wider alone stays whole, unless it would run off the picture. Lines that run downwards stay as they
    are.
    """
    limit = room_of(style) * picture.width
    most = max(limit, _between_margins(style) * picture.width)
    surely_fits = surely_fitting_in_any_face(style, picture, room_of(style))
    larger = any(span.look for span in spans)
    if style.vertical or (not larger and surely_fits(plain_text(spans))):
        return spans
    return joined_lines(
        part for line in lines_of(spans) for part in _broken(line, style, picture, limit, most)
    )


def wrapped_caption(caption: Caption, style: Style, picture: Script) -> tuple[Span, ...]:
    """The words of a caption as they are shown: in their case, those of weight as such, and wrapped."""
    return wrapped(shown_words(caption.spans, style), style, picture)


def _broken(
    line: tuple[Span, ...], style: Style, picture: Script, limit: float, most: float
) -> list[tuple[Span, ...]]:
    text = plain_text(line)
    lines: list[tuple[Span, ...]] = []
    start = fits = after = 0
    places = list(word_places(text, style.language))
    if not places:
        return [line]
    # Where a line may end, and where the next one begins then.
    ends = [end for _, end in places]
    begins = [begin for begin, _ in places[1:]] + [len(text)]

    def width(end: int) -> float:
        return spans_width(sliced(line, start, end), style, picture)

    for end, begin in zip(ends, begins, strict=True):
        if width(end) > limit:
            if fits > start:
                lines.append(sliced(line, start, fits))
                start = after
            while width(end) > most:
                cut = _cut(text, start, end, lambda at: width(at) <= most)
                lines.append(sliced(line, start, cut))
                start = cut
        fits, after = end, begin
    return [*lines, sliced(line, start, len(text))]


def _cut(text: str, start: int, end: int, fits: Callable[[int], bool]) -> int:
    """Where a word is cut that is too wide for a line of its own: behind the last character that fits."""
    cuts: list[int] = [start + match.end() for match in _CLUSTER.finditer(text[start:end])]
    return next((cut for cut in reversed(cuts[:-1]) if fits(cut)), cuts[0])
