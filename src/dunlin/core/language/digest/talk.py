"""A talk that words are written about: what of it could be said, the best first, worked out once."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

from dunlin.core.language.digest.centrality import centralities
from dunlin.core.language.digest.chapters import chapter_starts
from dunlin.core.language.digest.keywords import keywords
from dunlin.core.language.digest.phrases import Phrase, headings
from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.language.digest.strength import StrongPassage, strongest
from dunlin.core.text.words import joined_words

__all__ = ["Part", "Talk"]

_MANY = 60
"""Candidates of each kind: whoever has refused as many writes it themselves."""
_LEAST_WORDS = 4
"""Of a sentence that describes."""
_FIRST_WORDS = 6
"""That a part is called by which has no phrase."""


@dataclass(frozen=True)
class Part:
    """A part of a talk: from one sentence up to another, and what it can be called, the best first."""

    first: int
    after: int
    titles: tuple[Phrase, ...]


@dataclass(frozen=True)
class Talk:
    """The sentences of a talk, and what stands out among them."""

    sentences: tuple[Sentence, ...]
    language: str = "en"
    loudness: tuple[float, ...] | None = None
    """Of each sentence, as `strongest` takes it."""

    @cached_property
    def by_worth(self) -> tuple[int, ...]:
        """Sentences that can describe, by their places, those that say most first."""
        worths = centralities(self.sentences, self.language)
        all_ = range(len(self.sentences))
        able = [n for n in all_ if len(self.sentences[n].words) >= _LEAST_WORDS]
        return tuple(sorted(able or all_, key=lambda n: (-worths[n], n)))

    @cached_property
    def titles(self) -> tuple[Phrase, ...]:
        return tuple(headings(self.sentences, self.language, _MANY))

    @cached_property
    def keywords(self) -> tuple[str, ...]:
        return tuple(keywords(self.sentences, self.language, _MANY))

    @cached_property
    def parts(self) -> tuple[Part, ...]:
        """The parts that its topics make."""
        starts = chapter_starts(self.sentences, self.language)
        return tuple(self.part(a, b) for a, b in pairwise([*starts, len(self.sentences)]))

    def part(self, first: int, after: int) -> Part:
        own = self.sentences[first:after]
        return Part(first, after, tuple(headings(own, self.language, _MANY)))

    @cached_property
    def passages(self) -> tuple[StrongPassage, ...]:
        return tuple(strongest(self.sentences, self.language, _MANY, self.loudness))

    def title_of(self, part: Part) -> str:
        """What a part is about: its best phrase, or else how it begins."""
        if part.titles:
            return part.titles[0].text
        return joined_words(self.sentences[part.first].texts[:_FIRST_WORDS])

    def begins_ms(self, part: Part) -> int:
        """When a part begins; the first, with the film."""
        return self.sentences[part.first].start_ms if part.first else 0

    def text_of(self, places: Iterable[int]) -> str:
        """Sentences as they are said, in the order in which they are, whatever that of their places is."""
        return " ".join(joined_words(self.sentences[n].texts) for n in sorted(places))

    def place_at(self, ms: int) -> int:
        """The sentence that is said at a time, or the last that has begun before it."""
        begun = (n for n, one in enumerate(self.sentences) if one.start_ms <= ms)
        return max(begun, default=0)
