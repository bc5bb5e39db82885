"""Which way a text runs: from left to right, or from right to left."""

from functools import cache
from typing import Literal, TypeAlias

import regex

__all__ = ["Direction", "base_direction", "direction_of_language", "first_strong"]

Direction: TypeAlias = Literal["ltr", "rtl"]

_SCRIPTS = frozenset(("arab", "hebr", "syrc", "thaa", "nkoo", "adlm", "rohg"))
# Languages that are written from right to left where their tag names no script (CLDR's likely ones).
_LANGUAGES = frozenset(
    ("ar", "arc", "ckb", "dv", "fa", "he", "iw", "ks", "nqo", "pnb", "prs", "ps", "sd", "syr",
     "ug", "ur", "yi")
)  # fmt: skip
_STRONG = regex.compile(r"[\p{Bidi_Class=L}\p{Bidi_Class=R}\p{Bidi_Class=AL}]")
_FROM_LEFT = regex.compile(r"\p{Bidi_Class=L}")
_FROM_RIGHT = regex.compile(r"[\p{Bidi_Class=R}\p{Bidi_Class=AL}]")


@cache
def direction_of_language(language: str) -> Direction:
    """The direction in which a language is written.

    :param language: BCP 47 tag
    """
    base, *more = language.lower().split("-")
    scripts = [part for part in more if len(part) == 4 and part.isalpha()]
    if scripts:
        return "rtl" if scripts[0] in _SCRIPTS else "ltr"
    return "rtl" if base in _LANGUAGES else "ltr"


def first_strong(text: str) -> Direction | None:
    """The direction of the first letter that has one (UAX #9, rule P2); None where none has."""
    found = _STRONG.search(text)
    if found is None:
        return None
    return "rtl" if _FROM_RIGHT.match(found[0]) else "ltr"


def base_direction(text: str, language: str) -> Direction:
    """The direction of a text as a whole, which tells where its marks and numbers stand.

    That of its language, as far as it has any letter of that direction; else of the letters it has. So
    a line of Arabic that begins with a foreign name still runs from the right, and a foreign line
    among Arabic ones from the left.
    """
    usual = direction_of_language(language)
    # Of most captions this says it all.
    if usual == "ltr" and text.isascii():
        return usual
    first = first_strong(text)
    if first is None or first == usual:
        return usual
    own = _FROM_LEFT if usual == "ltr" else _FROM_RIGHT
    return usual if own.search(text) else first
