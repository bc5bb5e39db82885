"""Where the words of a text begin and end: at spaces, and where a script has none, at its phrases."""

import os
from collections.abc import Callable, Iterator, Sequence
from functools import cache, partial
from itertools import chain, pairwise, zip_longest
from typing import TypeAlias

import budoux
import regex

__all__ = ["between", "is_unspaced", "joined_words", "word_places", "words_of", "words_to_compare"]

# Scripts that put no spaces between words, and the wide marks that are written with them.
_SCRIPTS = (
    r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Thai}\p{Lao}\p{Khmer}\p{Myanmar}"
    r"\u3000-\u303f\u30fc\uff01-\uff60]"
)
_UNSPACED = regex.compile(_SCRIPTS)
_COMPARED = regex.compile(rf"(?={_SCRIPTS})\w|(?:(?!{_SCRIPTS})\w)+")
_KANA = regex.compile(r"[\p{Hiragana}\p{Katakana}]")
_HAN, _THAI = regex.compile(r"\p{Han}"), regex.compile(r"\p{Thai}")
_TOKEN = regex.compile(r"\S+")
_TRADITIONAL = ("zh-hant", "zh-tw", "zh-hk", "zh-mo", "yue")


def words_of(text: str, language: str = "en") -> list[str]:
    """The words of a text, each as a line may begin or end with it.

    Chinese and Japanese come in phrases, as BudouX finds them, Thai in words, as the dictionary of
    PyThaiNLP has them; in Lao, Khmer and Burmese only spaces part words. White space that a script
    without spaces has all the same stays at the end of its word, so that `joined_words` gives the
    text again.

    :param language: BCP 47 tag; tells Chinese from Japanese where a text has no kana
    """
    if not _UNSPACED.search(text):
        return text.split()
    places = list(word_places(text, language))
    words = [text[start:end] for start, end in places]
    for index, ((_, end), (start, _)) in enumerate(pairwise(places)):
        if start > end and not between(words[index], words[index + 1]):
            words[index] += text[end]
    return words


def is_unspaced(text: str) -> bool:
    """Whether some of a text is in a script that puts no spaces between words."""
    return _UNSPACED.search(text) is not None


def words_to_compare(text: str) -> list[str]:
    """The words of a text whatever its case and marks, and wherever its lines end: in scripts without
    spaces every character is one."""
    return [match[0] for match in _COMPARED.finditer(text.casefold())]


def word_places(text: str, language: str = "en") -> Iterator[tuple[int, int]]:
    """Where each word of `words_of` begins and ends in the text, without white space."""
    for token in _TOKEN.finditer(text):
        start = token.start()
        if not _UNSPACED.search(token[0]):
            yield token.span()
            continue
        for phrase in _phrases(token[0], language):
            yield start, start + len(phrase)
            start += len(phrase)


def joined_words(words: Sequence[str]) -> str:
    """Words in a row: with spaces where their script has them."""
    spaces = (between(left, right) for left, right in pairwise(words))
    return "".join(chain.from_iterable(zip_longest(words, spaces, fillvalue=""))).rstrip()


def between(left: str, right: str) -> str:
    """What stands between two words on a line: a space, or nothing."""
    apart = left[-1].isspace() or _UNSPACED.match(left[-1]) or _UNSPACED.match(right[0])
    return "" if apart else " "


def _phrases(token: str, language: str) -> Iterator[str]:
    parse = _parser_for(token, language.lower())
    if parse is None:
        yield token
        return
    phrase = ""
    for part in parse(token):
        # A place where joining would put a space in is none to part at.
        if phrase and not between(phrase, part):
            yield phrase
            phrase = ""
        phrase += part
    yield phrase


_Parse: TypeAlias = Callable[[str], list[str]]


def _parser_for(token: str, language: str) -> _Parse | None:
    if _THAI.search(token):
        return _thai()
    if language.startswith("ja") or _KANA.search(token):
        return _japanese()
    if _HAN.search(token):
        return _chinese(traditional=language.startswith(_TRADITIONAL))
    return None


@cache
def _japanese() -> _Parse:
    return budoux.load_default_japanese_parser().parse


@cache
def _chinese(*, traditional: bool) -> _Parse:
    if traditional:
        return budoux.load_default_traditional_chinese_parser().parse
    return budoux.load_default_simplified_chinese_parser().parse


@cache
def _thai() -> _Parse:
    # It would make a folder in the user's home otherwise; and it is large, so only who needs it waits.
    os.environ.setdefault("PYTHAINLP_READ_ONLY", "1")
    from pythainlp.tokenize import word_tokenize

    return partial(word_tokenize, engine="newmm")
