"""Sentences that a recogniser repeats because it has lost its way, told from those that are spoken again."""

from collections.abc import Callable, Iterable, Iterator
from typing import Protocol, TypeVar

__all__ = ["Spoken", "without_loops"]

# Once again is rhetoric, three times in a row is seldom.
_FEWEST_REPEATS = 2
# A few words may be said three times in one breath; nobody says nine or more that are a refrain of three.
_FEWEST_ROUNDS, _FEWEST_IN_CIRCLE = 3, 9


class Spoken(Protocol):
    """What a recogniser hears in one go, with its times in seconds."""

    text: str
    start: float
    end: float


_S = TypeVar("_S", bound=Spoken)


def without_loops(
    segments: Iterable[_S], again: Callable[[float, float], Iterable[_S]]
) -> Iterator[_S]:
    """Segments, in which those that say the same as the one before them, again and again, are heard anew,
    and so are those that go round in a circle within themselves.

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
        if _goes_in_circles(segment.text):
            yield from again(segment.start, segment.end)
        else:
            yield segment
    yield from _resolved(held, again)


def _resolved(held: list[_S], again: Callable[[float, float], Iterable[_S]]) -> Iterable[_S]:
    return held if len(held) < _FEWEST_REPEATS else again(held[0].start, held[-1].end)


def _goes_in_circles(text: str) -> bool:
    """Whether the same few words follow each other again and again."""
    words = [_words(word) for word in text.split()]
    for length in range(1, len(words) // _FEWEST_ROUNDS + 1):
        alike = 0
        for at in range(length, len(words)):
            alike = alike + 1 if words[at] == words[at - length] else 0
            # The first round is like none before it.
            said = alike + length
            if said >= max(_FEWEST_IN_CIRCLE, _FEWEST_ROUNDS * length):
                return True
    return False


def _words(text: str) -> str:
    """Letters and digits alone, however they are written."""
    return "".join(filter(str.isalnum, text.casefold()))
