"""Characters: only some, not these, those of the language, and those that can be drawn."""

import re
from collections.abc import Callable, Iterable
from functools import cache

import regex

from dunlin.core.formats.stl_characters import encoded_character
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.styles.shelf import undrawable

__all__ = ["CHARACTERS", "DRAWABLE", "LANGUAGE"]

# Letters of a script, with digits, marks and signs of any.
_SCRIPTS = {
    "latin": r"\p{Latin}", "cyrillic": r"\p{Cyrillic}", "greek": r"\p{Greek}",
}  # fmt: skip
_LATIN = r"\p{Latin}"
_LANGUAGE_SCRIPTS = {
    r"\p{Cyrillic}": ("ru", "uk", "be", "bg", "mk", "sr", "kk"),
    r"\p{Greek}": ("el",),
    r"\p{Han}\p{Hiragana}\p{Katakana}": ("ja",),
    r"\p{Han}\p{Bopomofo}": ("zh", "yue"),
    r"\p{Hangul}\p{Han}": ("ko",),
    r"\p{Arabic}": ("ar", "fa", "ur", "ps"),
    r"\p{Hebrew}": ("he", "yi"),
    r"\p{Devanagari}": ("hi", "mr", "ne"),
    r"\p{Thai}": ("th",),
    r"\p{Armenian}": ("hy",),
    r"\p{Georgian}": ("ka",),
}


@cache
def _outside(name: str) -> Callable[[str], list[str]]:
    """What finds the characters of a text that are not in a set."""
    if name in _SCRIPTS:
        return regex.compile(rf"[\p{{L}}--[{_SCRIPTS[name]}]]", regex.V1).findall  # type: ignore[no-any-return]
    if name == "ebu-stl":
        return lambda text: [c for c in text if c != "\n" and encoded_character(c, 0) is None]
    return re.compile(r"[^\x00-\x7F]" if name == "ascii" else r"[^\x00-\xFF]").findall


def _check(setting: Setting) -> Check | None:
    allowed, forbidden = setting.spec.characters, frozenset(setting.spec.forbidden_characters)
    if allowed is None and not forbidden:
        return None
    outside = _outside(allowed) if allowed else None
    holds_ascii = allowed in _HOLD_ASCII

    def found(place: Place) -> Iterable[Broken]:
        text = place.text
        unwanted = outside(text) if outside and not (holds_ascii and text.isascii()) else []
        if forbidden:
            unwanted = [*unwanted, *(c for c in text if c in forbidden)]
        if not unwanted:
            return ()
        shown = " ".join(dict.fromkeys(unwanted))
        return ((len(unwanted), 0, message("findings.characters", characters=shown[:40])),)

    return found


_HOLD_ASCII = ("ascii", "latin-1", "latin")


@cache
def _foreign(language: str) -> Callable[[str], list[str]]:
    own = _script_of(language)
    return regex.compile(rf"[\p{{L}}--[{own}\p{{Common}}]]", regex.V1).findall  # type: ignore[no-any-return]


def _script_of(language: str) -> str:
    base = language.split("-")[0].lower()
    return next((s for s, tags in _LANGUAGE_SCRIPTS.items() if base in tags), _LATIN)


def _check_language(setting: Setting) -> Check | None:
    if not setting.spec.language:
        return None
    foreign, latin = _foreign(setting.language), _script_of(setting.language) == _LATIN

    def found(place: Place) -> Iterable[Broken]:
        if latin and place.text.isascii():
            return ()
        letters = sum(map(str.isalpha, place.text))
        others = len(foreign(place.text))
        if others * 2 <= letters:
            return ()
        percent = round(others * 100 / letters)
        return (
            (
                percent,
                50,
                message("findings.language", percent=percent, language=setting.language),
            ),
        )

    return found


CHARACTERS = Rule("characters", ("characters", "forbidden_characters"), "places", _check)
LANGUAGE = Rule("language", ("language",), "percent", _check_language)


def _check_drawable(setting: Setting) -> Check | None:
    if not setting.spec.no_undrawable:
        return None

    def found(place: Place) -> Iterable[Broken]:
        missing = undrawable(place.text, setting.language)
        if not missing:
            return ()
        shown = " ".join(missing)
        return ((len(missing), 0, message("findings.drawable", characters=shown[:40])),)

    return found


DRAWABLE = Rule("drawable", ("no_undrawable",), "characters", _check_drawable)
