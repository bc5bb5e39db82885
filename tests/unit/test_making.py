"""Captions made of a transcript again: nothing done by hand is lost, no word is said twice."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Case, Span, spans_of
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.making.remaking import captions_made, changes
from dunlin.core.making.segmentation import Shape
from dunlin.core.specs import shipped_specs
from dunlin.core.speech import Word
from dunlin.core.timecode import FrameRate
from tests.unit.test_segmentation import spoken

RATE = FrameRate(25)
SPEC = shipped_specs()["streaming"]
SAID = (
    "When the fog comes in there is nothing to see and very little to hear. | There used to be a bell. |"
    " It fell into the sea in the winter of 1931. | I was asked to make it again."
)
WORDS = spoken(SAID)


def made(old=(), words=WORDS, **choice):
    return captions_made(words, old, SPEC, RATE, **choice)


def said(captions) -> list[str]:
    return " ".join(caption.text for caption in captions).split()


def test_every_word_is_said_once_and_in_order() -> None:
    captions = made().captions
    assert said(captions) == [word.text for word in WORDS]
    assert all(caption.is_untouched for caption in captions)


def test_a_time_in_the_transcript_is_said_by_no_caption() -> None:
    link = replace(WORDS[3], text="[00:01.2]")
    assert said(made(words=[*WORDS[:3], link, *WORDS[3:]]).captions) == said(made().captions)


def test_what_was_made_and_not_touched_is_made_anew() -> None:
    first = made().captions
    again = made(first, shape=Shape(3, 1))
    assert again.kept == frozenset()
    assert all(len(caption.text.split()) <= 3 for caption in again.captions)
    assert said(again.captions) == said(first)


def test_captions_done_by_hand_stay_where_their_words_did() -> None:
    first = made().captions
    bell = next(caption for caption in first if "bell" in caption.text)
    retimed = replace(bell, id="mine", in_ms=bell.in_ms - 120)
    again = made([retimed if c is bell else c for c in first], shape=Shape(2, 1))
    assert again.kept == {"mine"}
    assert retimed in again.captions
    assert said(again.captions) == said(first)
    assert made([retimed], keep=False).kept == frozenset()


def test_a_caption_done_by_hand_goes_with_its_words() -> None:
    first = made().captions
    bell = next(caption for caption in first if "bell" in caption.text)
    mine = replace(bell, id="mine", spans=spans_of("There used to be a gong."))
    again = made([mine])
    assert again.kept == frozenset()
    assert said(again.captions) == said(first)


def test_what_is_locked_stays_whatever_it_says() -> None:
    title = Caption("title", 2000, 3500, spans_of("QUILLAN POINT, 1931"), locked=True)
    again = made([title], keep=False)
    assert title in again.captions
    assert len(said(again.captions)) < len(WORDS) + 3


def test_words_a_line_and_lines_are_counted() -> None:
    for caption in made(shape=Shape(4, 2)).captions:
        assert len(caption.lines) <= 2
        assert all(len(line.split()) <= 4 for line in caption.lines)


@given(
    st.lists(st.integers(0, len(WORDS) - 1), max_size=6, unique=True),
    st.integers(-400, 400),
    st.sampled_from([None, Shape(1, 1), Shape(3, 1), Shape(5, 2)]),
)
@example([19], -360, None)
def test_new_captions_never_overlap_and_no_word_is_lost(picked, moved, shape) -> None:
    first = made(shape=Shape(2, 1)).captions
    old = [
        replace(c, id=f"mine-{index}", in_ms=max(c.in_ms + moved, 0), out_ms=c.out_ms + moved)
        if index in picked
        else c
        for index, c in enumerate(first)
    ]
    old = [c for c, after in zip(old, [*old[1:], None], strict=True)
           if after is None or c.out_ms <= after.in_ms]  # fmt: skip
    again = made(old, shape=shape)
    assert all(
        a.out_ms <= b.in_ms or {a.id, b.id} & again.kept for a, b in pairwise(again.captions)
    )
    assert {c for c in old if c.id in again.kept} <= set(again.captions)
    assert sorted(said(again.captions)) == sorted(word.text for word in WORDS)


@pytest.mark.parametrize(
    ("case", "written", "shown"),
    [
        (None, "McTavish rang. It rang.", "McTavish rang. It rang."),
        ("upper", "straße, ÿ", "STRASSE, Ÿ"),
        ("lower", "McTavish RANG", "mctavish rang"),
        ("sentence", "it rang. we heard Ilse.", "It rang. We heard Ilse."),
        ("sentence", "IT RANG. WE HEARD IT.", "It rang. We heard it."),
        ("sentence", "– who? – ilse.", "– Who? – Ilse."),
        ("sentence", "", ""),
    ],
)
def test_letters_are_shown_in_their_case(case: Case | None, written: str, shown: str) -> None:
    caption = Caption("c", 0, 1000, spans_of(written), case=case)
    assert as_shown(caption).text == shown
    assert caption.text == written


def test_a_sentence_begins_across_styles() -> None:
    spans = (Span("it "), Span("rang. we", italic=True), Span(" heard"))
    shown = as_shown(Caption("c", 0, 1000, spans, case="sentence"))
    assert [(span.text, span.italic) for span in shown.spans] == [
        ("It ", False), ("rang. We", True), (" heard", False),
    ]  # fmt: skip


def test_styles_of_words_are_those_of_the_captions() -> None:
    styled = [
        replace(word, italic=word.text in ("fog", "comes", "bell."), bold=word.text == "bell.")
        for word in WORDS
    ]
    captions = made(words=styled).captions
    assert [caption.text for caption in captions] == [caption.text for caption in made().captions]
    spans = [span for caption in captions for span in caption.spans]
    assert [span.text for span in spans if span.italic] == ["fog comes", "bell."]
    assert [span.text for span in spans if span.bold] == ["bell."]


def test_words_without_spaces_keep_their_styles() -> None:
    words = [
        Word("霧の", 0, 400, italic=True), Word("鐘は、", 400, 900), Word("鳴りました。", 900, 1800)
    ]  # fmt: skip
    spec = shipped_specs()["cjk"]
    (caption,) = captions_made(words, (), spec, RATE, "ja").captions
    assert caption.text.replace("\n", "") == "霧の鐘は、鳴りました。"
    assert [span.text for span in caption.spans if span.italic] == ["霧の"]


@given(st.sampled_from([Shape(1, 1), Shape(3, 1), Shape(5, 2)]), st.data())
def test_any_changes_alone_leave_nothing_overlapping(shape: Shape, data: st.DataObject) -> None:
    old = [replace(c, id=f"old-{n}") for n, c in enumerate(made().captions)]
    found = changes(old, made(old, shape=shape))
    taken = [change for change in found if data.draw(st.booleans())]
    gone = {id_ for change in taken for id_ in change.gone}
    now = [caption for caption in old if caption.id not in gone]
    now = sorted([*now, *(c for change in taken for c in change.put)], key=lambda c: c.in_ms)
    assert all(a.out_ms <= b.in_ms for a, b in pairwise(now))
    if len(taken) == len(found):
        assert said(now) == [word.text for word in WORDS]


def test_what_would_be_as_it_is_is_no_change() -> None:
    old = [replace(c, id=f"old-{n}") for n, c in enumerate(made().captions)]
    assert changes(old, made(old)) == []
    late = replace(WORDS[-1], text="again!")
    (change,) = changes(old, made(old, words=[*WORDS[:-1], late]))
    assert change.gone == (old[-1].id,)
    assert [caption.text for caption in change.put] == [old[-1].text.replace("again.", "again!")]


def test_a_caption_whose_words_are_gone_is_a_change_of_its_own() -> None:
    stray = Caption("stray", 90_000, 92_000, spans_of("A line that nobody says"))
    (change,) = [change for change in changes([stray], made([stray])) if change.gone]
    assert (change.gone, change.put) == (("stray",), ())
