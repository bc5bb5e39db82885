"""What is marked in the picture is followed, on a film whose every frame is known."""

from collections.abc import Mapping
from dataclasses import replace
from math import hypot
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from dunlin.core.captions import Caption
from dunlin.core.messages import BadInput
from dunlin.core.styles import StyleSheet
from dunlin.core.styles.following import Mark, Seen
from dunlin.core.timecode import start_of_frame
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.following import followed, grey_frames
from dunlin.media.probe import Probe, probe
from dunlin.media.still import draw_still
from tests.signs import FIRST, LAST, SIZE, mark_at, place_at


@pytest.fixture(scope="module")
def facts(sign_film: Path) -> Probe:
    return probe(sign_film)


def off_px(seen: Seen) -> float:
    x, y, _, _ = place_at(seen.frame)
    return hypot(seen.x * SIZE[0] - x, seen.y * SIZE[1] - y)


@pytest.mark.parametrize("marked", [FIRST, 30, 90, LAST])
def test_a_sign_is_followed_forth_and_back_to_its_first_and_last_frame(
    sign_film: Path, facts: Probe, marked: int
) -> None:
    path = followed(sign_film, facts, [mark_at(marked)])
    assert [seen.frame for seen in path.seen] == list(range(FIRST, LAST + 1))
    assert np.mean([off_px(seen) for seen in path.seen]) < 0.5
    assert max(off_px(seen) for seen in path.seen) < 1.5
    for seen in path.seen:
        _, _, scale, turn = place_at(seen.frame)
        assert seen.scale == pytest.approx(scale / place_at(marked)[2], abs=0.01)
        assert seen.turn == pytest.approx(turn, abs=0.5)
    assert all(0.25 <= seen.sure <= 1 for seen in path.seen)


def test_a_mark_that_was_put_by_hand_is_where_it_was_put_and_what_lies_around_follows(
    sign_film: Path, facts: Probe
) -> None:
    by_hand = replace(mark_at(60), x=mark_at(60).x + 8 / SIZE[0])
    path = followed(sign_film, facts, [mark_at(20), by_hand])
    at = {seen.frame: seen for seen in path.seen}
    assert at[60].x == pytest.approx(by_hand.x)
    assert at[20].x == pytest.approx(mark_at(20).x)
    # It goes over from the one to the other; behind the second it stays as far off, on the sign.
    off = [at[frame].x * SIZE[0] - place_at(frame)[0] for frame in (20, 30, 40, 50, 60, 90)]
    assert off == pytest.approx([0, 2, 4, 6, 8, 8 * place_at(90)[2] / place_at(60)[2]], abs=0.7)
    assert [seen.frame for seen in path.seen] == list(range(FIRST, LAST + 1))


def test_boxes_are_as_large_as_they_were_marked_whichever_was_put_first(
    sign_film: Path, facts: Probe
) -> None:
    path = followed(sign_film, facts, [mark_at(60), mark_at(20)])
    for seen in path.seen:
        if seen.frame in (20, 60):
            assert path.width * seen.scale == pytest.approx(mark_at(seen.frame).width)


def test_frames_are_those_that_stills_are_of(films: Mapping[str, Path], tmp_path: Path) -> None:
    for name, number in (("short", 37), ("ntsc", 31)):
        facts = probe(films[name])
        read = next(grey_frames(films[name], facts, number, 1))
        around = [next(grey_frames(films[name], facts, number + by, 1)) for by in (-1, 1)]
        at_ms = start_of_frame(number, facts.frame_rate)
        still = tmp_path / f"{name}.png"
        draw_still(films[name], facts, [Caption("a", 0, 1)], StyleSheet(), at_ms, still)
        drawn = np.array(Image.open(still).convert("L")).astype(int)
        off = [np.abs(drawn - each).mean() for each in (read, *around)]
        assert off[0] < min(off[1:])


@pytest.mark.parametrize(
    ("mark", "code"),
    [
        (Mark(20, 0.5, 0.5, 0.005, 0.005), "follow.too-small"),
        (Mark(900, 0.5, 0.5, 0.2, 0.2), "follow.no-frame"),
    ],
)
def test_what_cannot_be_followed_is_told(
    sign_film: Path, facts: Probe, mark: Mark, code: str
) -> None:
    with pytest.raises(BadInput) as told:
        followed(sign_film, facts, [mark])
    assert told.value.message.code == code


def test_a_plain_part_cannot_be_told_apart(films: Mapping[str, Path]) -> None:
    with pytest.raises(BadInput) as told:
        followed(films["plain"], probe(films["plain"]), [Mark(20, 0.5, 0.5, 0.4, 0.4)])
    assert told.value.message.code == "follow.plain"


def test_following_can_be_called_off(sign_film: Path, facts: Probe) -> None:
    with pytest.raises(Cancelled):
        followed(sign_film, facts, [mark_at(40)], cancelled=lambda: True)
