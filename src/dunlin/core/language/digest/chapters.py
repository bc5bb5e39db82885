"""Where the talk turns to something else: the parts of a text that use words of their own (Utiyama and Isahara 2001, "A
statistical model for domain-independent text segmentation")."""

import math
from collections import defaultdict
from collections.abc import Sequence

from dunlin.core.language.digest.centrality import content_words
from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.stems import stem_of

__all__ = ["chapter_starts"]

_LEAST_MS = 15_000
"""A chapter is at least as long: shorter ones cannot be found on a film's page."""
_MOST_SENTENCES = 400
"""Of one chapter; what is longer is parted."""


def chapter_starts(
    sentences: Sequence[Sentence], language: str = "en", least_ms: int = _LEAST_MS
) -> list[int]:
    """Indexes of the sentences that chapters begin with, the first among them; none where nothing was said.

    The parting of the text is the one under which its words are likeliest: a word is as likely in a part as it is often
    there, with one added for each word of the text, and each part more costs the logarithm of the text's length.

    :param least_ms: the shortest chapter, from its first word to that of the next
    """
    told = [
        [stem_of(word, language) for word in content_words(sentence.texts, language)]
        for sentence in sentences
    ]
    kinds = len({word for words in told for word in words})
    length = sum(map(len, told))
    if not sentences:
        return []
    # What a word more is worth where there are so many already: looked up, as it is asked for millions of times.
    gains = [(n + 1) * math.log(n + 2) - n * math.log(n + 1) for n in range(length + 1)]
    best = [0.0, *[math.inf] * len(sentences)]
    before = [0] * (len(sentences) + 1)
    for first in range(len(sentences)):
        if best[first] is math.inf:
            continue
        counts: dict[str, int] = defaultdict(int)
        words, known = 0, 0.0
        for after in range(first + 1, min(first + _MOST_SENTENCES, len(sentences)) + 1):
            for word in told[after - 1]:
                count = counts[word]
                known += gains[count]
                counts[word] = count + 1
            words += len(told[after - 1])
            ends_ms = sentences[after].start_ms if after < len(sentences) else sentences[-1].end_ms
            is_short = ends_ms - sentences[first].start_ms < least_ms
            if is_short and (first, after) != (0, len(sentences)):
                continue
            cost = words * math.log(words + kinds) - known if words else 0.0
            total = best[first] + cost + math.log(max(length, 2))
            if total < best[after]:
                best[after], before[after] = total, first
    starts = [before[-1]]
    while starts[-1]:
        starts.append(before[starts[-1]])
    return starts[::-1]
