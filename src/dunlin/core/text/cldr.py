"""What Unicode's Common Locale Data Repository knows of a language, by its tag."""

from functools import cache

from babel import Locale, UnknownLocaleError

__all__ = ["locale_of"]


@cache
def locale_of(language: str) -> Locale | None:
    """The locale of a BCP 47 tag, or of its language alone; None where CLDR has neither."""
    for tag in (language, language.split("-")[0]):
        try:
            return Locale.parse(tag, sep="-")
        except (UnknownLocaleError, ValueError):
            continue
    return None
