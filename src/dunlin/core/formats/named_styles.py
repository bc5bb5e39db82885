"""Styles by name in formats whose styles say a part of what a look can."""

import re
from collections.abc import Callable, Container
from dataclasses import dataclass
from itertools import count

from dunlin.core.captions.look import Look
from dunlin.core.styles.measuring import line_in_ems
from dunlin.core.styles.shelf import LATIN, is_there

__all__ = [
    "NamedStyles",
    "StyleNames",
    "em_of",
    "line_of",
    "name_of_token",
    "size_of",
    "token_of_name",
]

# What may stand in a name of XML (Namespaces in XML 1.0, `NCName`), which is also one that a class can have.
_OUTSIDE = re.compile(
    "[^A-Za-z0-9_\\-\u00b7\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u037d\u037f-\u1fff\u2070-\u218f\u2c00-\u2fef"
    "\u3001-\ud7ff\uf900-\ufdcf\ufdf0-\ufffd]"
)
# Those that begin a name otherwise than a letter does, or are called as Dunlin calls other things of a file.
_UNFIT = re.compile(r"(?![^\W\d])|[acrs]\d+\Z|(?:colour|box|bg)[-_]", re.IGNORECASE)


@dataclass(frozen=True)
class NamedStyles:
    """What a format has of styles that captions name."""

    kept: Callable[[Look], Look | None]
    """What of a look a style of the format says, as it is read back; None where that is nothing."""
    taken: Container[str] = frozenset()
    """Names that mean something else there, in lower case."""


class StyleNames:
    """Names of looks in one file, each given when it is first wanted."""

    def __init__(self, styles: NamedStyles) -> None:
        self._taken = styles.taken
        self.looks: dict[str, Look] = {}

    def name_of(self, look: Look, wished: str) -> str:
        """The name of a look: the one that is wished for, with a number where it is another's."""
        fit = self._fit(wished)
        tried = (fit if n == 1 else f"{fit} {n}" for n in count(1))
        name = next(name for name in tried if self.looks.get(name, look) == look)
        self.looks[name] = look
        return name

    def _fit(self, wished: str) -> str:
        """A name that is the same once it was written and read."""
        name = name_of_token(token_of_name(wished)) or "Style"
        is_another = _UNFIT.match(token_of_name(name)) or name.lower() in self._taken
        return f"Style {name}" if is_another else name


def token_of_name(name: str) -> str:
    """A style's name as one word, which classes and ids are."""
    return _OUTSIDE.sub("-", "_".join(name.split())).strip("-_")


def name_of_token(token: str) -> str:
    """The name that a word stands for."""
    return " ".join(token.replace("_", " ").split())


def em_of(look: Look, usual: float) -> float:
    """What CSS and TTML call the size of letters, which is less than the line from ascent to descent, as a part of the
    picture's height.

    :param usual: of a look that says none
    """
    return look.size / line_of(look) if look.size else usual


def size_of(em: float, look: Look) -> float:
    """The size that a look has whose letters are of this size to CSS and TTML."""
    return round(em * line_of(look), 6)


def line_of(look: Look) -> float:
    """The height of a look's line from ascent to descent, in ems of its font or of the one that stands in for it."""
    family = look.font or LATIN
    return line_in_ems(family if is_there(family) else LATIN)
