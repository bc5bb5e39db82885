"""A film with caption tracks inside, which players show or hide: nothing is drawn, and where the container holds them, picture and
sound stay as they are."""

import tempfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, TypeAlias, get_args

import pycountry

from dunlin.core.delivery.encoding import Encoding
from dunlin.media.encoding import finishing, picture_codec, sound_codecs
from dunlin.media.ffmpeg import film_input, run_with_progress
from dunlin.media.probe import Probe

__all__ = ["CONTAINERS", "CodedTrack", "Container", "caption_format", "write_with_tracks"]

Container: TypeAlias = Literal["mp4", "mkv", "webm"]
CONTAINERS: tuple[Container, ...] = get_args(Container)

_PICTURES = {"mp4": {"h264", "hevc", "av1", "mpeg4", "vp9"}, "webm": {"vp8", "vp9", "av1"}}
"""Pictures that a container holds and its players know; Matroska holds all."""
_WRITTEN_AS = {"mp4": "mov_text", "mkv": "copy", "webm": "webvtt"}
"""ffmpeg's names: timed text of 3GPP (ISO/IEC 14496-17), what the file has, and WebVTT."""


@dataclass(frozen=True)
class CodedTrack:
    """Captions as a file of a format that goes into the container."""

    data: bytes
    ending: str
    """Of the format: `.srt`, `.ass` or `.vtt`."""
    language: str
    """BCP 47 tag."""
    title: str = ""
    is_default: bool = False
    """Whether players show it unless somebody turns it off."""
    is_forced: bool = False
    """Whether they show it although captions are turned off: it translates what nobody in the film's own language reads."""
    fonts: tuple[Path, ...] = ()
    """Files of the fonts it is drawn with; Matroska alone takes them."""


def caption_format(container: Container) -> str:
    """The name of the caption format that keeps most in a container."""
    return {"mp4": "srt", "mkv": "ass", "webm": "webvtt"}[container]


def write_with_tracks(
    film: Path,
    facts: Probe,
    tracks: Sequence[CodedTrack],
    output: Path,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Writes a film with caption tracks inside; its ending tells the container.

    Pictures and sounds are copied where the container holds them, else made H.264 and AAC, or VP9 and Opus in WebM.

    :raises MediaError: when the film cannot be read or the file not written
    :raises Cancelled: when `cancelled` came true
    """
    container = output.suffix.removeprefix(".")
    with tempfile.TemporaryDirectory(
        prefix=f".{output.stem}-", suffix=".part", dir=output.absolute().parent
    ) as name:
        folder = Path(name)
        inputs, maps, told = [*film_input(film)], ["-map", "0:v:0?", "-map", "0:a?"], []
        for number, track in enumerate(tracks):
            path = folder / f"{number}{track.ending}"
            path.write_bytes(track.data)
            inputs += ["-i", f"file:{path.absolute()}"]
            maps += ["-map", f"{number + 1}:0"]
            told += _told(number, track, container)
        fonts = sorted({font for track in tracks for font in track.fonts}, key=lambda one: one.name)
        arguments = [
            *inputs, *maps, "-dn", "-map_chapters", "0",
            *_picture(facts, container), *sound_codecs(film, output.suffix),
            "-c:s", _WRITTEN_AS[container], *told,
            *(_attached(fonts) if container == "mkv" else ()),
            *finishing(output.suffix, fast_start=True),
        ]  # fmt: skip
        run_with_progress(arguments, output, facts.duration_ms, progress, cancelled)


def _told(number: int, track: CodedTrack, container: str) -> list[str]:
    flags = [
        name for name, on in (("default", track.is_default), ("forced", track.is_forced)) if on
    ]
    told = [f"-metadata:s:s:{number}", f"language={_three_letters(track.language, container)}"]
    if track.title:
        # MP4 has no titles of tracks; players show the name of what handles one (ISO/IEC 14496-12, 8.4.3).
        name = "handler_name" if container == "mp4" else "title"
        told += [f"-metadata:s:s:{number}", f"{name}={track.title}"]
    return [*told, f"-disposition:s:{number}", "+".join(flags) or "0"]


def _three_letters(language: str, container: str) -> str:
    """The code of a language in ISO 639-2: in Matroska the bibliographic one (RFC 9559, 5.1.4.1.19), else the terminological;
    `und` where it has none."""
    base = language.split("-")[0].lower()
    found = pycountry.languages.get(**{"alpha_2" if len(base) == 2 else "alpha_3": base})
    if found is None:
        return "und"
    return str(
        getattr(found, "bibliographic", found.alpha_3) if container == "mkv" else found.alpha_3
    )


def _picture(facts: Probe, container: str) -> list[str]:
    if facts.video_codec is None or container == "mkv" or facts.video_codec in _PICTURES[container]:
        return ["-c:v", "copy"]
    return picture_codec(Encoding("vp9" if container == "webm" else "h264", "best"), deep=False)


def _attached(fonts: Sequence[Path]) -> list[str]:
    arguments: list[str] = []
    for number, font in enumerate(fonts):
        kind = "font/otf" if font.suffix.lower() == ".otf" else "font/ttf"
        arguments += [
            "-attach",
            str(font.absolute()),
            f"-metadata:s:t:{number}",
            f"mimetype={kind}",
        ]
    return arguments
