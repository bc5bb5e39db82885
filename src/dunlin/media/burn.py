"""Captions drawn into the film."""

from collections.abc import Callable, Iterable
from pathlib import Path

from dunlin.core.captions import Caption
from dunlin.core.delivery.encoding import AS_THE_FILM, Encoding, Passage, on_frames
from dunlin.core.styles import Script, Style, StyleSheet, render_script
from dunlin.core.timecode import FrameRate, frame_at
from dunlin.core.versions.model import Version
from dunlin.core.versions.window import picture_of
from dunlin.media.encoding import finishing, picture_codec, sound_codecs
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.fonts import LAID_OUT, fonts_alone, script_laid_out
from dunlin.media.framing import framing_filters
from dunlin.media.probe import Probe, is_ten_bit

__all__ = [
    "SOUND_ONLY_COLOUR",
    "burn",
    "plain_picture",
    "scaled",
    "script_size",
]

_SOUND_ONLY = (1280, 720)
SOUND_ONLY_COLOUR = "#1D2427"
"""Of the picture that sound alone gets."""

_BEFORE_FRAME_SECONDS = 0.001


def script_size(facts: Probe) -> Script:
    """The picture that captions are laid out on: the film's, or a plain one for sound alone."""
    width, height = (facts.width, facts.height) if facts.width else _SOUND_ONLY
    return Script(width // 2 * 2, height // 2 * 2)


def scaled(picture: Script, lines: int) -> Script:
    """A picture in so many lines, in its shape; both sides are even, as codecs ask."""
    lines = lines // 2 * 2
    return Script(round(picture.width * lines / picture.height / 2) * 2, lines)


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


def burn(
    film: Path,
    facts: Probe,
    captions: Iterable[Caption],
    sheet: StyleSheet | Style,
    output: Path,
    encoding: Encoding = AS_THE_FILM,
    *,
    version: Version | None = None,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes a film with the captions in the picture, and all sounds; sound alone gets a dark
    picture. Pictures of 10 bits stay so.

    :param output: with the ending of its encoding
    :param version: what of the picture is kept, and how; captions are laid out on that
    :raises BadInput: when no frame lies in the passage
    :raises MediaError: when the film cannot be decoded or the file not written
    :raises Cancelled: when `cancelled` came true
    """
    film_size = script_size(facts)
    picture = picture_of(version, film_size) if version else film_size
    # By the shape that is shown: the pixels of an anamorphic film are no squares.
    written = scaled(picture, encoding.height or picture.height)
    deep = facts.video_codec is not None and is_ten_bit(film)
    passage = on_frames(encoding.passage, facts.duration_ms, facts.frame_rate)
    rate = encoding.rate or (facts.frame_rate if facts.video_codec else FrameRate(25))
    sounds = ["-map", "0:a?" if facts.video_codec else "0:a:0"]
    script = render_script(captions, sheet, picture, encoding.rate or facts.frame_rate)
    with script_laid_out(script, output) as folder:
        shown = [f"scale={written.width}:{written.height}", "setsar=1"]
        if version:
            shown = framing_filters(
                version, film_size, picture, written.height / picture.height, folder
            )
        # Before the captions come, so that each begins and ends on a frame of those that are written.
        frames = [f"fps={rate.numerator}/{rate.denominator}"] if encoding.rate else []
        drawn = ",".join(_in_film_time([*shown, *frames, LAID_OUT], encoding, passage))
        source = _from(passage, facts, film) if encoding.passage else film_input(film)
        if facts.video_codec:
            source = [*source, "-map", "0:v:0"]
        else:
            seconds = passage.length_ms / 1000
            dark = plain_picture(film_size, rate, SOUND_ONLY_COLOUR, seconds)
            source = [*source, *dark, "-map", "1:v:0"]
        heard = (
            ["-an"]
            if encoding.sound == "none"
            else [*sounds, *sound_codecs(film, output.suffix, anew=encoding.sound == "anew")]
        )
        arguments = [
            *source, "-sn", "-dn", "-vf", drawn,
            *picture_codec(encoding, deep=deep), *heard,
            *finishing(output.suffix, fast_start=encoding.fast_start),
        ]  # fmt: skip
        length = passage.length_ms
        run_with_progress(
            arguments, output, length, progress, cancelled, folder, fonts_alone(folder)
        )


def _from(passage: Passage, facts: Probe, film: Path) -> list[str]:
    """A passage of a film as what is read: sought by the exact time of its first frame, a little before, as times of
    frames are rounded in files."""
    rate = facts.frame_rate
    first = frame_at(passage.from_ms, rate) * rate.denominator / rate.numerator
    begins = max(first - _BEFORE_FRAME_SECONDS, 0)
    length = passage.length_ms / 1000
    return ["-ss", f"{begins:.6f}", "-t", f"{length:.6f}", *film_input(film)]


def _in_film_time(filters: list[str], encoding: Encoding, passage: Passage) -> list[str]:
    """Filters that go by the film's own times, of a passage whose times begin at nothing."""
    if encoding.passage is None or not passage.from_ms:
        return filters
    begins = f"{passage.from_ms / 1000:.3f}/TB"
    return [f"setpts=PTS+{begins}", *filters, f"setpts=PTS-{begins}"]
