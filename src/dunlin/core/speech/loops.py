"""Sentences that a recogniser repeats because it has lost its way, told from those that are spoken again."""

from collections.abc import Callable, Iterable, Iterator
from typing import Protocol, TypeVar

__all__ = ["Spoken", "without_loops"]

# Once again is rhetoric, three times in a row is seldom.
_FEWEST_REPEATS = 2


class Spoken(Protocol):
    """What a recogniser hears in one go, with its times in seconds."""

    text: str
    start: float
    end: float


_S = TypeVar("_S", bound=Spoken)


def without_loops(
    segments: Iterable[_S], again: Callable[[float, float], Iterable[_S]]
) -> Iterator[_S]:
    """Segments, in which those that say the same as the one before them, again and again, are heard anew.

    What is heard then is believed, also when it is the same: a refrain is.

    :param again: hears what is said between two times, in seconds, in another way
    """
    said, held = "", list[_S]()
    for segment in segments:
        words = _words(segment.text)
        if words and words == said:
            held.append(segment)
            continue
        yield from _resolved(held, again)
        said, held = words, []
        yield segment
    yield from _resolved(held, again)


def _resolved(held: list[_S], again: Callable[[float, float], Iterable[_S]]) -> Iterable[_S]:
    return held if len(held) < _FEWEST_REPEATS else again(held[0].start, held[-1].end)


def _words(text: str) -> str:
    """Letters and digits alone, however they are written."""
    return "".join(filter(str.isalnum, text.casefold()))
