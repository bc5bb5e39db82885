"""Captions drawn into the film."""

import tempfile
from collections.abc import Callable, Iterable
from pathlib import Path

from dunlin.core.captions import Caption
from dunlin.core.styles import Script, Style, StyleSheet, render_script
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.fonts import fonts_alone, lay_out_fonts
from dunlin.media.probe import Probe

__all__ = ["DEFAULT_CRF", "burn", "script_size"]

DEFAULT_CRF = 20
"""Constant rate factor of x264 at which a captioned copy looks as the film does."""

_SOUND_ONLY = (1280, 720)


def script_size(facts: Probe) -> Script:
    """The picture that captions are laid out on: the film's, or a plain one for sound alone."""
    width, height = (facts.width, facts.height) if facts.width else _SOUND_ONLY
    return Script(width // 2 * 2, height // 2 * 2)


def burn(
    film: Path,
    facts: Probe,
    captions: Iterable[Caption],
    sheet: StyleSheet | Style,
    output: Path,
    *,
    crf: int = DEFAULT_CRF,
    height: int | None = None,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes an MP4 (H.264, AAC) with the captions in the picture; sound alone gets a dark one.

    :param crf: x264's constant rate factor, from 0, lossless, to 51
    :param height: lines of the picture, if it shall be scaled
    :raises MediaError: when the film cannot be decoded or the file not written
    :raises Cancelled: when `cancelled` came true
    """
    picture = script_size(facts)
    shown = f"scale={picture.width}:{picture.height},setsar=1"
    if height:
        shown = f"scale=-2:{height // 2 * 2},setsar=1"
    with tempfile.TemporaryDirectory(prefix="dunlin-burn-") as name:
        folder = Path(name)
        # Plain names in the folder it runs in: nothing to escape in a filter's argument.
        script = render_script(captions, sheet, picture, facts.frame_rate)
        (folder / "captions.ass").write_text(script, "utf-8")
        lay_out_fonts(script, folder / "fonts")
        drawn = f"{shown},ass=captions.ass:fontsdir=fonts"
        if facts.video_codec:
            source = [*film_input(film), "-map", "0:v:0", "-map", "0:a:0?"]
        else:
            seconds = facts.duration_ms / 1000
            size = f"{picture.width}x{picture.height}"
            source = [
                *film_input(film), "-f", "lavfi",
                "-i", f"color=c=#1D2427:s={size}:r=25:d={seconds:.3f}",
                "-map", "1:v:0", "-map", "0:a:0",
            ]  # fmt: skip
        arguments = [
            *source, "-sn", "-dn", "-vf", drawn,
            "-c:v", "libx264", "-preset", "medium", "-crf", str(crf), "-pix_fmt", "yuv420p",
            "-c:a", "aac", "-b:a", "160k", "-movflags", "+faststart",
        ]  # fmt: skip
        run_with_progress(
            arguments, output, facts.duration_ms, progress, cancelled, folder, fonts_alone(folder)
        )
