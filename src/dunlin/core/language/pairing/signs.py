"""What is compared of passages."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from dunlin.core.text.numbers import numbers_in
from dunlin.core.text.words import words_to_compare

__all__ = ["STRONG_ENDS", "Signs", "joined", "signs_of"]

_NAME = re.compile(r"(?<![.!?…]\s)(?<!^)\b[^\W\d_][\w'’-]+", re.MULTILINE)
_ENDS = re.compile(r"([.!?…])[\"'”’»)]*$")
STRONG_ENDS = "?!…"
"""End marks that a translation mostly keeps."""


@dataclass(frozen=True)
class Signs:
    """Of a passage, or of some in a row."""

    length: int
    numbers: frozenset[str]
    names: frozenset[str]
    end: str
    in_ms: int | None
    out_ms: int | None
    words: frozenset[str] = frozenset()


def signs_of(text: str, in_ms: int | None, out_ms: int | None, language: str) -> Signs:
    """What is compared of a passage.

    :param language: BCP 47 tag
    """
    text = " ".join(text.split())
    end = _ENDS.search(text)
    return Signs(
        max(len(text), 1),
        frozenset(str(number.value.normalize()) for number in numbers_in(text, language)),
        frozenset(word for word in _NAME.findall(text) if word[0].isupper()),
        end[1] if end else "",
        in_ms,
        out_ms,
        frozenset(words_to_compare(text)),
    )


def joined(signs: Sequence[Signs]) -> Signs:
    """What is compared of passages in a row."""
    if len(signs) == 1:
        return signs[0]
    none: frozenset[str] = frozenset()
    return Signs(
        sum(one.length for one in signs),
        none.union(*(one.numbers for one in signs)),
        none.union(*(one.names for one in signs)),
        signs[-1].end,
        signs[0].in_ms,
        signs[-1].out_ms,
        none.union(*(one.words for one in signs)),
    )
