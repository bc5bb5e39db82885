"""Which language a text is in."""

import re

import pytest

from dunlin.core.text.language import language_of
from tests.unit.test_splits import PASSAGES


def passages(language: str) -> str:
    return re.sub("[|~]", "", " ".join(PASSAGES[language][1]))


# Of these there are fewer words than tell them.
SHORT = {"fi", "pt"}


@pytest.mark.parametrize("language", sorted(PASSAGES.keys() - SHORT))
def test_a_text_tells_its_language(language: str) -> None:
    assert language_of(passages(language)) == language.split("-")[0]


@pytest.mark.parametrize("language", sorted(SHORT))
def test_what_cannot_be_told_is_not_guessed(language: str) -> None:
    assert language_of(passages(language)) is None


@pytest.mark.parametrize(
    "text",
    [
        "",
        "1931 – 1950 … 19:30",
        "Ring the bell.",
        "霧",
        "Quillan Ternholm Varga Brandt Ahlund Edda Ilse Tomas Marigold Tobit Ivo Anselm Odile",
        " ".join(passages(language)[:80] for language in ("en", "de", "fr", "es", "it")),
    ],
    ids=["nothing", "figures", "too little", "one character", "names", "a mixture"],
)
def test_too_little_or_too_much_tells_nothing(text: str) -> None:
    assert language_of(text) is None


def test_names_in_another_script_do_not_hide_the_language() -> None:
    assert language_of(passages("en") + " 霧の鐘") == "en"
    assert language_of(passages("ja") + " Quillan Point") == "ja"
