"""Names and terms that recognition gets wrong: found where something like them stands."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import jellyfish
import numpy as np
from rapidfuzz import process
from rapidfuzz.distance import Levenshtein

from dunlin.core.speech.words import Word
from dunlin.core.text.joints import bare_word

__all__ = ["Offer", "offers", "with_marks_of"]

# Tried out on recognised talk with names changed: below these, what is offered is mostly another
# word. Short words differ by one letter from many others, so they must be nearer.
_LOOKS_LIKE, _SOUNDS_LIKE, _LEAST_LOOKS = 0.72, 0.85, 0.5
_SHORT, _SHORT_LOOKS_LIKE = 4, 0.78


@dataclass(frozen=True)
class Offer:
    """`count` words from the one at index `first` on, that may be a term: as sure as `likeness`, from
    0 to 1, by letters or by sound."""

    first: int
    count: int
    said: str
    term: str
    likeness: float


def offers(words: Sequence[Word], terms: Iterable[str]) -> list[Offer]:
    """Where a term may be meant, in order, no two on the same word.

    Letters are compared by edit distance (Levenshtein), sounds by the edit distance of their
    Metaphone keys (Philips 1990, made for English and good enough for names in Latin letters). What
    stands as the term is spelled is not offered.
    """
    terms = list(dict.fromkeys(" ".join(term.split()) for term in terms if term.strip()))
    if not terms:
        return []
    bare = [bare_word(word.text) for word in words]
    written = [_stripped(word.text) for word in words]
    right = _spelled(written, terms)
    found: list[Offer] = []
    for length in {n for term in terms for n in _lengths(term)}:
        places: dict[str, list[int]] = {}
        for first in range(len(words) - length + 1):
            # What is right already is not a part of something else.
            if not right.intersection(range(first, first + length)):
                places.setdefault(" ".join(bare[first : first + length]), []).append(first)
        of_length = [term for term in terms if length in _lengths(term)]
        said = [text for text in places if text.strip()]
        for row, column, likeness in _alike(said, of_length):
            found += [
                Offer(
                    first,
                    length,
                    " ".join(written[first : first + length]),
                    of_length[column],
                    likeness,
                )
                for first in places[said[row]]
            ]
    return _apart(found)


def _spelled(written: Sequence[str], terms: Iterable[str]) -> set[int]:
    """Indices of the words that stand as a term is spelled."""
    right: set[int] = set()
    for term in terms:
        tokens = term.split()
        for first in range(len(written) - len(tokens) + 1):
            if written[first : first + len(tokens)] == tokens:
                right.update(range(first, first + len(tokens)))
    return right


def with_marks_of(term: str, said: str) -> str:
    """A term with the marks around it that stand around what was said."""
    inner = _stripped(said)
    at = said.find(inner) if inner else 0
    return said[:at] + term + said[at + len(inner) :]


def _stripped(text: str) -> str:
    lowered = bare_word(text)
    at = text.lower().find(lowered)
    return text[at : at + len(lowered)] if at >= 0 else text


def _lengths(term: str) -> range:
    """How many words a term is heard as: names run together, or fall apart."""
    count = len(term.split())
    return range(max(count - 1, 1), count + 2)


def _alike(said: Sequence[str], terms: Sequence[str]) -> Iterable[tuple[int, int, float]]:
    def letters(text: str) -> str:
        return text.lower().replace(" ", "")

    def alike(left: Sequence[str], right: Sequence[str]) -> np.ndarray:
        return process.cdist(
            left, right, scorer=Levenshtein.normalized_similarity, dtype=np.float32
        )

    if not said:
        return
    left, right = [letters(text) for text in said], [letters(term) for term in terms]
    looks = alike(left, right)
    sounds = alike([_key(text) for text in left], [_key(text) for text in right])
    least = np.array([_SHORT_LOOKS_LIKE if len(t) <= _SHORT else _LOOKS_LIKE for t in right])
    likely = (looks >= least) | ((sounds >= _SOUNDS_LIKE) & (looks >= _LEAST_LOOKS))
    for row, column in np.argwhere(likely):
        yield int(row), int(column), float(max(looks[row, column], sounds[row, column] * 0.95))


def _key(text: str) -> str:
    return jellyfish.metaphone(text) or text


def _apart(found: Iterable[Offer]) -> list[Offer]:
    """The likeliest of those that share a word."""
    taken: set[int] = set()
    kept: list[Offer] = []
    for offer in sorted(found, key=lambda o: (-o.likeness, o.count, o.first)):
        own = set(range(offer.first, offer.first + offer.count))
        if not own & taken:
            taken |= own
            kept.append(offer)
    return sorted(kept, key=lambda offer: offer.first)
