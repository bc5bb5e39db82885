from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import (
    Caption,
    Change,
    ChangeCaptions,
    Conflict,
    DeleteCaptions,
    InsertCaptions,
    MergeCaptions,
    Operation,
    Placement,
    ReplaceCaptions,
    Span,
    SplitCaption,
    Times,
    Track,
    apply,
    folded,
    lock_captions,
    retime_captions,
    rewrite_text,
    set_text,
    spans_of,
)
from tests.strategies import cases, extras, placements, spans, texts, whole_tracks


@st.composite
def changes_of(draw: st.DrawFn, caption: str) -> Change:
    """Any fields of a caption."""
    in_ms = draw(st.integers(-100, 20_000))
    fields = {
        "in_ms": in_ms,
        "out_ms": in_ms + draw(st.integers(-5, 5_000)),
        "text": draw(texts),
        "spans": draw(spans()),
        "speaker": draw(st.sampled_from([None, "Tobit Ahlund"])),
        "placement": draw(placements()),
        "style": draw(st.sampled_from([None, "Sign", "Shout"])),
        "extras": draw(extras),
        "locked": draw(st.booleans()),
        "case": draw(cases),
        "made": draw(st.sampled_from([None, "1a"])),
    }
    chosen = draw(st.sets(st.sampled_from(sorted(fields)), max_size=4))
    return {"caption": caption} | {name: fields[name] for name in chosen}  # type: ignore[return-value]


@st.composite
def field_edits(draw: st.DrawFn, ids: list[str]) -> ChangeCaptions:
    some = draw(st.lists(st.sampled_from(ids), unique=True, max_size=3))
    return ChangeCaptions(tuple(draw(changes_of(id_)) for id_ in some))


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
        field_edits([*ids, "gone"]),
        st.builds(lock_captions, st.lists(some, max_size=2), st.booleans()),
        st.builds(set_text, some, spans()),
        st.builds(rewrite_text, some, texts),
        st.builds(
            retime_captions,
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
    track = data.draw(whole_tracks())
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
    track = data.draw(whole_tracks())
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


@given(st.data())
def test_a_gesture_that_goes_on_is_one_edit(data: st.DataObject) -> None:
    """What two edits do, the folded one does, and the inverse of the first undoes it."""
    track = data.draw(whole_tracks())
    ids = [caption.id for caption in track]
    if not ids:
        return
    first = data.draw(field_edits(ids))
    # A hand that goes on sets the same fields of the same captions.
    then = ChangeCaptions(
        tuple(
            {name: other.get(name, value) for name, value in change.items()}  # type: ignore[misc]
            for change in first.changes
            for other in [data.draw(changes_of(change["caption"]))]
        )
    )
    try:
        one = apply(track, first)
        both = apply(one.track, then)
    except Conflict:
        return
    assert one.done is not None
    assert both.done is not None
    folding = folded(one.done, both.done)
    if folding is None:
        # Only where a lock came or went in between do they set other things.
        assert any("locked" in change for change in first.changes)
        return
    assert apply(track, folding).track == both.track
    assert apply(both.track, one.inverse).track == track


def test_edits_of_different_things_are_not_folded() -> None:
    text, time = rewrite_text("a", "x"), retime_captions([Times("a", 0, 1)])
    assert folded(text, time) is None
    assert folded(text, rewrite_text("b", "x")) is None
    assert folded(time, DeleteCaptions(("a",))) is None


def test_a_hundred_thousand_captions_are_put_in_without_moving_each_other(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    def looked_up(*_: Any) -> int:
        raise AssertionError("each caption is put in its place one by one")

    monkeypatch.setattr("dunlin.core.captions.model.bisect_left", looked_up)
    captions = tuple(Caption(f"c{n}", n * 10, n * 10 + 9) for n in range(100_000, 0, -1))
    done = apply(Track(), InsertCaptions(captions))
    assert len(done.track) == 100_000
    assert next(iter(done.track)).id == "c1"


@given(spans(), texts)
def test_rewriting_gives_the_words_and_keeps_the_style_around_them(old, text: str) -> None:
    track = Track.of([Caption("a", 0, 100, old)])
    now = apply(track, rewrite_text("a", text)).track["a"]
    assert now.text == text
    same = apply(track, rewrite_text("a", track["a"].text)).track["a"]
    assert same.spans == old


def test_a_typed_letter_takes_the_style_before_it() -> None:
    track = Track.of([Caption("a", 0, 100, (Span("Read "), Span("Marigold", italic=True)))])
    now = apply(track, rewrite_text("a", "Read Marigolds")).track["a"]
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


def test_a_merge_keeps_whose_words_they_are_and_how_their_letters_are_shown() -> None:
    track = Track.of(
        [
            Caption("a", 0, 900, spans_of("Who rings?"), "Ilse", extras=(("webvtt:id", "1"),)),
            Caption("b", 900, 1900, spans_of("I do."), "Edda", case="upper", extras=(("ass:layer", "2"),)),
        ]
    )  # fmt: skip
    (merged,) = apply(track, MergeCaptions(("a", "b"))).track
    assert merged.speaker == "Ilse"
    assert [(span.text, span.voice) for span in merged.spans] == [
        ("Who rings?\n", None), ("I DO.", "Edda"),
    ]  # fmt: skip
    assert merged.case is None
    assert dict(merged.extras) == {"webvtt:id": "1", "ass:layer": "2"}


def test_a_split_gives_a_files_name_for_the_caption_to_one_half() -> None:
    known = (("webvtt:id", "intro"), ("webvtt:settings", "line:3"))
    track = Track.of([Caption("a", 0, 4000, spans_of("one two"), extras=known)])
    first, second = apply(track, SplitCaption("a", 3, 1960, "b")).track
    assert dict(first.extras) == dict(known)
    assert dict(second.extras) == {"webvtt:settings": "line:3"}


@pytest.mark.parametrize(
    "change",
    [
        {"speaker": "Ilse"}, {"placement": Placement("top")}, {"style": "Sign"}, {"case": "upper"},
        {"spans": (Span("Hark", italic=True),)}, {"text": "Hark!"}, {"out_ms": 1100},
    ],
)  # fmt: skip
def test_a_caption_that_a_hand_changed_in_any_way_is_touched(change: dict) -> None:
    made = Caption("a", 0, 1000, spans_of("Hark"))
    track = Track.of([replace(made, made=made.fingerprint)])
    assert track["a"].is_untouched
    done = apply(track, ChangeCaptions(({"caption": "a", **change},)))  # type: ignore[typeddict-item]
    assert not done.track["a"].is_untouched
    assert apply(done.track, done.inverse).track["a"].is_untouched


@pytest.mark.parametrize(
    "operation",
    [
        set_text("gone", ()),
        retime_captions((Times("a", 500, 500),)),
        retime_captions((Times("a", -1, 500),)),
        retime_captions((Times("a", 0, 1), Times("a", 1, 2))),
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
