"""What holds for every mend, whatever the track and the spec."""

from hypothesis import given, settings
from hypothesis import strategies as st

from dunlin.core.captions import Track, apply
from dunlin.core.specs import Judge, Mend, NoMend, Setting, Spec, mend_all, mend_of, shipped_specs
from dunlin.core.specs.mends import said_in
from tests.strategies import rates, tracks

SPECS = [
    *shipped_specs().values(),
    Spec(
        id="all", name="All", characters_per_line=20, lines=2, line_balance=50, line_shape="top-heavy",
        no_single_last_word=True, reading_speed=12, words_per_minute=160, least_duration_ms=900,
        greatest_duration_ms=4000, least_gap_frames=3, close_gaps_below_ms=500, shot_change_frames=8,
        captions_per_sentence=1, dash="– ", ellipsis="…", quotes="curly", sound_brackets="square",
        sound_case="upper", numbers_in_words_below=20, characters="latin-1", speaker_labels="upper",
        language=True, safe_area=0.4, advice=(),
    ),
]  # fmt: skip

judges = st.builds(
    lambda spec, rate, shots: Judge(Setting(spec, rate, "en", tuple(sorted(shots)))),
    st.sampled_from(SPECS),
    rates,
    st.lists(st.integers(0, 25_000), max_size=4),
)


def errors(judge: Judge, track: Track) -> set[tuple[str, str]]:
    return {(f.rule, f.caption) for f in judge.findings(track) if f.weight == "error"}


@settings(max_examples=40)
@given(tracks(), judges)
def test_a_mend_takes_its_finding_away_and_nothing_else_goes_wrong(
    track: Track, judge: Judge
) -> None:
    before = errors(judge, track)
    for finding in list(judge.findings(track)):
        outcome = mend_of(track, finding, judge)
        if isinstance(outcome, NoMend):
            assert outcome.reason
            continue
        assert isinstance(outcome, Mend)
        changed = apply(track, outcome.edit).track
        assert said_in(tuple(track)) == said_in(tuple(changed)) or _reordered(track, changed)
        after = errors(judge, changed)
        assert after <= before
        assert (finding.rule, finding.caption) not in after


def _reordered(before: Track, after: Track) -> bool:
    """Captions that overlapped may come in another order; their words are the same."""
    return sorted(said_in(tuple(before))) == sorted(said_in(tuple(after)))


@settings(max_examples=30)
@given(tracks(), judges)
def test_mending_all_leaves_nothing_that_could_be_mended(track: Track, judge: Judge) -> None:
    mended = mend_all(track, judge)
    assert errors(judge, mended.track) <= errors(judge, track)
    assert sorted(said_in(tuple(mended.track))) == sorted(said_in(tuple(track)))
    for mend in mended.mends:
        assert mend.before != mend.after


@settings(max_examples=40)
@given(tracks(), judges, st.data())
def test_only_what_is_chosen_is_mended(track: Track, judge: Judge, data: st.DataObject) -> None:
    found = list(judge.findings(track))
    if not found:
        return
    finding = data.draw(st.sampled_from(found))
    mended = mend_all(track, judge, chosen={(finding.rule, finding.caption)})
    assert {(mend.finding.rule, mend.finding.caption) for mend in mended.mends} <= {
        (finding.rule, finding.caption)
    }
    waived = mend_all(track, judge, waived={(f.rule, f.caption) for f in found})
    assert not {(m.finding.rule, m.finding.caption) for m in waived.mends} & {
        (f.rule, f.caption) for f in found
    }
