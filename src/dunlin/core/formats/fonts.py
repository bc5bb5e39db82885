"""Fonts that a document names and that are not here."""

from collections.abc import Iterator

from dunlin.core.formats.model import Document, Oddity
from dunlin.core.messages import message
from dunlin.core.styles.shelf import LATIN, is_there

__all__ = ["missing_fonts"]


def missing_fonts(document: Document) -> list[Oddity]:
    """That fonts are not here, and what stands in for them; nothing where all of them are."""
    missing = sorted({family for family in _named(document) if not is_there(family)})
    if not missing:
        return []
    return [Oddity(1, message("fonts.missing", families=", ".join(missing), instead=LATIN))]


def _named(document: Document) -> Iterator[str]:
    for look in document.styles.values():
        if look.font:
            yield look.font
    for caption in document.captions:
        for said in (caption.look, *(span.look for span in caption.spans)):
            if said and said.font:
                yield said.font
