"""Which sentences say most of a text: those that are most like the others (LexRank, Erkan and Radev 2004)."""

import math
from collections import Counter
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.joints import bare_word, small_words

if TYPE_CHECKING:
    from scipy.sparse import csr_matrix

__all__ = ["centralities", "content_words"]

_DAMPING = 0.85
"""How much of what a sentence is worth comes of those like it (Brin and Page 1998)."""
_ROUNDS = 60
_SETTLED = 1e-7
_FEW = 3
"""Words that say something: a sentence with fewer says little by itself."""


def content_words(texts: Sequence[str], language: str = "en") -> list[str]:
    """The words that say something by themselves, in lower case and without their marks."""
    small = small_words(language)
    bare = (bare_word(text) for text in texts)
    return [word for word in bare if word and word not in small]


def centralities(sentences: Sequence[Sentence], language: str = "en") -> list[float]:
    """How much each sentence says of all of them: numbers from 0 to 1, 1 for the one that says most.

    Two sentences are alike by the cosine of their words, each counted by how few sentences have it. In that graph the
    worth of a sentence is the sum of the worths of those like it. Short ones are worth less.
    """
    told = [content_words(sentence.texts, language) for sentence in sentences]
    vectors = _vectors(told)
    if vectors.shape[1] == 0:
        return [0.0] * len(sentences)
    # The matrix of all pairs is never made: of an hour's talk it would be large.
    sums = np.asarray(vectors @ np.asarray(vectors.sum(axis=0)).ravel()).ravel()
    sums[sums == 0] = 1
    worth = np.full(len(told), 1 / len(told))
    for _ in range(_ROUNDS):
        shared = vectors @ (vectors.T @ (worth / sums))
        following = (1 - _DAMPING) / len(told) + _DAMPING * np.asarray(shared).ravel()
        settled = np.abs(following - worth).max() < _SETTLED
        worth = following
        if settled:
            break
    worth *= [min(len(words) / _FEW, 1.0) for words in told]
    most = worth.max()
    return [float(each / most) if most else 0.0 for each in worth]


def _vectors(told: Sequence[Sequence[str]]) -> "csr_matrix":
    """A row of length one a sentence, a column a word."""
    # A start that digests nothing does not wait for it.
    from scipy.sparse import csr_matrix

    in_sentences = Counter(word for words in told for word in set(words))
    columns = {word: n for n, word in enumerate(in_sentences)}
    values, rows, places = [], [], []
    for row, words in enumerate(told):
        # One that all sentences have still says a little.
        weights = {
            word: count * math.log(1 + len(told) / in_sentences[word])
            for word, count in Counter(words).items()
        }
        length = math.sqrt(sum(weight**2 for weight in weights.values())) or 1.0
        for word, weight in weights.items():
            values.append(weight / length)
            rows.append(row)
            places.append(columns[word])
    return csr_matrix((values, (rows, places)), shape=(len(told), len(columns)))
