"""Captions drawn into the film."""

import tempfile
from collections.abc import Callable, Iterable
from pathlib import Path

from dunlin.core.captions import Caption
from dunlin.core.styles import Script, Style, StyleSheet, render_script
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.fonts import fonts_alone, lay_out_fonts
from dunlin.media.probe import Probe, audio_streams, is_ten_bit

__all__ = ["DEFAULT_CRF", "burn", "script_size"]

DEFAULT_CRF = 20
"""Constant rate factor of x264 at which a captioned copy looks as the film does."""

_SOUND_ONLY = (1280, 720)

# Sounds that MP4 holds and its players know (ISO/IEC 14496-14, ETSI TS 102 366).
_COPIED_SOUND = frozenset({"aac", "mp3", "ac3", "eac3"})


def script_size(facts: Probe) -> Script:
    """The picture that captions are laid out on: the film's, or a plain one for sound alone."""
    width, height = (facts.width, facts.height) if facts.width else _SOUND_ONLY
    return Script(width // 2 * 2, height // 2 * 2)


def _sound_codecs(film: Path) -> list[str]:
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
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes an MP4 (H.264) with the captions in the picture, and all sounds; sound alone gets a dark
    picture. Pictures of 10 bits stay so.

    :param crf: x264's constant rate factor, from 0, lossless, to 51
    :param height: lines of the picture, if it shall be scaled
    :raises MediaError: when the film cannot be decoded or the file not written
    :raises Cancelled: when `cancelled` came true
    """
    picture = script_size(facts)
    lines = (height or picture.height) // 2 * 2
    # By the shape that is shown: the pixels of an anamorphic film are no squares.
    width = round(picture.width * lines / picture.height / 2) * 2
    shown = f"scale={width}:{lines},setsar=1"
    deep = facts.video_codec is not None and is_ten_bit(film)
    sounds = ["-map", "0:a?" if facts.video_codec else "0:a:0"]
    # Beside the result, where it is found and removed when whoever burns is killed.
    with tempfile.TemporaryDirectory(
        prefix=f".{output.stem}-", suffix=".part", dir=output.absolute().parent
    ) as name:
        folder = Path(name)
        # Plain names in the folder it runs in: nothing to escape in a filter's argument.
        script = render_script(captions, sheet, picture, facts.frame_rate)
        (folder / "captions.ass").write_text(script, "utf-8")
        lay_out_fonts(script, folder / "fonts")
        drawn = f"{shown},ass=captions.ass:fontsdir=fonts"
        if facts.video_codec:
            source = [*film_input(film), "-map", "0:v:0"]
        else:
            seconds = facts.duration_ms / 1000
            size = f"{picture.width}x{picture.height}"
            source = [
                *film_input(film), "-f", "lavfi",
                "-i", f"color=c=#1D2427:s={size}:r=25:d={seconds:.3f}",
                "-map", "1:v:0",
            ]  # fmt: skip
        arguments = [
            *source, *sounds, "-sn", "-dn", "-vf", drawn,
            "-c:v", "libx264", "-preset", "medium", "-crf", str(crf),
            "-pix_fmt", "yuv420p10le" if deep else "yuv420p",
            *_sound_codecs(film), "-movflags", "+faststart",
        ]  # fmt: skip
        run_with_progress(
            arguments, output, facts.duration_ms, progress, cancelled, folder, fonts_alone(folder)
        )
