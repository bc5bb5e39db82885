from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import (
    Caption,
    Conflict,
    DeleteCaptions,
    InsertCaptions,
    MergeCaptions,
    Operation,
    ReplaceCaptions,
    RetimeCaptions,
    RewriteText,
    SetText,
    Span,
    SplitCaption,
    Times,
    Track,
    apply,
    spans_of,
)
from tests.strategies import spans, texts, tracks


@st.composite
def operations(draw: st.DrawFn, track: Track) -> Operation:
    """Any operation, on captions that are mostly there."""
    ids = [caption.id for caption in track]
    some = st.sampled_from([*ids, "gone"])
    time = st.integers(-100, 25_000)
    fresh = st.builds(
        lambda id_, in_ms, length: Caption(id_, in_ms, in_ms + length, spans_of("new")),
        st.sampled_from(["n1", "n2", *ids]), st.integers(0, 9_000), st.integers(1, 900),
    )  # fmt: skip
    kinds: list[st.SearchStrategy[Any]] = [
        st.builds(SetText, some, spans()),
        st.builds(RewriteText, some, texts),
        st.builds(
            RetimeCaptions,
            st.lists(st.builds(Times, some, time, time), max_size=3).map(tuple),
        ),
        st.builds(InsertCaptions, st.lists(fresh, max_size=2).map(tuple)),
        st.builds(DeleteCaptions, st.lists(some, max_size=3).map(tuple)),
        st.builds(SplitCaption, some, st.integers(0, 12), time, st.just("n3"), st.integers(0, 100)),
        st.builds(MergeCaptions, st.lists(some, max_size=3).map(tuple)),
        st.builds(
            ReplaceCaptions,
            st.lists(some, max_size=2).map(tuple),
            st.lists(fresh, max_size=2).map(tuple),
        ),
    ]
    return draw(st.one_of(kinds))


@given(st.data())
def test_an_inverse_undoes_and_its_inverse_does_again(data: st.DataObject) -> None:
    track = data.draw(tracks())
    operation = data.draw(operations(track))
    try:
        done = apply(track, operation)
    except Conflict:
        return
    undone = apply(done.track, done.inverse)
    assert undone.track == track
    again = apply(undone.track, undone.inverse)
    assert again.track == done.track
    assert undone.touched == again.touched == done.touched


@given(st.data())
def test_a_track_stays_in_order_and_only_the_touched_change(data: st.DataObject) -> None:
    track = data.draw(tracks())
    operation = data.draw(operations(track))
    try:
        done = apply(track, operation)
    except Conflict:
        return
    captions = list(done.track)
    assert captions == sorted(captions, key=lambda c: (c.in_ms, c.id))
    assert all(caption.out_ms > caption.in_ms >= 0 for caption in captions)
    for caption in track:
        if caption.id not in done.touched:
            assert done.track[caption.id] == caption


@given(spans(), texts)
def test_rewriting_gives_the_words_and_keeps_the_style_around_them(old, text: str) -> None:
    track = Track.of([Caption("a", 0, 100, old)])
    now = apply(track, RewriteText("a", text)).track["a"]
    assert now.text == text
    same = apply(track, RewriteText("a", track["a"].text)).track["a"]
    assert same.spans == old


def test_a_typed_letter_takes_the_style_before_it() -> None:
    track = Track.of([Caption("a", 0, 100, (Span("Read "), Span("Marigold", italic=True)))])
    now = apply(track, RewriteText("a", "Read Marigolds")).track["a"]
    assert now.spans == (Span("Read "), Span("Marigolds", italic=True))


def test_a_split_trims_the_break_and_leaves_the_gap() -> None:
    track = Track.of([Caption("a", 0, 4000, (Span("one two\n"), Span("three", italic=True)), "T")])
    done = apply(track, SplitCaption("a", 8, 1960, "b", 80)).track
    assert [(c.id, c.in_ms, c.out_ms, c.spans, c.speaker) for c in done] == [
        ("a", 0, 1960, (Span("one two"),), "T"),
        ("b", 2040, 4000, (Span("three", italic=True),), "T"),
    ]


def test_a_merge_joins_the_lines_of_neighbours() -> None:
    track = Track.of(
        [Caption("a", 0, 1000, spans_of("one")), Caption("b", 1200, 2000, spans_of("two"))]
    )
    done = apply(track, MergeCaptions(("b", "a"))).track
    assert [(c.id, c.in_ms, c.out_ms, c.text) for c in done] == [("a", 0, 2000, "one\ntwo")]


@pytest.mark.parametrize(
    "operation",
    [
        SetText("gone", ()),
        RetimeCaptions((Times("a", 500, 500),)),
        RetimeCaptions((Times("a", -1, 500),)),
        RetimeCaptions((Times("a", 0, 1), Times("a", 1, 2))),
        InsertCaptions((Caption("a", 0, 1),)),
        DeleteCaptions(("a", "a")),
        SplitCaption("a", 0, 500, "n", 0),
        SplitCaption("a", 4, 500, "c", 0),
        MergeCaptions(("a",)),
        MergeCaptions(("a", "c")),
    ],
)
def test_what_makes_no_sense_is_refused(operation: Operation) -> None:
    track = Track.of(
        Caption(i, n * 1000, n * 1000 + 900, spans_of("two words")) for n, i in enumerate("abc")
    )
    with pytest.raises(Conflict):
        apply(track, operation)
