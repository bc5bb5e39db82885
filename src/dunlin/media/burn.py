"""Captions drawn into the film."""

from collections.abc import Callable, Iterable
from pathlib import Path

from dunlin.core.captions import Caption
from dunlin.core.styles import Script, Style, StyleSheet, render_script
from dunlin.core.timecode import FrameRate
from dunlin.core.versions.model import Version
from dunlin.core.versions.window import picture_of
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.fonts import LAID_OUT, fonts_alone, script_laid_out
from dunlin.media.framing import framing_filters
from dunlin.media.probe import Probe, audio_streams, is_ten_bit

__all__ = [
    "DEFAULT_CRF",
    "SOUND_ONLY_COLOUR",
    "burn",
    "plain_picture",
    "script_size",
    "sound_codecs",
]

DEFAULT_CRF = 20
"""Constant rate factor of x264 at which a captioned copy looks as the film does."""

_SOUND_ONLY = (1280, 720)
SOUND_ONLY_COLOUR = "#1D2427"
"""Of the picture that sound alone gets."""

# Sounds that MP4 holds and its players know (ISO/IEC 14496-14, ETSI TS 102 366).
_COPIED_SOUND = frozenset({"aac", "mp3", "ac3", "eac3"})


def script_size(facts: Probe) -> Script:
    """The picture that captions are laid out on: the film's, or a plain one for sound alone."""
    width, height = (facts.width, facts.height) if facts.width else _SOUND_ONLY
    return Script(width // 2 * 2, height // 2 * 2)


def plain_picture(
    picture: Script, rate: FrameRate, colour: str, seconds: float, pixels: str = "yuv420p"
) -> list[str]:
    """Arguments that make a picture of one colour where there is none.

    :param colour: as ffmpeg names it; `black@0` is nothing, in pixels that have transparency
    :param pixels: ffmpeg's name for how they are stored
    """
    size, frames = f"{picture.width}x{picture.height}", f"{rate.numerator}/{rate.denominator}"
    made = f"color=c={colour}:s={size}:r={frames}:d={seconds:.3f},format={pixels}"
    return ["-f", "lavfi", "-i", made]


def sound_codecs(film: Path) -> list[str]:
    """ffmpeg's options for each sound: copied as it is where MP4 can hold it, else made AAC."""
    options: list[str] = []
    for number, sound in enumerate(audio_streams(film)):
        copied = sound.codec in _COPIED_SOUND
        options += (
            [f"-c:a:{number}", "copy"]
            if copied
            else [f"-c:a:{number}", "aac", f"-b:a:{number}", "160k"]
        )
    return options


def burn(
    film: Path,
    facts: Probe,
    captions: Iterable[Caption],
    sheet: StyleSheet | Style,
    output: Path,
    *,
    crf: int = DEFAULT_CRF,
    height: int | None = None,
    version: Version | None = None,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes an MP4 (H.264) with the captions in the picture, and all sounds; sound alone gets a dark
    picture. Pictures of 10 bits stay so.

    :param crf: x264's constant rate factor, from 0, lossless, to 51
    :param height: lines of the picture, if it shall be scaled
    :param version: what of the picture is kept, and how; captions are laid out on that
    :raises MediaError: when the film cannot be decoded or the file not written
    :raises Cancelled: when `cancelled` came true
    """
    film_size = script_size(facts)
    picture = picture_of(version, film_size) if version else film_size
    lines = (height or picture.height) // 2 * 2
    # By the shape that is shown: the pixels of an anamorphic film are no squares.
    width = round(picture.width * lines / picture.height / 2) * 2
    deep = facts.video_codec is not None and is_ten_bit(film)
    sounds = ["-map", "0:a?" if facts.video_codec else "0:a:0"]
    script = render_script(captions, sheet, picture, facts.frame_rate)
    with script_laid_out(script, output) as folder:
        shown = [f"scale={width}:{lines}", "setsar=1"]
        if version:
            shown = framing_filters(version, film_size, picture, lines / picture.height, folder)
        drawn = ",".join([*shown, LAID_OUT])
        if facts.video_codec:
            source = [*film_input(film), "-map", "0:v:0"]
        else:
            seconds = facts.duration_ms / 1000
            dark = plain_picture(film_size, FrameRate(25), SOUND_ONLY_COLOUR, seconds)
            source = [*film_input(film), *dark, "-map", "1:v:0"]
        arguments = [
            *source, *sounds, "-sn", "-dn", "-vf", drawn,
            "-c:v", "libx264", "-preset", "medium", "-crf", str(crf),
            "-pix_fmt", "yuv420p10le" if deep else "yuv420p",
            *sound_codecs(film), "-movflags", "+faststart",
        ]  # fmt: skip
        run_with_progress(
            arguments, output, facts.duration_ms, progress, cancelled, folder, fonts_alone(folder)
        )
