"""What one change makes otherwise: nothing beyond what the judge takes to be near."""

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Placement, Track
from dunlin.core.captions.model import spans_of
from dunlin.core.specs import Finding, Judge, Setting, Spec
from dunlin.core.timecode import FrameRate

JUDGE = Judge(
    Setting(
        Spec(id="all", name="All", no_covering=True, least_gap_frames=2),
        FrameRate(25, 1),
        "en",
    )
)

crowds = st.lists(
    st.tuples(
        st.integers(0, 2),
        st.integers(1, 30),
        st.sampled_from([None, None, 0.9, 0.6]),
        st.sampled_from(["One.", "Two\nlines.", "and"]),
    ),
    min_size=8,
    max_size=16,
).map(
    lambda drawn: Track.of(
        Caption(
            f"c{number:02}",
            1000 * sum(step for step, *_ in drawn[: number + 1]),
            1000 * (sum(step for step, *_ in drawn[: number + 1]) + length),
            spans_of(text),
            placement=None if y is None else Placement(y=y),
        )
        for number, (_, length, y, text) in enumerate(drawn)
    )
)
"""Captions long over each other, some placed by hand."""


def told(track: Track) -> dict[str, list[Finding]]:
    found: dict[str, list[Finding]] = {caption.id: [] for caption in track}
    for finding in JUDGE.findings(track):
        found[finding.caption].append(finding)
    return found


@settings(max_examples=40)
@given(crowds, st.data())
def test_a_change_makes_nothing_otherwise_that_is_not_near(
    track: Track, data: st.DataObject
) -> None:
    id_ = data.draw(st.sampled_from([caption.id for caption in track]))
    length = data.draw(st.integers(1, 12_000))
    caption = track.by_id[id_]
    changed = track.changed([], [replace(caption, out_ms=caption.in_ms + length)])

    before, after = told(track), told(changed)
    others = {one for one in before if before[one] != after[one]}

    near = {
        state.order[place][1]
        for state in (track, changed)
        for place in JUDGE.judged_with(state, state.index(id_))
    }
    assert others <= near


@given(crowds)
def test_one_by_one_they_are_judged_as_all_at_once(track: Track) -> None:
    one_by_one = [found for place in range(len(track)) for found in JUDGE.findings_of(track, place)]
    assert one_by_one == list(JUDGE.findings(track))
