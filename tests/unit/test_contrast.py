"""How well letters stand out, by the formula of WCAG, from what lies behind them."""

from dataclasses import replace

import numpy as np
import pytest

from dunlin.core.captions import Caption, Look, Track, spans_of
from dunlin.core.specs import Judge, Mend, Setting, Spec, mend_of
from dunlin.core.styles import Script, Style, StyleSheet
from dunlin.core.styles.contrast import Backdrop, Contrast, contrast_of
from dunlin.core.styles.holding import frame_of
from dunlin.core.timecode import FrameRate

PICTURE = Script(1280, 720)
PLAIN = Style("plain", "Plain", outline=0.0, shadow=0.0)


def film(*greys: int) -> Backdrop:
    """A film that is all of one grey at each half second."""
    return Backdrop(np.stack([np.full((18, 32, 3), grey, np.uint8) for grey in greys]))


def contrast(style: Style, backdrop: Backdrop | None, out_ms: int = 500) -> Contrast | None:
    caption = Caption("a", 0, out_ms, spans_of("FOG SIGNAL"))
    frame = frame_of(caption, StyleSheet(style), PICTURE)
    assert frame is not None
    return contrast_of(caption, style, frame, PICTURE, backdrop)


@pytest.mark.parametrize(
    ("colour", "grey", "ratio"),
    [("#FFFFFF", 0, 21.0), ("#FFFFFF", 255, 1.0), ("#767676", 255, 4.54), ("#777777", 255, 4.48)],
)
def test_the_ratio_is_that_of_the_guidelines(colour: str, grey: int, ratio: float) -> None:
    assert contrast(replace(PLAIN, colour=colour), film(grey)) == Contrast(ratio, "picture")


def test_it_is_measured_over_all_the_time_that_letters_are_shown() -> None:
    assert contrast(PLAIN, film(0, 250), out_ms=500) == Contrast(21.0, "picture")
    later = contrast(PLAIN, film(0, 250), out_ms=1000)
    assert later is not None
    assert later.ratio < 1.1


def test_a_ground_or_an_outline_parts_letters_from_the_picture() -> None:
    assert contrast(replace(PLAIN, background="#000000"), None) == Contrast(21.0, "background")
    assert contrast(replace(PLAIN, outline=0.005, outline_colour="#000000"), film(255)) == Contrast(
        21.0, "outline"
    )
    # A hair line parts nothing, and through half a ground the picture shines.
    assert contrast(replace(PLAIN, outline=0.001), film(255)) == Contrast(1.0, "picture")
    half = contrast(replace(PLAIN, background="#000000", background_opacity=0.5), film(255))
    assert half is not None
    assert half.against == "background"
    assert 3 < half.ratio < 5
    assert contrast(PLAIN, None) is None


def test_letters_that_are_faint_are_found_and_get_an_outline() -> None:
    spec = Spec(id="own", name="Own", least_contrast=4.5)
    judge = Judge(Setting(spec, FrameRate(25), sheet=StyleSheet(PLAIN), backdrop=film(*[230] * 8)))
    before = Track.of([Caption("a", 0, 2000, spans_of("FOG SIGNAL"))])
    (finding,) = judge.findings(before)
    assert (finding.rule, finding.unit, finding.limit) == ("contrast", "ratio", 4.5)
    outcome = mend_of(before, finding, judge)
    assert isinstance(outcome, Mend)
    look = outcome.after[0].look
    assert isinstance(look, Look)
    assert look.outline_colour == Style("", "").outline_colour
    assert list(judge.findings(Track.of(outcome.after))) == []
