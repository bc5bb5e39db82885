"""Which of the Latin code pages a text was written in, told by the letters of languages."""

from collections.abc import Iterable

__all__ = ["LATIN_PAGES", "latin_page"]

# Letters beside a to z, of languages and by the code page that their files come in: from the exemplar
# characters of Unicode CLDR 45.
_ALPHABETS = {
    "cp1252": {
        "da": "æøåéáíóú", "de": "äöüß", "en": "éèïôàç", "es": "áéíóúüñ", "fi": "äöå", "fr": "àâæçéèêëîïôùûüÿœ",
        "is": "áéíóúýðþæö", "it": "àèéìòóù", "nb": "æøåéèêóòôà", "nl": "áäéëíïóöúü", "pt": "áàâãçéêíóôõúü",
        "sv": "äöåéà", "ca": "àçéèíïóòúü", "ga": "áéíóú",
    },
    "cp1250": {
        "cs": "áčďéěíňóřšťúůýž", "hr": "čćđšž", "hu": "áéíóöőúüű", "pl": "ąćęłńóśźż", "ro": "ăâîşţ",
        "sk": "áäčďéíĺľňóôŕšťúýž", "sl": "čšž", "sq": "çë", "sr": "čćđšž",
    },
    "cp1254": {"tr": "çğıİöşüâî"},
    "cp1257": {"et": "äõöüšž", "lt": "ąčęėįšųūž", "lv": "āčēģīķļņšūž"},
}  # fmt: skip
LATIN_PAGES = tuple(_ALPHABETS)
"""Code pages that are told apart; the first is the most usual."""
# Marks that every one of these languages may have; others hint at the wrong page.
_MARKS = frozenset("“”‘’„‚«»‹›–—…€£§°·¿¡´`\N{NO-BREAK SPACE}")


def latin_page(data: bytes, language: str | None = None) -> str | None:
    """The code page in which most of a text's further letters are those of one language; None when it
    has none, or none fits.

    :param language: BCP 47 tag of the text, where it is known: its own page counts for more
    """
    own = (language or "").split("-")[0].lower()
    fits = {}
    for page, alphabets in _ALPHABETS.items():
        further = [c for c in data.decode(page, errors="replace") if c > "\x7f" and c not in _MARKS]
        if further:
            fits[page] = max(
                _share(further, letters) + (0.2 if name == own else 0)
                for name, letters in alphabets.items()
            )
    best = max(fits, key=lambda page: fits[page], default=None)
    return best if best is not None and fits[best] > 0 else None


def _share(further: Iterable[str], letters: str) -> float:
    """The part of letters that a language has."""
    known = frozenset(letters + letters.upper())
    listed = list(further)
    return sum(letter in known for letter in listed) / len(listed)
