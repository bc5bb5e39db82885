"""Numbers that a recogniser wrote in digits, as they are spoken."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import replace

from num2words import CONVERTER_CLASSES, num2words

from dunlin.core.speech.words import Word

__all__ = ["numbers_in_words"]

# Digits, in threes or in a row, with a fraction, or as an English ordinal; and the marks around them.
_NUMBER = re.compile(
    r"^(?P<before>[^\w$€£¥%+\-]*)(?P<digits>\d{1,3}(?:[,.\u00a0\u202f]\d{3})+|\d{1,9})"
    r"(?P<fraction>[.,]\d{1,3})?(?P<ordinal>st|nd|rd|th)?(?P<after>[^\w$€£¥%+\-]*)$"
)
# Four digits between these are mostly years in speech.
_YEARS = range(1100, 2100)


def numbers_in_words(words: Iterable[Word], language: str) -> Iterator[Word]:
    """Words with numbers written out, each word of a number with its share of the time.

    What is more than a number, such as a price, a time or a code, stays as it is; so do all where the
    language's numbers are not known.

    :param language: a BCP 47 tag
    """
    code = language.replace("-", "_")
    known = code if code in CONVERTER_CLASSES else code.split("_")[0]
    for word in words:
        said = _said(word.text, known) if known in CONVERTER_CLASSES else None
        if said is None:
            yield word
            continue
        length = word.end_ms - word.start_ms
        whole, done = sum(map(len, said)), 0
        for number, part in enumerate(said):
            start = word.start_ms + length * done // whole
            done += len(part)
            end = word.start_ms + length * done // whole
            yield replace(
                word, text=part, start_ms=start, end_ms=end, begins=word.begins and not number
            )


def _said(text: str, language: str) -> list[str] | None:
    match = _NUMBER.match(text)
    if match is None or (match["ordinal"] and language != "en"):
        return None
    whole = re.sub(r"\D", "", match["digits"])
    # A row of digits that begins with a nought is read one by one: a code, not a number.
    if len(whole) > 1 and whole[0] == "0":
        return None
    kind = "ordinal" if match["ordinal"] else "cardinal"
    is_row = whole == match["digits"] and not match["fraction"]
    if language == "en" and kind == "cardinal" and is_row and int(whole) in _YEARS:
        kind = "year"
    value = float(f"{whole}.{match['fraction'][1:]}") if match["fraction"] else int(whole)
    try:
        said = num2words(value, lang=language, to=kind)
    except (NotImplementedError, OverflowError, ValueError, TypeError):
        return None
    parts: list[str] = said.replace(",", "").split()
    parts[0] = match["before"] + parts[0]
    parts[-1] += match["after"]
    return parts
