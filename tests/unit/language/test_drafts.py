"""Drafts without a model: of what was translated before, of terms, by time, and parted as captions are."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.language.drafts.by_memory import draft_of_memory, exact_draft
from dunlin.core.language.drafts.by_time import words_by_time
from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.language.drafts.passages import parted_like, passages_of
from dunlin.core.language.memory.pairs import Pair, alike
from dunlin.core.specs.translation import Term, TermList
from dunlin.core.speech import Word

TERMS = [Term("keeper", ("Wärterin",)), Term("bell-founder", ("Glockengießer",))]


def known(*pairs: tuple[str, str], terms: list[Term] = TERMS) -> Known:
    kept = [Pair("en", "de", source, target, "Low Water") for source, target in pairs]

    def like(text: str) -> list[Pair]:
        return sorted(
            (pair for pair in kept if alike(pair.source, text) >= 0.6),
            key=lambda pair: -alike(pair.source, text),
        )

    return Known("en", "de", like, TermList(terms, "en"))


def drafted(text: str, *pairs: tuple[str, str], **more) -> str | None:
    draft = draft_of_memory(Wanted(text), known(*pairs, **more))
    return draft.text if draft else None


@pytest.mark.parametrize(
    ("text", "came"),
    [
        ("It weighs 412 kilos with its yoke.", "Sie wiegt 412 Kilo mit dem Joch."),
        ("It weighs 1,412.5 kilos with its yoke.", "Sie wiegt 1.412,5 Kilo mit dem Joch."),
        ("It weighs 399 kilos with its yoke.", "Sie wiegt 399 Kilo mit dem Joch."),
        ("Ask the bell-founder about the old drawing.", "Frag nach der Zeichnung: Glockengießer."),
        (
            "Ask the keeper about the old drawing. It weighs 7 kilos with its yoke.",
            "Frag nach der Zeichnung: Wärterin. Sie wiegt 7 Kilo mit dem Joch.",
        ),
        ("The bell-founder.", None),
        ("Bell-founder!", "Glockengießer!"),
        ("It weighs a lot of kilos by now.", None),
        ("Nothing like it was ever said.", None),
    ],
)
def test_what_memory_and_terms_give(text: str, came: str | None) -> None:
    pairs = [
        ("It weighs 399 kilos with its yoke.", "Sie wiegt 399 Kilo mit dem Joch."),
        ("Ask the keeper about the old drawing.", "Frag nach der Zeichnung: Wärterin."),
    ]
    assert drafted(text, *pairs) == came


def test_a_number_that_is_not_where_the_old_one_stood_is_not_guessed() -> None:
    """Said in words there, or twice: nothing is put in a wrong place. What is near comes as it stands."""
    said = (
        "We waited for 12 long hours by the lighthouse door.",
        "Wir haben zwölf Stunden gewartet.",
    )
    assert drafted(said[0].replace("12", "15"), said) == said[1]
    twice = ("5 of them stood at the harbour wall.", "Da standen 5 an der Mauer, 5 Leute.")
    assert drafted(twice[0].replace("5", "6"), twice) == twice[1]


def test_of_the_same_source_what_can_be_read_in_time_is_taken() -> None:
    pairs = known(
        ("Hang it high.", "Häng sie schön weit oben auf."), ("Hang it high.", "Häng hoch.")
    )
    assert exact_draft(Wanted("Hang it high."), pairs).text == "Häng sie schön weit oben auf."
    assert exact_draft(Wanted("Hang it high.", most=12), pairs) == Draft("Häng hoch.", "Low Water")
    assert exact_draft(Wanted("Hang it higher up."), pairs) is None


def said(*texts: str, apart_ms: int = 100) -> list[Wanted]:
    return [
        Wanted(text, "", " ".join(texts[n + 1 : n + 2]), None, n * 2000, (n + 1) * 2000 - apart_ms)
        for n, text in enumerate(texts)
    ]


def test_a_sentence_over_captions_is_one_passage() -> None:
    captions = said(
        "I had one drawing,", "and a letter", "from the keeper.", "So you had to guess?"
    )
    assert [len(passage) for passage in passages_of(captions, "en")] == [3, 1]
    # What is not asked for between them, or a pause, parts it.
    assert [len(p) for p in passages_of([captions[0], captions[2]], "en")] == [1, 1]
    far = said("I had one drawing,", "and a letter.", apart_ms=-1)
    far[1] = Wanted(far[1].text, "", "", None, 60_000, 62_000)
    assert [len(p) for p in passages_of(far, "en")] == [1, 1]


def test_it_is_parted_where_the_captions_are_and_where_words_may_be() -> None:
    text = "Ich hatte eine Zeichnung, und einen Brief von der Wärterin."
    assert parted_like(text, [18, 34], "de") == [
        "Ich hatte eine Zeichnung,",
        "und einen Brief von der Wärterin.",
    ]
    assert parted_like("Ja.", [10, 12], "de") == ["Ja.", ""]
    assert parted_like("我有一張圖和一封信", [5, 5], "zh") != ["", ""]


@given(
    st.lists(st.text("abcdeé,.", min_size=1, max_size=8), max_size=40),
    st.lists(st.integers(1, 60), min_size=1, max_size=4),
)
def test_no_word_is_lost_or_moved_where_a_text_is_parted(
    words: list[str], lengths: list[int]
) -> None:
    parts = parted_like(" ".join(words), lengths, "de")
    assert len(parts) == len(lengths)
    assert " ".join(parts).split() == " ".join(words).split()


def test_words_are_those_of_the_caption_in_whose_time_they_are() -> None:
    captions = said("Un dessin.", "Une lettre.", "Et alors ?")
    words = [Word("One", 100, 300), Word("drawing.", 1700, 2050), Word("A", 2300, 2400),
             Word("letter.", 2500, 9000), Word("So?", 60_000, 60_500)]  # fmt: skip
    assert words_by_time(words, captions) == ["One drawing.", "A", "letter. So?"]
    assert words_by_time([], captions) == ["", "", ""]
    compound = [Word("half", 0, 300, 1), Word("-hour", 300, 500, 1), Word("-", 500, 510, 1)]
    assert words_by_time(compound, captions[:1]) == ["half-hour -"]
    assert words_by_time(words, []) == []
