"""Families of fonts as they go over the wire."""

from collections.abc import Iterable

from dunlin.api.wire import View
from dunlin.core.styles.shelf import Family

__all__ = ["FontView", "font_view"]


class FontView(View):
    """A family of fonts that captions can be set in."""

    name: str
    kind: str
    scripts: tuple[str, ...]
    """Unicode's names of those it has letters of, those it has most of first."""
    files: list[str]
    """Addresses of its faces, where it was added; those of one that ships are known."""


def font_view(family: Family, files: Iterable[str]) -> FontView:
    addresses = [f"/api/fonts/files/{file}" for file in files]
    return FontView(name=family.name, kind=family.kind, scripts=family.scripts, files=addresses)
