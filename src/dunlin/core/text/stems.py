"""Words by their stems, so that a term is found in its inflected forms."""

import re
from collections.abc import Iterator, Sequence
from functools import cache

import snowballstemmer

from dunlin.core.text.cldr import locale_of
from dunlin.core.text.words import is_unspaced

__all__ = ["finds_by_stems", "stem_of", "stems_of", "term_places"]

_WORD = re.compile(r"[^\W_]+(?:['’][^\W_]+)*")
_SHORTEST = 4
"""Of a language without a stemmer: words that agree in so many letters, and in all but the last two, are forms of one."""


@cache
def _stemmer(language: str) -> snowballstemmer.basestemmer.BaseStemmer | None:
    locale = locale_of(language)
    known = ((locale and locale.get_language_name("en")) or "").lower().split(" ")[0]
    return snowballstemmer.stemmer(known) if known in snowballstemmer.algorithms() else None


@cache
def stem_of(word: str, language: str) -> str:
    """The stem of a word, in small letters; the word itself where no stemmer knows the language.

    :param language: BCP 47 tag
    """
    small = word.lower().replace("’", "'")
    stemmer = _stemmer(language.split("-")[0])
    return small if stemmer is None else str(stemmer.stemWord(small))


def stems_of(text: str, language: str) -> list[tuple[str, int, int]]:
    """The stems of a text's words, and from which character to which each word goes."""
    return [(stem_of(m[0], language), m.start(), m.end()) for m in _WORD.finditer(text)]


def term_places(
    text: str, term: str, language: str, *, as_written: bool = False
) -> Iterator[tuple[int, int]]:
    """Where a term of one word or more stands in a text, in whatever form.

    In scripts without spaces between words it is found as it is written, wherever that is.

    :param as_written: whether capitals and small letters must be as they are in the term
    """
    wanted = [word for word, *_ in stems_of(term, language)]
    if not wanted or is_unspaced(term):
        start = text.find(term) if term else -1
        while start >= 0:
            yield start, start + len(term)
            start = text.find(term, start + len(term))
        return
    there = stems_of(text, language)
    has_stemmer = _stemmer(language.split("-")[0]) is not None
    for at in range(len(there) - len(wanted) + 1):
        run = there[at : at + len(wanted)]
        if not all(
            _is_form(one, of, has_stemmer) for (one, *_), of in zip(run, wanted, strict=True)
        ):
            continue
        start, end = run[0][1], run[-1][2]
        if not as_written or _same_case(text[start:end], term):
            yield start, end


def finds_by_stems(term: str, language: str) -> bool:
    """Whether a term stands only where its stems do."""
    return _stemmer(language.split("-")[0]) is not None and not is_unspaced(term)


def _is_form(stem: str, of: str, has_stemmer: bool) -> bool:
    if stem == of:
        return True
    if has_stemmer:
        return False
    common = max(len(of) - 2, _SHORTEST)
    return len(stem) >= _SHORTEST and stem[:common] == of[:common] and abs(len(stem) - len(of)) <= 3


def _same_case(found: str, term: str) -> bool:
    """Whether each word has a capital where the term has one."""
    pairs: Sequence[tuple[str, str]] = list(
        zip(_WORD.findall(found), _WORD.findall(term), strict=False)
    )
    return all(one[:1].isupper() == other[:1].isupper() for one, other in pairs)
