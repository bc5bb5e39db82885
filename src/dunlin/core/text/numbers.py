"""Numbers in a text, in figures or in words, as values that can be compared across languages."""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from functools import cache
from typing import Any

from num2words import CONVERTER_CLASSES, num2words

from dunlin.core.text.cldr import locale_of

__all__ = ["Number", "months_in", "numbers_in"]

_FIGURES = re.compile(r"\d+(?:[.,’'\u00a0\u202f\u066b\u066c]\d+)*")
_SPACED = re.compile(r"\b(\d{1,3})((?: \d{3})+)\b")
"""Thousands parted by spaces as a keyboard has them."""
_GROUPED = re.compile(r"^\d{1,3}(?:([.,’'\u00a0\u202f\u066c])\d{3})(?:\1\d{3})*$")
_WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*")
_IN_WORDS_UP_TO, _YEARS = 1000, range(1001, 2101)
"""Numbers that are looked for in words: those that are written so, and years."""
_JOINING = {
    "en": ("and",),
    "de": ("und",),
    "es": ("y",),
    "fr": ("et",),
    "pt": ("e",),
    "nl": ("en",),
}
"""Words inside numbers that are not always there."""


@dataclass(frozen=True)
class Number:
    """A number in a text."""

    value: Decimal
    in_figures: bool
    start: int
    end: int
    """From which character to which."""


def numbers_in(text: str, language: str) -> list[Number]:
    """The numbers of a text in their order: figures of any script, and words where the language's are known.

    A mark between figures parts thousands where three follow it each time and the language may write it so, else it is
    the decimal point. What only may be a number, as "one" or "a", is none in words: values begin with 3 there.

    :param language: BCP 47 tag
    """
    if _parts_by_spaces(language):
        # So that no figure moves, a mark stands in the place of each space.
        text = _SPACED.sub(lambda m: m[1] + m[2].replace(" ", "\u202f"), text)
    found = [
        Number(value, True, match.start(), match.end())
        for match in _FIGURES.finditer(text)
        for value in _values(match[0], language)
    ]
    return sorted([*found, *_in_words(text, language)], key=lambda number: number.start)


def _values(figures: str, language: str) -> list[Decimal]:
    plain = "".join(str(int(c)) if c.isdigit() else c for c in figures)
    marks = re.sub(r"\d", "", plain)
    if not marks:
        return [Decimal(plain)]
    decimal = _decimal_mark(language)
    if _GROUPED.match(plain) and (len(marks) > 1 or marks != decimal):
        return [Decimal(re.sub(r"\D", "", plain))]
    whole, _, part = plain.rpartition(marks[-1])
    try:
        if len(marks) == 1 or _GROUPED.match(whole):
            return [Decimal(f"{re.sub(r'[^0-9]', '', whole)}.{part}")]
    except InvalidOperation:
        pass
    # A date, a time or a version: its parts are what can be compared.
    return [Decimal(part) for part in re.findall(r"\d+", plain)]


def _decimal_mark(language: str) -> str:
    return _symbol(language, "decimal", ".")


def _parts_by_spaces(language: str) -> bool:
    """Whether a language parts thousands by spaces."""
    return _symbol(language, "group", ",") in "\u00a0\u202f"


@cache
def _symbol(language: str, name: str, usual: str) -> str:
    """A mark of figures as CLDR has it."""
    locale = locale_of(language)
    return usual if locale is None else str(locale.number_symbols.get("latn", {}).get(name, usual))


def _in_words(text: str, language: str) -> Iterator[Number]:
    """The longest runs of words that are a number."""
    known = _words_of_numbers(_code(language))
    if not known:
        return
    words = [(m[0].lower().replace("’", "'"), m.start(), m.end()) for m in _WORD.finditer(text)]
    joining = _JOINING.get(language.split("-")[0], ())
    at = 0
    while at < len(words):
        length, value, node = 0, None, known
        for n, (word, *_) in enumerate(words[at:]):
            if word not in node:
                if n and word in joining:
                    continue
                break
            node = node[word]
            if _VALUE in node:
                length, value = n + 1, node[_VALUE]
        if value is not None and value >= 3:
            yield Number(Decimal(value), False, words[at][1], words[at + length - 1][2])
        at += max(length, 1)


_VALUE = ""


_BENT = ("ar", "he")
"""Languages whose numbers take other words with each noun: of these there is one form alone, which would be found inside
another number."""


def _code(language: str) -> str | None:
    """What a language is called among those whose numbers are known in words."""
    if language.split("-")[0] in _BENT:
        return None
    code = language.replace("-", "_")
    return next((c for c in (code, code.split("_")[0]) if c in CONVERTER_CLASSES), None)


@cache
def _words_of_numbers(code: str | None) -> Mapping[str, Any]:
    """Words by the words that may follow them, and the value of what has come together under `_VALUE`."""
    root: dict[str, Any] = {}
    if code is None:
        return root
    for value in (*range(_IN_WORDS_UP_TO + 1), *_YEARS):
        for kind in ("cardinal", "year") if value in _YEARS else ("cardinal",):
            try:
                said = num2words(value, lang=code, to=kind)
            except (NotImplementedError, ValueError, OverflowError, KeyError, IndexError):
                continue
            words = [
                word for word in _WORD.findall(said.lower()) if word not in _JOINING.get(code, ())
            ]
            node = root
            for word in words:
                node = node.setdefault(word, {})
            if words:
                node.setdefault(_VALUE, value)
    return root


def months_in(text: str, language: str) -> list[int]:
    """The months that a text names in full, as numbers from 1; of languages that Unicode's CLDR knows."""
    names = _months(language)
    return [names[m[0].lower()] for m in _WORD.finditer(text) if m[0].lower() in names]


@cache
def _months(language: str) -> Mapping[str, int]:
    locale = locale_of(language)
    if locale is None:
        return {}
    found: dict[str, int] = {}
    for form in ("format", "stand-alone"):
        for number, name in locale.months[form]["wide"].items():
            # Names that are also other words, as "May" and "March", are not told apart from these.
            if len(name) > 5:
                found[str(name).lower()] = int(number)
    return found
