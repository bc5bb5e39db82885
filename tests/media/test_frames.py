"""Frames around captions against drawn pixels: they are where the letters are, however these are turned and tilted."""

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image

from dunlin.core.captions import Caption, Look, Placement, spans_of
from dunlin.core.captions.look import Moment
from dunlin.core.styles import Script, StyleSheet
from dunlin.core.styles.holding import covered_by, frame_of
from dunlin.core.timecode import FrameRate
from dunlin.media.still import draw_alone

PICTURE = Script(640, 360)


@pytest.mark.parametrize(
    "turned",
    [
        {},
        {"turn": 25.0},
        {"tilt_x": 40.0},
        {"tilt_y": -40.0},
        {"turn": 20.0, "tilt_x": 30.0, "tilt_y": -35.0},
        {"turn": -130.0, "tilt_x": -20.0},
        {
            "moments": (
                Moment(0, x=0.2, y=0.3, size=0.05, turn=0.0),
                Moment(1600, 0.6, 0.7, 0.1, 40.0),
            )
        },
    ],
)
def test_a_frame_is_where_the_renderer_draws(tmp_path: Path, turned: dict[str, Any]) -> None:
    # A ground without padding is as large as the letters' lines.
    look = Look(background="#FF0000", background_padding=0.0, outline=0.0, shadow=0.0, **turned)
    caption = Caption(
        "a",
        0,
        2000,
        spans_of("FOG SIGNAL"),
        placement=Placement("middle", "left", 0.4, 0.5),
        look=look,
    )
    frame = frame_of(caption, StyleSheet(), PICTURE, at_ms=1000)
    assert frame is not None
    output = tmp_path / "drawn.png"
    draw_alone([caption], StyleSheet(), PICTURE, FrameRate(25), 1000, output)
    rows, columns = np.nonzero(np.array(Image.open(output).convert("RGBA"))[..., 3] > 100)
    drawn = (columns.min(), rows.min(), columns.max() + 1, rows.max() + 1)
    assert covered_by(frame) == pytest.approx(drawn, abs=1.5)
