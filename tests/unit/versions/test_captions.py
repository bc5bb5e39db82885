"""Captions of a track in a version of it."""

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Look, Placement, Track
from dunlin.core.versions.captions import captions_in_version
from dunlin.core.versions.model import Apart
from tests.strategies import tracks

PLACES = st.builds(Placement, x=st.floats(0, 1), y=st.floats(0, 1))
LOOKS = st.builds(Look, size=st.none() | st.floats(0.1, 1), weight=st.sampled_from([None, 700]))
DIFFERING = st.builds(Apart, st.none() | PLACES, st.none(), st.none() | LOOKS, st.booleans())


@given(track=tracks(), data=st.data())
def test_words_and_times_are_the_tracks_and_what_differs_is_the_versions(
    track: Track, data: st.DataObject
) -> None:
    ids = [caption.id for caption in track]
    apart = data.draw(st.dictionaries(st.sampled_from([*ids, "gone"]), DIFFERING))
    shown = captions_in_version(track, apart)
    hidden = {id_ for id_ in ids if id_ in apart and apart[id_].hidden}
    assert [caption.id for caption in shown] == [id_ for id_ in ids if id_ not in hidden]
    for caption in shown:
        was, differs = track[caption.id], apart.get(caption.id, Apart())
        assert (caption.spans, caption.in_ms, caption.out_ms) == (was.spans, was.in_ms, was.out_ms)
        assert caption.placement == (differs.placement or was.placement)
        if differs.look and differs.look.size is not None:
            assert caption.look
            assert caption.look.size == differs.look.size
        elif was.look:
            assert caption.look
            assert caption.look.size == was.look.size


def test_without_anything_that_differs_captions_are_the_same_ones() -> None:
    assert list(captions_in_version([], {})) == []
