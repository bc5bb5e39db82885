"""Where somebody speaks, told from the sound."""

import numpy as np
import pytest

from dunlin.core.speech.activity import STEP_MS, levels, speech_stretches
from tests.spoken import talk


@pytest.mark.parametrize("under", ["nothing", "noise", "music"])
def test_phrases_begin_where_they_begin(under: str) -> None:
    made = talk(7, 180, under)  # type: ignore[arg-type]
    onsets = np.array([s.start_ms for s in speech_stretches(levels([made.sound]))])
    late = [onsets[np.abs(onsets - c.in_ms).argmin()] - c.in_ms for c in made.captions]
    print(f"onsets {under}: median {np.median(late):.0f} ms late")
    assert np.median(np.abs(late)) <= 30
    assert np.mean(np.abs(late) <= 100) >= 0.8


def test_blocks_give_what_the_whole_gives() -> None:
    sound = talk(3, 30).sound
    whole = levels([sound])
    parts = levels([sound[:1234], sound[1234:1235], sound[1235:200_000], sound[200_000:]])
    assert len(whole) == -(-len(sound) // (16 * STEP_MS)) or len(whole) == len(sound) // 160
    np.testing.assert_allclose(whole, parts, atol=1e-3)


@pytest.mark.parametrize(
    "sound",
    [
        np.empty(0, np.int16),
        np.zeros(16_000, np.int16),
        np.random.default_rng(1).normal(0, 800, 320_000).astype(np.int16),
        np.full(40, 7, np.int16),
    ],
    ids=["none", "silence", "noise alone", "a moment"],
)
def test_where_nobody_speaks_nothing_is_found(sound: np.ndarray) -> None:
    assert speech_stretches(levels([sound])) == []
