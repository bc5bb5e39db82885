"""Words about a film: how long they take for an hour of talk."""

import random
import time

from dunlin.core.language.digest.pieces import begun
from dunlin.core.language.digest.sentences import sentences_of
from dunlin.core.language.digest.talk import Talk
from tests.unit.language.made_up import words
from tests.unit.language.test_digest import sentence_of, timed

__all__ = ["digesting"]

_WORDS = 9_000
"""An hour at 150 words a minute."""


def digesting() -> float:
    """Seconds for all pieces of an hour of talk on a dozen topics."""
    chance = random.Random(1)
    vocabulary, texts = words(chance, 1200), []
    while len(texts) < _WORDS:
        at = 90 * (len(texts) * 12 // _WORDS)
        texts += sentence_of(chance, vocabulary[at : at + 100], "en")
    said = timed(texts)
    start = time.perf_counter()
    begun(Talk(tuple(sentences_of(said))))
    return time.perf_counter() - start
