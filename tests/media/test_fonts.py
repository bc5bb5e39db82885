"""Fonts as they are drawn against how they are measured."""

from pathlib import Path

import av
import numpy as np
import pytest

from dunlin.core.captions import Caption, Look, Placement, spans_of
from dunlin.core.styles import STYLES, Script, StyleSheet, styled
from dunlin.core.styles.measuring import text_width
from dunlin.core.styles.shelf import families_to_choose
from dunlin.core.timecode import FrameRate
from dunlin.media.still import draw_alone

SAID = "Hammered in 1911"
PICTURE = Script(1280, 1000)
LOOKS = {
    "regular": Look(weight=400),
    "bold": Look(weight=700),
    "italic": Look(weight=400, italic=True),
    "wide and apart": Look(weight=400, stretch=1.2, letter_spacing=0.05),
}


@pytest.mark.parametrize("kind", LOOKS)
def test_every_family_is_drawn_as_wide_as_it_is_measured(kind: str, tmp_path: Path) -> None:
    families = [family.name for family in families_to_choose()]
    plain = {"outline": 0.0, "shadow": 0.0, "size": 0.06}
    looks = [Look(**vars(LOOKS[kind]) | plain | {"font": family}) for family in families]
    captions = [
        Caption(family, 0, 1000, spans_of(SAID), look=look,
                placement=Placement("top", "left", x=0.05, y=0.01 + 0.075 * n))
        for n, (family, look) in enumerate(zip(families, looks, strict=True))
    ]  # fmt: skip
    drawing = tmp_path / "drawn.png"
    draw_alone(captions, StyleSheet(), PICTURE, FrameRate(25), 0, drawing)
    with av.open(str(drawing)) as file:
        seen = next(file.decode(video=0)).to_ndarray(format="rgba")[..., 3] > 128
    widths = []
    for n, look in enumerate(looks):
        top = round((0.01 + 0.075 * n) * PICTURE.height)
        columns = np.flatnonzero(seen[top : top + 60].any(axis=0))
        widths.append(columns[-1] - columns[0] + 1)
        style = styled(STYLES["house"], look)
        measured = text_width(SAID, style, PICTURE)
        # Room beside the first and the last letter is no ink, and what is slanted leans out of its own.
        beside = 60 * style.stretch * (style.letter_spacing + 0.25)
        leaning = 60 * 0.2 * style.italic
        assert measured - beside <= widths[-1] <= measured + leaning + 3, look.font
    # No family is another one that stands in for it.
    assert len(set(widths)) >= len(families) - 2
