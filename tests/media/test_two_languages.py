"""Two languages in one picture: each where it belongs, in its own style, and neither over the other, as ffmpeg draws them."""

from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from dunlin.core.captions import Caption, Placement, Span, Track
from dunlin.core.captions.look import Look
from dunlin.core.styles import Script, sheet_with
from dunlin.core.styles.two_languages import both_in_picture
from dunlin.core.timecode import FrameRate
from dunlin.media.still import draw_alone

PICTURE = Script(1280, 720)
RATE = FrameRate(25)
LOWER = sheet_with({"Own": Look(colour="#FF0000", outline=0.0, shadow=0.0)}, "Own")
UPPER = sheet_with({"Own": Look(colour="#0000FF", outline=0.0, shadow=0.0)}, "Own")


def captions(*lines: tuple[int, int, str], **fields) -> Track:
    return Track.of(
        Caption(f"c{n}", start, end, (Span(text),), **fields)
        for n, (start, end, text) in enumerate(lines)
    )


def rows(lower: Track, upper: Track, at_ms: int, folder: Path, language: str = "de"):
    """From which to which row of the picture the red and the blue letters go; None for what is not there."""
    drawn, sheet = both_in_picture(lower, upper, LOWER, UPPER, PICTURE, language)
    path = folder / "still.png"
    draw_alone(drawn, sheet, PICTURE, RATE, at_ms, path)
    pixels = np.asarray(Image.open(path).convert("RGBA")).astype(int)
    found = []
    for colour, other in ((0, 2), (2, 0)):
        there = (pixels[..., 3] > 128) & (pixels[..., colour] > 128) & (pixels[..., other] < 100)
        lines = np.flatnonzero(there.any(axis=1))
        found.append((lines[0], lines[-1]) if len(lines) else None)
    return found


@pytest.mark.parametrize(
    ("language", "text"),
    [("de", "Häng sie hoch."), ("ar", "علّقها عاليًا."), ("ja", "高く吊るして。")],
)
def test_one_stands_above_the_other_in_its_own_colour(
    tmp_path: Path, language: str, text: str
) -> None:
    lower = captions((0, 2000, "Hang it high,\nby the door."))
    red, blue = rows(lower, captions((0, 2000, text)), 1000, tmp_path, language)
    assert red
    assert blue
    assert blue[1] < red[0]
    assert red[0] - blue[1] < 0.12 * PICTURE.height


def test_the_upper_stays_where_it_is_until_it_goes(tmp_path: Path) -> None:
    """While it is shown, one line gives way to two beneath it, and then to none."""
    lower = captions((0, 1000, "One."), (1000, 2000, "Two lines,\nboth of them."))
    upper = captions((0, 3000, "Darüber."))
    seen = [rows(lower, upper, at, tmp_path) for at in (500, 1500, 2500)]
    assert len({blue for _, blue in seen}) == 1
    assert seen[1][1][1] < seen[1][0][0]
    assert seen[2][0] is None


def test_who_comes_first_does_not_matter(tmp_path: Path) -> None:
    lower, upper = captions((500, 2000, "Below.")), captions((0, 2000, "Above."))
    red, blue = rows(lower, upper, 1000, tmp_path)
    assert blue[1] < red[0]


def test_what_is_placed_by_hand_stays_there(tmp_path: Path) -> None:
    lower = captions((0, 2000, "Below."))
    upper = captions((0, 2000, "At the top."), placement=Placement(anchor="top"))
    _, blue = rows(lower, upper, 1000, tmp_path)
    assert blue[1] < PICTURE.height / 4
    alone, _ = both_in_picture(captions(), upper, LOWER, UPPER, PICTURE, "de")
    assert [one.look for one in alone] == [None]
