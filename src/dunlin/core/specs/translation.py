"""What a translation is judged against: what its captions are of, and the terms of its languages."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from dunlin.core.text.stems import finds_by_stems, stems_of, term_places

__all__ = ["Against", "Term", "TermList", "Translation"]


@dataclass(frozen=True)
class Term:
    """A term of the source language with what it is in the other one."""

    source: str
    targets: tuple[str, ...] = ()
    """What it is called there, the best first; none where only something is forbidden."""
    forbidden: tuple[str, ...] = ()
    """What it must not be called."""
    as_written: bool = False
    """Whether capitals and small letters must be as they are in the term."""


@dataclass(frozen=True)
class Against:
    """What one caption translates."""

    text: str
    """Of all its sources, with their line breaks."""
    said: str | None = None
    """What they said when it was translated, in one line; None before it was."""
    progress: str | None = None
    speakers: int = 1
    """How many speak in its sources."""


class TermList:
    """Terms of a language pair, found in what is said however many there are."""

    def __init__(self, terms: Iterable[Term], language: str) -> None:
        """:param language: BCP 47 tag of the source's"""
        self.terms, self.language = tuple(terms), language
        self._by_stem: dict[str, list[Term]] = {}
        self._others: list[Term] = []
        for term in self.terms:
            stems = stems_of(term.source, language)
            # Where words are not parted by spaces, or no stem is sure, each is looked for.
            if stems and finds_by_stems(term.source, language):
                self._by_stem.setdefault(stems[0][0], []).append(term)
            else:
                self._others.append(term)

    def found_in(self, text: str) -> list[tuple[Term, int, int]]:
        """The terms that stand in a text, and from which character to which, in their order."""
        stems = {stem for stem, *_ in stems_of(text, self.language)}
        likely = [term for stem in stems for term in self._by_stem.get(stem, ())]
        found = [
            (term, start, end)
            for term in (*likely, *self._others)
            for start, end in term_places(
                text, term.source, self.language, as_written=term.as_written
            )
        ]
        return sorted(found, key=lambda one: (one[1], -one[2]))


@dataclass(frozen=True)
class Translation:
    """A translation as far as rules go by it.

    What each caption is of is asked for one by one: one edit is about few of thousands.
    """

    language: str
    """BCP 47 tag of the source's language."""
    against: Callable[[str], Against | None]
    """What a caption translates, by its id; None where it has no source."""
    terms: TermList | None = None
    names: Sequence[str] = ()
    """Names as they are spelled, which stay as they are."""
    twins: Callable[[str], Sequence[tuple[str, str]]] = lambda caption: ()
    """Of a caption's id: source and translation of others that stand before it, whose source is the same, or whose
    translation is."""
