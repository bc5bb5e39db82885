"""Numbers as values, whatever they are written in."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from num2words import num2words

from dunlin.core.text.numbers import months_in, numbers_in


def values(text: str, language: str) -> list[Decimal]:
    return [number.value for number in numbers_in(text, language)]


@pytest.mark.parametrize(
    ("text", "language", "found"),
    [
        ("It weighs 412 kilos.", "en", [412]),
        ("It weighs four hundred and twelve kilos.", "en", [412]),
        ("Sie wiegt vierhundertzwölf Kilo.", "de", [412]),
        ("Elle pèse quatre cent douze kilos.", "fr", [412]),
        ("12,500 people, 3.5 metres", "en", [12500, "3.5"]),
        ("12.500 Leute, 3,5 Meter", "de", [12500, "3.5"]),
        ("12 500 personnes", "fr", [12500]),
        ("in 1.234.567,8 Schritten", "de", ["1234567.8"]),
        ("at 10:30 on 2/3/1921", "en", [10, 30, 2, 3, 1921]),
        ("in nineteen twenty-one", "en", [1921]),
        ("one of the two, a second", "en", []),
        ("٤١٢ كيلو", "ar", [412]),
        ("nothing", "xx", []),
    ],
)
def test_numbers_are_found_in_figures_and_words(text: str, language: str, found: list) -> None:
    assert values(text, language) == [Decimal(value) for value in found]


@given(
    st.integers(3, 1000), st.sampled_from(["en", "de", "fr", "es", "pt", "it", "sv", "ru", "pl"])
)
def test_a_number_has_its_value_in_words_as_in_figures(value: int, language: str) -> None:
    assert values(f"— {num2words(value, lang=language)}!", language) == [value]
    assert values(f"— {value}!", language) == [value]


def test_months_are_told_by_their_names() -> None:
    assert months_in("on the last day of February", "en") == [2]
    assert months_in("am letzten Tag im Februar, nicht im Dezember", "de") == [2, 12]
    assert months_in("la fin du mois", "fr") == []


def test_a_part_of_a_number_in_words_is_none() -> None:
    """Nineteen years in Arabic end with a form of ten."""
    assert numbers_in("منذ تسع عشرة سنة", "ar") == []
    assert [int(one.value) for one in numbers_in("١٩ سنة", "ar")] == [19]
