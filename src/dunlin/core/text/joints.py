"""Where words may part: how bad it is to end a line or a caption between two words."""

import json
from dataclasses import dataclass
from functools import cache
from importlib import resources

__all__ = [
    "BELONG_TOGETHER",
    "bare_word",
    "joint_cost",
    "known_languages",
    "negations",
    "sentence_ends",
    "small_words",
    "unmarked",
]

BELONG_TOGETHER = 1000.0
"""Cost of parting an article from its noun or a first name from a last: only a broken limit is worse."""

_SENTENCE_END, _CLAUSE_END, _LEAD, _PLAIN, _BEFORE_CONJUNCTION = 0.0, 12.0, 75.0, 48.0, 32.0
_OPENING, _CLOSING = "\"'“‘«([{¿¡„「『（", "\"'”’»)]}」』）"
_SENTENCE_MARKS, _CLAUSE_MARKS = (
    (".", "!", "?", "…", "。", "！", "？", "؟", "۔", "।", "॥", "\u037e"),
    (",", ";", ":", "،", "؛", "、", "，", "；", "：", "·", "—", "–"),
)
# In Greek it asks.
_GREEK_SENTENCE_MARKS = (*_SENTENCE_MARKS, ";")
_DASHES = "-–—"
_AROUND = _OPENING + _CLOSING + _DASHES + "".join(_SENTENCE_MARKS + _CLAUSE_MARKS) + "\u3000 "


@dataclass(frozen=True)
class _Words:
    """Words of a language by what they do at a break."""

    opens: frozenset[str] = frozenset()
    """Never end a line: articles, possessives, titles."""
    leads: frozenset[str] = frozenset()
    """Should not end a line: prepositions, auxiliaries, conjunctions, pronouns."""
    begins: frozenset[str] = frozenset()
    """Good beginnings of a line: conjunctions and prepositions."""
    follows: frozenset[str] = frozenset()
    """Never begin a line: particles and postpositions."""
    shortened: frozenset[str] = frozenset()
    """End in a full stop that ends no sentence."""
    negations: frozenset[str] = frozenset()
    """Say that something is not so."""


@cache
def _words(language: str) -> _Words:
    source = resources.files("dunlin.core.text") / "data" / f"{language.split('-')[0].lower()}.json"
    if not source.is_file():
        return _Words()
    data = json.loads(source.read_text("utf-8"))
    return _Words(**{name: frozenset(words) for name, words in data.items()})


def known_languages() -> list[str]:
    """Languages with words of their own here, as BCP 47 tags."""
    folder = resources.files("dunlin.core.text") / "data"
    return sorted(file.name.removesuffix(".json") for file in folder.iterdir())


@cache
def small_words(language: str) -> frozenset[str]:
    """A language's words that lead on to others: articles, prepositions, conjunctions and their like."""
    words = _words(language)
    return words.opens | words.leads | words.begins | words.follows


def negations(language: str) -> frozenset[str]:
    """A language's words that say that something is not so."""
    return _words(language).negations


def unmarked(word: str) -> str:
    """A word without the marks around it."""
    return word.strip(_AROUND)


def bare_word(word: str) -> str:
    """A word without the marks around it, in lower case, for comparing."""
    return unmarked(word).lower()


def sentence_ends(text: str, language: str = "en") -> bool:
    """True when a sentence ends with the last word of a text, which may be its only one."""
    unquoted = text if text.endswith(".") else text.rstrip().rstrip(_CLOSING)
    if unquoted.endswith("."):
        return unquoted.rsplit(None, 1)[-1].lower() not in _words(language).shortened
    # No word is shortened by another mark than a full stop.
    return unquoted.endswith(
        _GREEK_SENTENCE_MARKS if language.startswith("el") else _SENTENCE_MARKS
    )


def joint_cost(left: str, right: str, language: str = "en") -> float:
    """How bad it is to end a line or a caption between two words.

    :param language: BCP 47 tag; a language without data is judged by its marks and names alone
    :returns: 0 where a sentence ends, 12 where a clause does, up to 75 inside a phrase, and
        `BELONG_TOGETHER` after an article, inside a name, and before a mark that stands alone
    """
    words = _words(language)
    before, after = bare_word(left), bare_word(right)
    if not after and right.strip(_DASHES):
        return BELONG_TOGETHER
    if sentence_ends(left, language):
        return _SENTENCE_END
    # White space where a script has none parts its clauses.
    if left.endswith((" ", "\u3000")) or left.rstrip(_CLOSING).endswith(_CLAUSE_MARKS):
        return _CLAUSE_END
    if before in words.opens or after in words.follows or left.lower() in words.shortened:
        return BELONG_TOGETHER
    if _is_name(left, words) and _is_name(right, words):
        return BELONG_TOGETHER
    if before in words.leads:
        return _LEAD
    if before.isdigit() and after[:1].isalpha():
        return _LEAD
    return _BEFORE_CONJUNCTION if after in words.begins else _PLAIN


def _is_name(word: str, words: _Words) -> bool:
    bare = bare_word(word)
    return word.strip(_OPENING)[:1].isupper() and bare not in words.leads | words.begins
