"""Spoken words in burned frames: each is lit on the frame in which it begins, and words stand still while they are."""

from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from dunlin.core.captions import Caption, Look, Span, Spoken
from dunlin.core.captions.look import WordLook
from dunlin.core.delivery.encoding import Encoding
from dunlin.core.styles import STYLES, Script, StyleSheet, styled
from dunlin.core.timecode import FrameRate, frame_at
from dunlin.media.burn import burn
from dunlin.media.probe import probe
from dunlin.media.still import draw_alone
from tests.conftest import ffmpeg

PICTURE = Script(480, 270)
STARTS = [210, 555, 1030, 1407]
WORDS = ["It", "rained", "all", "day"]


def caption() -> Caption:
    spans: list[Span] = []
    for word, start in zip(WORDS, STARTS, strict=True):
        spans += [Span(" ")] * bool(spans) + [Span(word, spoken=Spoken(start, start + 300))]
    return Caption("a", 0, 2000, tuple(spans))


def sheet(spoken_by: str, look: WordLook) -> StyleSheet:
    plain = {"size": 0.16, "y": 0.5, "anchor": "middle", "outline": 0.0, "shadow": 0.0}
    said = {"colour": "#000000", "background_padding": 0.0}
    return StyleSheet(
        styled(STYLES["house"], Look(spoken=look, spoken_by=spoken_by, **plain, **said))
    )


@pytest.fixture(scope="module")
def grey(tmp_path_factory: pytest.TempPathFactory) -> Path:
    film = tmp_path_factory.mktemp("telling") / "grey.mp4"
    ffmpeg(
        "-f", "lavfi", "-i", "color=c=gray:s=480x270:r=30000/1001:d=2", "-pix_fmt", "yuv420p", film
    )
    return film


@pytest.mark.parametrize(
    ("spoken_by", "look"),
    [
        ("cut", WordLook(colour="#FF0000")),
        ("wash", WordLook(colour="#FF0000")),
        ("draw", WordLook(background="#FF0000")),
        ("slide", WordLook(background="#FF0000")),
        ("rise", WordLook(colour="#FF0000")),
        ("grow", WordLook(colour="#FF0000")),
        ("type", WordLook(colour="#FF0000")),
    ],
)
def test_a_word_is_lit_on_the_frame_in_which_it_begins(
    grey: Path, tmp_path: Path, spoken_by: str, look: WordLook
) -> None:
    output = tmp_path / "burned.mp4"
    burn(grey, probe(grey), [caption()], sheet(spoken_by, look), output, Encoding(crf=4))
    lit = [where_red(frame) for frame in frames_of(output)]
    rate = FrameRate(30000, 1001)
    for start, (left, right) in zip(STARTS, boxes(tmp_path), strict=True):
        first = next(n for n, red in enumerate(lit) if red and red[1] > left and red[0] < right)
        assert abs(first - frame_at(start, rate)) <= 1


def boxes(folder: Path) -> list[tuple[float, float]]:
    """Where across the picture each word stands, less its brim."""
    found = []
    for start in STARTS:
        output = folder / "word.png"
        style = sheet("cut", WordLook(colour="#FF0000"))
        draw_alone([caption()], style, PICTURE, FrameRate(25), start + 100, output)
        red = where_red(np.array(Image.open(output).convert("RGBA")))
        output.unlink()
        assert red
        found.append((red[0] + 2, red[1] - 2))
    return found


def where_red(frame: np.ndarray) -> tuple[float, float] | None:
    """Left and right of all that is red."""
    red = (frame[..., 0] > 190) & (frame[..., 1] < 110) & (frame[..., 2] < 110)
    _, columns = np.nonzero(red)
    return (float(columns.min()), float(columns.max())) if len(columns) > 6 else None


def frames_of(film: Path) -> list[np.ndarray]:
    with av.open(str(film)) as opened:
        return [frame.to_ndarray(format="rgb24") for frame in opened.decode(video=0)]


def test_words_stand_still_however_large_the_spoken_one_is(tmp_path: Path) -> None:
    def drawn(at_ms: int) -> np.ndarray:
        output = tmp_path / f"{at_ms}.png"
        style = sheet("cut", WordLook(colour="#FF0000", scale=1.3))
        draw_alone([caption()], style, PICTURE, FrameRate(25), at_ms, output)
        return np.array(Image.open(output).convert("RGBA"))

    first, last = drawn(300), drawn(1600)
    black = [(image[..., 3] > 200) & (image[..., 0] < 60) for image in (first, last)]
    # Between them are the same letters of the two words that neither tells.
    both = black[0] & black[1]
    columns = np.nonzero(both.any(axis=0))[0]
    assert columns.max() - columns.min() > 120
    middle = slice(columns.min(), columns.max())
    assert (black[0][:, middle] == black[1][:, middle]).mean() > 0.995
