"""The words that a talk is about: those that it says often, and in which it differs from any talk."""

from collections import Counter
from collections.abc import Sequence
from itertools import pairwise

from dunlin.core.language.digest.sentences import Sentence
from dunlin.core.text.joints import bare_word, small_words
from dunlin.core.text.stems import stem_of

__all__ = ["keywords"]

_LEAST_LETTERS = 3


def keywords(sentences: Sequence[Sentence], language: str = "en", most: int = 8) -> list[str]:
    """Words and pairs of words, as they are said most, those that say most first.

    A pair that is said again and again counts for both of its words, which then stand by themselves only as far as they are
    said apart from it. Forms of one word count as one (`stem_of`).
    """
    small = small_words(language)
    single: Counter[str] = Counter()
    pairs: Counter[tuple[str, str]] = Counter()
    forms: dict[str, Counter[str]] = {}
    for sentence in sentences:
        texts = [text for text in sentence.texts if bare_word(text)]
        for text in texts:
            bare = bare_word(text)
            if bare in small or len(bare) < _LEAST_LETTERS:
                continue
            stem = stem_of(bare, language)
            single[stem] += 1
            forms.setdefault(stem, Counter())[bare] += 1
        for left, right in pairwise(texts):
            if left != left.rstrip(",.;:!?…"):
                continue
            both = [bare_word(left), bare_word(right)]
            if all(word not in small and len(word) >= _LEAST_LETTERS for word in both):
                pairs[stem_of(both[0], language), stem_of(both[1], language)] += 1
    scored: list[tuple[float, str]] = []
    for (left, right), count in pairs.items():
        if count > 1:
            name = f"{forms[left].most_common(1)[0][0]} {forms[right].most_common(1)[0][0]}"
            scored.append((count * 2.0, name))
            single[left] -= count
            single[right] -= count
    scored += [
        (float(count), forms[stem].most_common(1)[0][0])
        for stem, count in single.items()
        if count > 0
    ]
    scored.sort(key=lambda one: (-one[0], one[1]))
    return [name for _, name in scored[:most]]
