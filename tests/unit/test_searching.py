"""Words found in captions and replaced."""

from itertools import count

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Span, Track, apply, searching, spans_of
from dunlin.core.captions.searching import Sought, hits, matches, replacing

CAPTIONS = [
    Caption("a", 0, 1000, (Span("The fog "), Span("bell", italic=True), Span(" of fog"))),
    Caption("b", 2000, 3000, spans_of("Foghorn, Fog.\nstraße fog2")),
]


def replaced(sought: Sought, replacement: str, only=None) -> list[str]:
    track = Track.of(CAPTIONS)
    edit = replacing(CAPTIONS, hits(CAPTIONS, sought, replacement), only)
    return [caption.text for caption in apply(track, edit).track]


@pytest.mark.parametrize(
    ("sought", "replacement", "texts"),
    [
        (Sought("fog"), "mist", ["The mist bell of mist", "misthorn, mist.\nstraße mist2"]),
        (Sought("fog", word=True), "mist", ["The mist bell of mist", "Foghorn, mist.\nstraße fog2"]),
        (Sought("Fog", exact=True), "X", ["The fog bell of fog", "Xhorn, X.\nstraße fog2"]),
        (Sought(r"(\w+) of (\w+)", pattern=True), "$2 of $1", ["The fog fog of bell", "Foghorn, Fog.\nstraße fog2"]),
        (Sought("."), "$1", ["The fog bell of fog", "Foghorn, Fog$1\nstraße fog2"]),
        (Sought(" of fog"), "", ["The fog bell", "Foghorn, Fog.\nstraße fog2"]),
    ],
)  # fmt: skip
def test_words_are_found_and_replaced(sought: Sought, replacement: str, texts: list[str]) -> None:
    assert replaced(sought, replacement) == texts


def test_only_the_hits_that_are_chosen_are_replaced() -> None:
    assert replaced(Sought("fog"), "mist", {("a", 4)})[0] == "The mist bell of fog"


@given(st.text("fogbel ", max_size=4), st.text("xy", max_size=3))
def test_what_is_not_replaced_keeps_its_style(text: str, put: str) -> None:
    if not text:
        return
    edit = replacing(CAPTIONS, hits(CAPTIONS, Sought(text), put), None)
    for caption in apply(Track.of(CAPTIONS), edit).track:
        if caption.id == "a" and "b" not in text and "l" not in text and "e" not in text:
            assert [s.text for s in caption.spans if s.italic] == ["bell"]


def test_all_captions_together_may_take_no_longer_than_one(monkeypatch) -> None:
    clock = count()
    monkeypatch.setattr(searching, "monotonic", lambda: next(clock))
    captions = [Caption(f"c{n}", n * 1000, n * 1000 + 900, spans_of("fog")) for n in range(3)]
    assert len(hits(captions[:1], Sought("fog"))) == 1
    with pytest.raises(ValueError, match="takes too long"):
        hits(captions, Sought("fog"))


@pytest.mark.parametrize(
    ("sought", "replacement", "told"),
    [
        (Sought("(", pattern=True), "", "not a regular expression"),
        (Sought("fog", pattern=True), "$2", "names a group"),
        (Sought("(a|aa)+$", pattern=True), "", "takes too long"),
    ],
)
def test_what_makes_no_sense_is_told(sought: Sought, replacement: str, told: str) -> None:
    captions = [*CAPTIONS, Caption("c", 4000, 5000, spans_of("a" * 60 + "b"))]
    with pytest.raises(ValueError, match=told):
        hits(captions, sought, replacement)


def test_texts_are_searched_by_unicode_s_characters() -> None:
    found = matches(["Ring \N{BELL} it", "", "it\nit"], Sought("it", word=True), "that")
    assert [(m.text, m.start, m.end, m.put) for m in found] == [
        (0, 7, 9, "that"), (2, 0, 2, "that"), (2, 3, 5, "that"),
    ]  # fmt: skip
