"""Letters shown in another case than they are written in."""

import re
from collections.abc import Callable, Sequence
from dataclasses import replace

from dunlin.core.captions.look import Case
from dunlin.core.captions.model import Caption, Span, plain_text

__all__ = ["as_shown", "in_case", "shown_spans"]

_SENTENCE_BEGINS = re.compile(r"(?:\A|[.!?…]\W*\s)\W*(\w)")


def as_shown(caption: Caption) -> Caption:
    """The caption with its letters written as they are shown."""
    if caption.case is None:
        return caption
    return replace(caption, spans=shown_spans(caption), case=None)


def shown_spans(caption: Caption) -> tuple[Span, ...]:
    """A caption's spans with their letters as they are shown."""
    return in_case(caption.spans, caption.case)


def in_case(spans: tuple[Span, ...], case: Case | None) -> tuple[Span, ...]:
    """Styled text with its letters in a case; None leaves them as they are written.

    In sentence case a sentence begins with a capital; what is written in capitals throughout is
    brought down first, and otherwise names keep theirs.
    """
    return spans if case is None or case == "written" else _CASES[case](spans)


def _each(change: Callable[[str], str]) -> Callable[[Sequence[Span]], tuple[Span, ...]]:
    return lambda spans: tuple(span.with_text(change(span.text)) for span in spans)


def _sentence(spans: Sequence[Span]) -> tuple[Span, ...]:
    if plain_text(spans).isupper():
        spans = _each(str.lower)(spans)
    begins = {match.start(1) for match in _SENTENCE_BEGINS.finditer(plain_text(spans))}
    shown, at = [], 0
    for span in spans:
        text = "".join(c.upper() if at + i in begins else c for i, c in enumerate(span.text))
        shown.append(span.with_text(text))
        at += len(span.text)
    return tuple(shown)


_CASES: dict[Case, Callable[[Sequence[Span]], tuple[Span, ...]]] = {
    "upper": _each(str.upper),
    "lower": _each(str.lower),
    "sentence": _sentence,
}
