"""Which passages of a talk answer a question: those whose words are the question's (Okapi BM25, Robertson and Zaragoza 2009)."""

import math
from collections import Counter
from dataclasses import dataclass

from dunlin.core.language.digest.centrality import content_words
from dunlin.core.language.digest.talk import Talk
from dunlin.core.text.words import joined_words, words_of

__all__ = ["Answer", "answers"]

_K1, _B = 1.2, 0.75
"""How soon a word that is said again counts no more, and how far a long sentence is held down: the usual ones (3.3.1)."""
_BESIDE = 0.3
"""What the words of the sentences next to one count in it: an answer goes on where the question's words were said."""


@dataclass(frozen=True)
class Answer:
    """A sentence that answers, and when it is said, in milliseconds."""

    text: str
    from_ms: int
    to_ms: int


def answers(talk: Talk, question: str, most: int = 5) -> list[Answer]:
    """The sentences that say most of what is asked for, the best first; none where none of its words is said."""
    asked = set(content_words(words_of(question, talk.language), talk.language))
    said = [Counter(content_words(one.texts, talk.language)) for one in talk.sentences]
    lengths = [sum(one.values()) for one in said]
    usual = sum(lengths) / max(len(lengths), 1) or 1
    within = {word: sum(word in one for one in said) for word in asked}

    def weight(word: str, n: int) -> float:
        count = said[n][word]
        if not count:
            return 0.0
        rare = math.log(1 + (len(said) - within[word] + 0.5) / (within[word] + 0.5))
        return rare * count * (_K1 + 1) / (count + _K1 * (1 - _B + _B * lengths[n] / usual))

    own = [sum(weight(word, n) for word in asked) for n in range(len(said))]
    worths = [
        value + _BESIDE * sum(own[beside] for beside in (n - 1, n + 1) if 0 <= beside < len(own))
        for n, value in enumerate(own)
    ]
    best = sorted(range(len(worths)), key=lambda n: (-worths[n], n))[:most]
    return [
        Answer(joined_words(one.texts), one.start_ms, one.end_ms)
        for one in (talk.sentences[n] for n in best if worths[n] > 0)
    ]
