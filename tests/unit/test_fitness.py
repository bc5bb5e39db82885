"""How fit a sound is for recognising."""

import numpy as np
import pytest

from dunlin.core.speech.activity import Stretch
from dunlin.core.speech.fitness import fitness_of, what_would_help

SPEECH = [Stretch(1000, 2000), Stretch(3000, 4000)]


def outline(voice: int, rest: int) -> np.ndarray:
    """Five seconds in pairs of 4 ms: voices of one height, and what is between them of another."""
    heights = np.full(1250, rest, np.int16)
    for stretch in SPEECH:
        heights[stretch.start_ms // 4 : stretch.end_ms // 4] = voice
    return np.stack([-heights, heights], axis=1).clip(-128, 127).astype(np.int8)


@pytest.mark.parametrize(
    ("voice", "rest", "told"),
    [
        (64, 2, []),
        (3, 0, ["fitness.quiet"]),
        (128, 2, ["fitness.clipped"]),
        (64, 40, ["fitness.noisy"]),
        (128, 100, ["fitness.clipped", "fitness.noisy"]),
    ],
)
def test_what_is_wrong_is_told(voice: int, rest: int, told: list[str]) -> None:
    fitness = fitness_of(outline(voice, rest), 4, SPEECH)
    assert fitness is not None
    assert [one.code for one in what_would_help(fitness)] == told


def test_where_nobody_speaks_nothing_is_measured() -> None:
    assert fitness_of(outline(64, 2), 4, []) is None


def test_voices_without_a_pause_say_nothing_of_what_is_under_them() -> None:
    fitness = fitness_of(outline(64, 64), 4, [Stretch(0, 5000)])
    assert fitness is not None
    assert fitness.above_rest_db is None
