"""One frame of a film with its captions, as it will be burned."""

from collections.abc import Iterable, Sequence
from pathlib import Path

from dunlin.core.captions import Caption
from dunlin.core.styles import Script, StyleSheet, render_script
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame
from dunlin.media.burn import SOUND_ONLY_COLOUR, plain_picture, script_size
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.fonts import LAID_OUT, fonts_alone, script_laid_out
from dunlin.media.probe import Probe

__all__ = ["draw_alone", "draw_still"]

_BEFORE_SECONDS = 1
"""From so far before the frame the film is decoded, so that the frame is there whatever it begins with."""


def draw_still(
    film: Path,
    facts: Probe,
    captions: Iterable[Caption],
    sheet: StyleSheet,
    at_ms: int,
    output: Path,
) -> None:
    """Writes the frame that is shown at a time as a PNG; of sound alone, a dark picture.

    :raises MediaError: when there is no such frame, or the film cannot be decoded
    """
    picture, rate = script_size(facts), facts.frame_rate
    at = start_of_frame(frame_at(at_ms, rate), rate) / 1000
    if facts.video_codec:
        from_ = max(at - _BEFORE_SECONDS, 0)
        # Times stay those of the film; the frame wanted is the last that begins by then.
        source = ["-ss", f"{from_:.3f}", "-copyts", *film_input(film), "-map", "0:v:0"]
        first = f"select=gte(t\\,{at - _half_frame(rate):.4f}),scale={picture.width}:{picture.height},setsar=1"
    else:
        source = plain_picture(picture, rate, SOUND_ONLY_COLOUR, 1)
        first = _at(at)
    _draw(source, first, LAID_OUT, captions, sheet, picture, rate, output)


def draw_alone(
    captions: Iterable[Caption],
    sheet: StyleSheet,
    picture: Script,
    rate: FrameRate,
    at_ms: int,
    output: Path,
) -> None:
    """Writes the captions at a time as a PNG on nothing, with transparency.

    :raises MediaError: when it cannot be drawn
    """
    at = start_of_frame(first_frame_from(at_ms, rate), rate) / 1000
    source = plain_picture(picture, rate, "black@0", 1, "rgba")
    drawn = f"{LAID_OUT}:alpha=1"
    _draw(source, _at(at), drawn, captions, sheet, picture, rate, output)


def _half_frame(rate: FrameRate) -> float:
    return rate.denominator / rate.numerator / 2


def _at(seconds: float) -> str:
    """Has the first frame come at a time: it is what the captions are drawn by."""
    return f"setpts=PTS+{seconds:.4f}/TB"


def _draw(
    source: Sequence[str],
    first: str,
    drawn: str,
    captions: Iterable[Caption],
    sheet: StyleSheet,
    picture: Script,
    rate: FrameRate,
    output: Path,
) -> None:
    with script_laid_out(render_script(captions, sheet, picture, rate), output) as folder:
        arguments = [*source, "-an", "-sn", "-dn", "-vf", f"{first},{drawn}",
                     "-frames:v", "1", "-update", "1", "-c:v", "png"]  # fmt: skip
        run_with_progress(
            arguments, output, 1, lambda _: None, folder=folder, environment=fonts_alone(folder)
        )
