"""What was said, sentence by sentence."""

from collections.abc import Iterable
from dataclasses import dataclass

from dunlin.core.text.joints import sentence_ends

__all__ = ["Said", "Sentence", "sentences_of"]

_PAUSE_MS = 1200
"""After a pause as long as that something else begins, whether or not a mark says so."""
_MOST_WORDS = 40


@dataclass(frozen=True)
class Said:
    """A word, and when it was said."""

    text: str
    start_ms: int
    end_ms: int


@dataclass(frozen=True)
class Sentence:
    """Words that say something together."""

    words: tuple[Said, ...]

    @property
    def start_ms(self) -> int:
        return self.words[0].start_ms

    @property
    def end_ms(self) -> int:
        return self.words[-1].end_ms

    @property
    def texts(self) -> list[str]:
        return [word.text for word in self.words]


def sentences_of(words: Iterable[Said], language: str = "en") -> list[Sentence]:
    """Words in order as sentences: they end at their marks, at a long pause, or when they have become too long to be one."""
    sentences: list[Sentence] = []
    own: list[Said] = []
    for word in words:
        if own and (word.start_ms - own[-1].end_ms >= _PAUSE_MS or len(own) >= _MOST_WORDS):
            sentences.append(Sentence(tuple(own)))
            own = []
        own.append(word)
        if sentence_ends(word.text, language):
            sentences.append(Sentence(tuple(own)))
            own = []
    return [*sentences, Sentence(tuple(own))] if own else sentences
