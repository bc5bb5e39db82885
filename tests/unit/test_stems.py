"""Terms found in whatever form they have."""

import pytest

from dunlin.core.text.stems import term_places


@pytest.mark.parametrize(
    ("text", "term", "language", "found"),
    [
        ("two keepers and a Keeper", "keeper", "en", ["keepers", "Keeper"]),
        ("des Wärters, die Wärter", "Wärter", "de", ["Wärters", "Wärter"]),
        ("der alten Nebelglocken", "alte Nebelglocke", "de", ["alten Nebelglocken"]),
        ("a lighthouse keepers' house", "lighthouse keeper", "en", ["lighthouse keepers"]),
        ("古い霧鐘です", "霧鐘", "ja", ["霧鐘"]),
        ("i gwch y peilotiaid", "peilot", "cy", []),
        ("keepsake", "keeper", "en", []),
        ("anything", "", "en", []),
    ],
)
def test_a_term_is_found_in_its_forms(
    text: str, term: str, language: str, found: list[str]
) -> None:
    assert [text[start:end] for start, end in term_places(text, term, language)] == found


def test_capitals_count_where_they_are_asked_to() -> None:
    places = list(term_places("a pilot, the Pilot", "Pilot", "en", as_written=True))
    assert places == [(13, 18)]
