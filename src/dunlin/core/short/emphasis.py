"""Words of weight: which of a talk's words say most, by what can be told from the words alone."""

import math
import re
from collections import Counter
from collections.abc import Sequence

from num2words import CONVERTER_CLASSES, num2words

from dunlin.core.text.joints import bare_word, negations, sentence_ends, small_words

__all__ = ["weights_of", "words_of_weight"]

_NUMBER, _NAME, _NEGATION = 3.0, 2.0, 2.5
_DIGITS = re.compile(r"\d")
_USUAL_LETTERS = 4.7
"""Of an English word in running text (Norvig 2013); others' words that are longer than usual are rare in the same way."""
_SPOKEN_NUMBERS = (0, *range(2, 21), *range(30, 100, 10), 100, 1000, 1_000_000)
_APART = 1
"""Words of weight have so many others between them at the least."""


def words_of_weight(
    texts: Sequence[str], share: float, colours: int, language: str = "en"
) -> dict[int, int]:
    """Which words are of weight, by their numbers, and of which kind: 1, or 2 for numbers and names where there are two.

    A word weighs more the rarer it is: in this talk (the negative logarithm of its share of the words, Shannon 1948), and by
    its length, since short words are the frequent ones (Zipf 1935). Numbers, names and negations weigh more than others.
    Words that lead on to others (`small_words`) never do. No two stand side by side unless they are parts of one number
    or name.

    :param share: of all words, at the most
    :param colours: how many kinds there may be; none gives none
    """
    if not colours or not share:
        return {}
    kinds, weights = _weighed(texts, language)
    room, chosen = round(share * len(texts)), set[int]()
    for n in sorted(range(len(texts)), key=lambda n: (-weights[n], n)):
        group = _group(n, kinds)
        if weights[n] <= 0 or len(chosen) + len(group - chosen) > max(room, 1):
            continue
        near = {m for g in group for m in range(g - _APART, g + _APART + 1)}
        if not (near - group) & chosen:
            chosen |= group
    second = {"number", "name"} if colours > 1 else set()
    return {n: 2 if kinds[n] in second else 1 for n in sorted(chosen)}


def weights_of(texts: Sequence[str], language: str = "en") -> list[float]:
    """How much each word weighs by that measure, numbers nothing; 0 for those that never do."""
    return [
        0.0 if kind == "number" else weight
        for kind, weight in zip(*_weighed(texts, language), strict=True)
    ]


def _weighed(texts: Sequence[str], language: str) -> tuple[list[str | None], list[float]]:
    """The kind of each word, and its weight."""
    bare = [bare_word(text) for text in texts]
    counts, numbers = Counter(bare), _spoken_numbers(language)
    begins = [n == 0 or sentence_ends(texts[n - 1], language) for n in range(len(texts))]
    kinds = [
        _kind(text, word, first, numbers, language)
        for text, word, first in zip(texts, bare, begins, strict=True)
    ]
    weights = [
        _weight(word, kind, counts[word] / len(texts), language)
        for word, kind in zip(bare, kinds, strict=True)
    ]
    return kinds, weights


def _spoken_numbers(language: str) -> frozenset[str]:
    code = language.split("-")[0]
    if code not in CONVERTER_CLASSES:
        return frozenset()
    # What says one is an article in many languages, and counts nothing.
    return frozenset(
        part for number in _SPOKEN_NUMBERS for part in _parts(number, code)
    ) - frozenset(_parts(1, code))


def _parts(number: int, code: str) -> list[str]:
    return re.split(r"[\s-]", num2words(number, lang=code))


def _kind(text: str, word: str, begins: bool, numbers: frozenset[str], language: str) -> str | None:
    if not word:
        return None
    if _DIGITS.search(word) or all(part in numbers for part in word.split("-")):
        return "number"
    if word in negations(language) or word.endswith(("n't", "n’t")):
        return "negation"
    if not begins and text.strip("\"'“‘«([")[:1].isupper() and word not in small_words(language):
        # German writes all its nouns so; its names are not told by that.
        return None if language.startswith("de") or len(word) == 1 else "name"
    return None


def _weight(word: str, kind: str | None, share: float, language: str) -> float:
    if not word or (word in small_words(language) and kind is None):
        return 0.0
    rare = -math.log2(share) / 4 + len(word) / _USUAL_LETTERS
    return rare + {"number": _NUMBER, "name": _NAME, "negation": _NEGATION}.get(kind or "", 0.0)


def _group(n: int, kinds: Sequence[str | None]) -> set[int]:
    """A word with those beside it that are parts of the same number or name."""
    if kinds[n] not in ("number", "name"):
        return {n}
    first = last = n
    while first and kinds[first - 1] == kinds[n]:
        first -= 1
    while last + 1 < len(kinds) and kinds[last + 1] == kinds[n]:
        last += 1
    return set(range(first, last + 1))
