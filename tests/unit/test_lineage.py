"""What came of captions in an edit, whatever edit it was."""

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Track, apply
from dunlin.core.captions.edits import DeleteCaptions, MergeCaptions, ReplaceCaptions, SplitCaption
from dunlin.core.captions.lineage import lineage
from dunlin.core.captions.model import spans_of
from tests.strategies import tracks

TRACK = Track.of(
    Caption(id_, start, start + 2000, spans_of(text))
    for id_, start, text in [("a", 0, "One two"), ("b", 2000, "three"), ("c", 5000, "four")]
)


def came(operation, track: Track = TRACK):
    applied = apply(track, operation)
    return lineage(track, applied.track, applied.touched)


def test_the_second_half_of_a_split_came_of_the_caption() -> None:
    found = came(SplitCaption("a", 3, 1000, "a2"))
    assert found.parents == {"a2": ("a",)}
    assert found.heirs == {}


def test_a_merged_caption_goes_on_in_the_one_that_took_its_words() -> None:
    found = came(MergeCaptions(("a", "b")))
    assert found.heirs == {"b": ("a",)}
    assert found.parents == {}


def test_a_deleted_one_has_no_heir() -> None:
    assert came(DeleteCaptions(("b",))).heirs == {"b": ()}


def test_captions_made_anew_came_of_those_of_their_time_most_shared_first() -> None:
    put = (
        Caption("x", 500, 3500, spans_of("One two three")),
        Caption("y", 9000, 9500, spans_of("!")),
    )
    found = came(ReplaceCaptions(("a", "b"), put))
    assert found.parents == {"x": ("a", "b"), "y": ()}
    assert found.heirs == {"a": ("x",), "b": ("x",)}


@given(tracks(), st.data())
def test_parents_and_heirs_are_each_others(track: Track, data: st.DataObject) -> None:
    gone = tuple(c.id for c in track if data.draw(st.booleans()))
    put = tuple(
        Caption(f"n{n}", c.in_ms, c.out_ms, c.spans) for n, c in enumerate(data.draw(tracks()))
    )
    found = came(ReplaceCaptions(gone, put), track)
    assert found.parents.keys() == {one.id for one in put}
    assert found.heirs.keys() == set(gone)
    pairs = {(old, new) for new, olds in found.parents.items() for old in olds}
    assert pairs == {(old, new) for old, news in found.heirs.items() for new in news}
