"""Which language a text is in, told by its letters and its small words."""

from collections import Counter
from functools import cache

import regex

from dunlin.core.text.joints import bare_word, known_languages, small_words

__all__ = ["language_of"]

# Fewer words, or letters in a script of one language, say too little.
_LEAST_WORDS, _LEAST_LETTERS = 12, 24
_MOST_READ = 20_000
# A text has one small word in three or four; of a language that is near it, half as many.
_LEAST_SHARE, _LEAST_LEAD = 0.15, 1.25
_SCRIPTS = {
    "ja": r"[\p{Hiragana}\p{Katakana}]",
    "ko": r"\p{Hangul}",
    "zh": r"\p{Han}",
    "th": r"\p{Thai}",
    "he": r"\p{Hebrew}",
    "el": r"\p{Greek}",
}
"""Scripts that one language is written in; others share theirs."""


def language_of(text: str) -> str | None:
    """The language of a text, as a BCP 47 tag, of those whose small words are known; None when it
    cannot be told: too little, a mixture, or another language."""
    text = text[:_MOST_READ]
    letters = sum(map(str.isalpha, text))
    for language, script in _SCRIPTS.items():
        own = len(_pattern(script).findall(text))
        # Japanese is written in Chinese characters too: a third of another kind tells it.
        if own >= _LEAST_LETTERS and own * (3 if language == "ja" else 2) > letters:
            return language
    words = [word for word in map(bare_word, text.split()) if word]
    if len(words) < _LEAST_WORDS:
        return None
    counts = Counter(words)
    shares = sorted(
        (sum(counts[word] for word in small_words(language)) / len(words), language)
        for language in known_languages()
        if language not in _SCRIPTS
    )
    (second, _), (best, language) = shares[-2:]
    return language if best >= _LEAST_SHARE and best >= second * _LEAST_LEAD else None


@cache
def _pattern(script: str) -> "regex.Pattern[str]":
    return regex.compile(script)
