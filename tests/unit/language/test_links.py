"""Links of a translation to its source: they stay right through whatever is done on either side."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Caption, ChangeCaptions, Track, apply
from dunlin.core.captions.edits import (
    DeleteCaptions,
    InsertCaptions,
    MergeCaptions,
    Operation,
    SplitCaption,
)
from dunlin.core.captions.lineage import lineage
from dunlin.core.captions.model import spans_of
from dunlin.core.language.links.following import (
    links_by_time,
    links_with_source,
    links_with_target,
    times_with_source,
)
from dunlin.core.language.links.model import Link, link_of_stored, said_by_sources, stored_link


def track(prefix: str, *captions: tuple[int, int, str]) -> Track:
    return Track.of(
        Caption(f"{prefix}{n}", start, end, spans_of(text))
        for n, (start, end, text) in enumerate(captions)
    )


SOURCE = track("s", (0, 2000, "Hang it high"), (2000, 4000, "by the door."), (6000, 8000, "Done."))
TARGET = track(
    "t", (0, 2000, "Häng sie hoch"), (2000, 4000, "an der Tür."), (6000, 8000, "Fertig.")
)
LINKS = {f"t{n}": Link((f"s{n}",), said_by_sources(SOURCE, [f"s{n}"]), "done") for n in range(3)}


def after_target(operation: Operation) -> dict[str, Link]:
    applied = apply(TARGET, operation)
    came = lineage(TARGET, applied.track, applied.touched)
    return _laid(LINKS, links_with_target(LINKS, came, applied.track, SOURCE))


def after_source(operation: Operation) -> tuple[dict[str, Link], Track]:
    applied = apply(SOURCE, operation)
    came = lineage(SOURCE, applied.track, applied.touched)
    return _laid(
        LINKS, links_with_source(LINKS, came, SOURCE, applied.track, TARGET)
    ), applied.track


def _laid(links, changed) -> dict[str, Link]:
    return {id_: link for id_, link in (links | changed).items() if link is not None}


def test_both_halves_of_a_translation_are_of_its_source() -> None:
    links = after_target(SplitCaption("t0", 8, 1000, "new"))
    assert links["t0"].sources == links["new"].sources == ("s0",)
    assert links["new"].progress == "done"


def test_joined_translations_are_of_both_sources_and_as_far_as_the_one_that_is_less_far() -> None:
    links = after_target(MergeCaptions(("t0", "t1")))
    assert links["t0"].sources == ("s0", "s1")
    assert links["t0"].said == "Hang it high by the door."
    assert links["t0"].progress == "done"
    assert "t1" not in links


def test_a_joined_one_that_is_parted_again_has_on_each_side_what_is_said_there() -> None:
    joined = apply(TARGET, MergeCaptions(("t0", "t1")))
    links = _laid(
        LINKS,
        links_with_target(
            LINKS, lineage(TARGET, joined.track, joined.touched), joined.track, SOURCE
        ),
    )
    parted = apply(joined.track, SplitCaption("t0", 13, 2000, "new"))
    came = lineage(joined.track, parted.track, parted.touched)
    links = _laid(links, links_with_target(links, came, parted.track, SOURCE))
    assert (links["t0"].sources, links["t0"].said) == (("s0",), "Hang it high")
    assert (links["new"].sources, links["new"].said) == (("s1",), "by the door.")


def test_what_is_deleted_has_no_link_and_what_is_put_in_goes_by_its_time() -> None:
    assert "t1" not in after_target(DeleteCaptions(("t1",)))
    put = (Caption("gap", 4500, 5500, ()), Caption("over", 6100, 7900, ()))
    links = after_target(InsertCaptions(put))
    assert links["gap"].sources == ()
    assert links["over"].sources == ("s2",)


def test_a_source_that_is_parted_or_joined_is_still_translated() -> None:
    links, now = after_source(SplitCaption("s0", 7, 1000, "s0b"))
    assert links["t0"].sources == ("s0", "s0b")
    assert links["t0"].said == said_by_sources(now, ("s0", "s0b"))
    links, now = after_source(MergeCaptions(("s0", "s1")))
    assert links["t0"].sources == links["t1"].sources == ("s0",)


def test_a_source_put_into_a_gap_is_what_a_caption_there_translates() -> None:
    target = TARGET.changed([], [Caption("gap", 4500, 5500, spans_of("Und da."))])
    links = LINKS | {"gap": Link(progress="done")}
    applied = apply(SOURCE, InsertCaptions((Caption("new", 4400, 5600, spans_of("And there.")),)))
    came = lineage(SOURCE, applied.track, applied.touched)
    changed = links_with_source(links, came, SOURCE, applied.track, target)
    assert changed == {"gap": Link(("new",), progress="done")}


def test_a_source_that_is_gone_leaves_a_translation_without_one_that_knows_what_it_said() -> None:
    links, _ = after_source(DeleteCaptions(("s2",)))
    assert links["t2"] == replace(LINKS["t2"], sources=())


@pytest.mark.parametrize(
    ("change", "times"),
    [
        ({"in_ms": 6200, "out_ms": 8400}, [("t2", 6200, 8400)]),
        ({"out_ms": 8400}, [("t2", 6000, 8400)]),
    ],
)
def test_times_follow_those_of_the_source(change, times) -> None:
    applied = apply(SOURCE, ChangeCaptions(({"caption": "s2"} | change,)))
    found = times_with_source(LINKS, applied.touched, SOURCE, applied.track, TARGET)
    assert list(found) == times


def test_an_edge_that_was_timed_apart_stays_where_it_is() -> None:
    applied = apply(SOURCE, ChangeCaptions(({"caption": "s2", "in_ms": 6200, "out_ms": 8400},)))
    later = replace(TARGET["t2"], out_ms=9000)
    target = TARGET.changed([], [later])
    found = times_with_source(LINKS, applied.touched, SOURCE, applied.track, target)
    assert list(found) == [("t2", 6200, 9000)]


def test_captions_are_linked_to_those_they_share_half_of_their_time_with() -> None:
    captions = [
        Caption("a", 0, 4000, ()),
        Caption("b", 1900, 2300, ()),
        Caption("c", 4000, 5000, ()),
    ]
    links = links_by_time(captions, SOURCE)
    assert {id_: link.sources for id_, link in links.items()} == {
        "a": ("s0", "s1"),
        "b": ("s1",),
        "c": (),
    }


def test_a_link_is_read_as_it_was_stored() -> None:
    link = Link(("a", "b"), "One. Two.", "draft", "Eins. Zwei.", "memory")
    assert link_of_stored(stored_link(link)) == link
    assert link_of_stored(stored_link(Link())) == Link()


operations = st.sampled_from(["split", "merge", "delete", "insert"])


@settings(max_examples=60)
@given(st.lists(st.tuples(st.booleans(), operations, st.integers(0, 9)), max_size=12))
def test_links_never_speak_of_what_is_gone_and_none_is_lost_that_has_a_source(steps) -> None:
    source, target, links = SOURCE, TARGET, dict(LINKS)
    for n, (on_source, kind, at) in enumerate(steps):
        edited = source if on_source else target
        if not len(edited):
            continue
        operation = _operation(kind, edited, at, f"n{n}")
        if operation is None:
            continue
        applied = apply(edited, operation)
        came = lineage(edited, applied.track, applied.touched)
        if on_source:
            links = _laid(links, links_with_source(links, came, source, applied.track, target))
            source = applied.track
        else:
            links = _laid(links, links_with_target(links, came, applied.track, source))
            target = applied.track
        assert all(id_ in target for id_ in links)
        assert all(one in source for link in links.values() for one in link.sources)


def _operation(kind: str, edited: Track, at: int, new: str) -> Operation | None:
    index = at % len(edited)
    caption = edited.at(index)
    following = edited.at(index + 1)
    assert caption is not None
    if kind == "split" and len(caption.text) > 2:
        return SplitCaption(
            caption.id, len(caption.text) // 2, (caption.in_ms + caption.out_ms) // 2, new
        )
    if kind == "merge" and following is not None:
        return MergeCaptions((caption.id, following.id))
    if kind == "delete":
        return DeleteCaptions((caption.id,))
    if kind == "insert":
        return InsertCaptions(
            (Caption(new, caption.out_ms + 1, caption.out_ms + 900, spans_of("x y")),)
        )
    return None
