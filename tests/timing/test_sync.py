"""Captions found from the sound, against speech whose times are known."""

from collections.abc import Sequence
from dataclasses import replace
from functools import cache

import numpy as np
import pytest

from dunlin.core.captions import Caption
from dunlin.core.speech.activity import Stretch, levels, speech_stretches
from dunlin.core.timing.retiming import retimed
from dunlin.core.timing.sync import RATES, agreement, sync
from tests.conftest import THOROUGH
from tests.spoken import talk

UNDER = ("nothing", "noise", "music")


@cache
def heard(seed: int, under: str, seconds: int = 300) -> tuple[tuple[Caption, ...], list[Stretch]]:
    made = talk(seed, seconds, under)  # type: ignore[arg-type]
    return tuple(made.captions), speech_stretches(levels([made.sound]))


def mistimed(captions: Sequence[Caption], rate: float, offsets: Sequence[int], cuts: Sequence[int]):
    """Captions as a file has them whose times must be times `rate` and plus an offset to be right."""
    made = []
    for index, caption in enumerate(captions):
        offset = offsets[sum(index >= cut for cut in cuts)]
        in_ms, out_ms = (round((ms - offset) / rate) for ms in (caption.in_ms, caption.out_ms))
        made.append(replace(caption, in_ms=in_ms, out_ms=out_ms))
    return made


def errors(found: Sequence[Caption], truth: Sequence[Caption]) -> np.ndarray:
    return np.array([abs(a.in_ms - b.in_ms) for a, b in zip(found, truth, strict=True)])


def without(speech: Sequence[Stretch], from_ms: int, to_ms: int) -> list[Stretch]:
    """The speech of the same film with a part cut out."""
    by = to_ms - from_ms
    kept = []
    for s in speech:
        kept.append(Stretch(s.start_ms, min(s.end_ms, from_ms)))
        kept.append(Stretch(max(s.start_ms, to_ms) - by, s.end_ms - by))
    return [s for s in kept if s.end_ms > s.start_ms]


@pytest.mark.parametrize("under", UNDER)
def test_captions_of_a_part_that_was_cut_out_are_absent_and_the_others_are_right(
    under: str,
) -> None:
    captions, speech = heard(3, under)
    for from_ms, to_ms in ((60_000, 80_000), (120_000, 200_000), (90_000, 97_000)):
        found = sync(captions, without(speech, from_ms, to_ms))
        moved = {c.id: c.in_ms for c in retimed(captions, found.pieces).captions}
        for caption in captions:
            if caption.out_ms <= from_ms or caption.in_ms >= to_ms:
                right = caption.in_ms - (caption.in_ms >= to_ms) * (to_ms - from_ms)
                assert abs(moved[caption.id] - right) <= 80, (from_ms, caption)
            elif caption.in_ms > from_ms + 300 and caption.out_ms < to_ms - 300:
                assert caption.id not in moved, (from_ms, caption)


def test_songs_and_signs_are_not_taken_for_parts_that_were_cut_out() -> None:
    captions, speech = heard(4, "nothing")
    for first in range(5, len(speech) - 12, 9):
        unheard = [*speech[:first], *speech[first + 10 :]]
        assert not any(piece.absent for piece in sync(captions, unheard).pieces)


@pytest.mark.parametrize("under", UNDER)
@pytest.mark.parametrize("seed", [1, 2])
def test_a_constant_offset_is_found_within_60_ms(seed: int, under: str) -> None:
    captions, speech = heard(seed, under)
    for offset in (-2000, 30_500):
        late = mistimed(captions, 1.0, [offset], [])
        found = sync(late, speech)
        error = errors(retimed(late, found.pieces).captions, captions)
        print(f"{under}, {offset} ms: off by {error.max()} ms, {found.sure:.0%} sure")
        assert len(found.pieces) == 1
        assert found.sure > 0.5
        assert error.max() <= 60
        assert found.agreement_after > found.agreement_before


def test_breaks_and_drift_are_found_to_the_right_caption() -> None:
    right, cases = 0, 0
    random = np.random.default_rng(5)
    for seed in range(10, 14 if THOROUGH else 12):
        for under in UNDER:
            captions, speech = heard(seed, under, 240)
            rate = float(random.choice(list(RATES.values())))
            cuts = sorted({int(cut) for cut in random.integers(12, len(captions) - 12, 2)})
            if len(cuts) == 2 and cuts[1] - cuts[0] < 12:
                cuts = cuts[:1]
            offsets = [-60_000]
            for _ in cuts:
                offsets.append(offsets[-1] - int(random.uniform(1500, 15_000)))
            late = mistimed(captions, rate, offsets, cuts)
            found = sync(late, speech)
            error = errors(retimed(late, found.pieces).captions, captions)
            cases += 1
            right += bool(error.max() <= 80)
    print(f"breaks and drift: {right} of {cases} to the right caption and within 80 ms")
    assert right / cases >= 0.95


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_captions_of_another_film_are_not_moved(seed: int) -> None:
    captions, _ = heard(seed, "nothing")
    _, speech = heard(seed + 50, "nothing")
    found = sync(captions, speech)
    assert found.sure == 0
    assert found.pieces == ()
    assert found.agreement_after == found.agreement_before


def test_what_cannot_be_told_is_said() -> None:
    captions, speech = heard(1, "nothing")
    for few in ((), captions[:1], captions[:2]):
        assert sync(few, speech).pieces == ()
    assert sync(captions, []).pieces == ()
    at_zero = [replace(caption, in_ms=0, out_ms=1000) for caption in captions]
    assert sync(at_zero, speech).pieces == ()


def test_captions_that_are_shown_all_the_time_tell_nothing() -> None:
    captions, speech = heard(1, "nothing")
    end = captions[-1].out_ms
    for all_through in (
        [replace(caption, in_ms=n, out_ms=end) for n, caption in enumerate(captions)],
        [replace(captions[0], in_ms=0, out_ms=10 * end)],
    ):
        found = sync(all_through, speech)
        assert (found.pieces, found.sure) == ((), 0)


def test_captions_beyond_the_film_do_not_hide_where_the_others_belong() -> None:
    captions, speech = heard(3, "nothing")
    end = captions[-1].out_ms
    beyond = [
        replace(captions[0], id=f"beyond-{n}", in_ms=end + n * 9000, out_ms=end + n * 9000 + 8000)
        for n in range(4)
    ]
    late = mistimed([*captions, *beyond], 1.0, [2000], [])
    (piece, *_) = sync(late, speech).pieces
    assert abs(piece.offset_ms - 2000) < 60


def test_a_short_film_with_breaks_has_no_drift() -> None:
    captions, speech = heard(21, "nothing", 130)
    late = mistimed(captions, 1.0, [-2000, -3500], [len(captions) // 2])
    found = sync(late, speech)
    assert found.drift == ""
    assert all(piece.rate == 1 for piece in found.pieces)


def test_captions_in_place_agree_and_stay() -> None:
    captions, speech = heard(2, "nothing")
    found = sync(captions, speech)
    assert [abs(piece.offset_ms) < 60 for piece in found.pieces] == [True]
    assert agreement(captions, speech) > 80
    assert agreement([], []) == 0
