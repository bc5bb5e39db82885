"""What a film is made of."""

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from av.container import InputContainer
from av.error import FFmpegError

from dunlin.core.messages import Message, message
from dunlin.core.timecode import FrameRate
from dunlin.media.ffmpeg import MediaError, open_options

__all__ = [
    "AudioStream",
    "EarlyEnd",
    "Probe",
    "audio_streams",
    "early_end",
    "is_ten_bit",
    "picture_ends_ms",
    "probe",
    "probe_from",
]

_PLAYED_VIDEO = {"mp4": {"h264", "av1", "vp9"}, "webm": {"vp8", "vp9", "av1"}}
_PLAYED_AUDIO = {
    "mp4": {"aac", "mp3", "opus", "flac"},
    "webm": {"opus", "vorbis"},
    "wav": {"pcm_s16le", "pcm_u8", "pcm_f32le", "pcm_s24le"},
    "mp3": {"mp3"},
    "flac": {"flac"},
    "ogg": {"opus", "vorbis", "flac"},
}
# A browser seeks frame by frame only in pictures it can decode at once.
_PLAYED_PIXELS = {"yuv420p", "yuvj420p"}
_LAST_SECONDS = 5
# What stops this long before its film says so is missing.
_CUT_OFF_MS = 1500


@dataclass(frozen=True)
class Probe:
    """A film's figures. Width and height are as shown, after rotation and pixel shape.

    `frame_rate` is the picture's, or 25 where there is no picture or it varies without telling.
    """

    duration_ms: int
    container: str
    video_codec: str | None
    audio_codec: str | None
    width: int
    height: int
    rotation: int
    frame_rate: FrameRate
    frame_rate_varies: bool
    audio_streams: int
    browser_plays: bool


def probe(path: Path) -> Probe:
    """Reads a film's headers.

    :raises MediaError: when it is no film or sound that can be read
    """
    if not path.is_file():
        raise MediaError(message("media.no-file"))
    if path.stat().st_size == 0:
        raise MediaError(message("files.empty"))
    with _opened(path) as film:
        return _probe(film)


def probe_from(stored: dict[str, Any]) -> Probe:
    """The probe that was stored as plain data."""
    return Probe(**(stored | {"frame_rate": FrameRate(**stored["frame_rate"])}))


@dataclass(frozen=True)
class AudioStream:
    """One of a film's sounds; language (ISO 639-2) and title as the container has them."""

    language: str | None
    title: str | None
    channels: int
    codec: str


def audio_streams(path: Path) -> list[AudioStream]:
    """A film's sounds in their order.

    :raises MediaError: when the file is no film or sound that can be read
    """
    with _opened(path) as film:
        return [
            AudioStream(
                stream.metadata.get("language"),
                stream.metadata.get("title"),
                stream.codec_context.channels,
                stream.codec_context.name,
            )
            for stream in film.streams.audio
        ]


def is_ten_bit(path: Path) -> bool:
    """Whether the picture has more than 8 bits a sample.

    :raises MediaError: when the file is no film or sound that can be read
    """
    with _opened(path) as film:
        pictures = _pictures(film)
        return bool(pictures) and pictures[0].format.components[0].bits > 8


def picture_ends_ms(path: Path) -> int:
    """Where the last picture that can be read ends: before the film's own end where the file was cut
    off; 0 where there is none.

    Looks at the film's last seconds alone.

    :raises MediaError: when the file is no film or sound that can be read
    """
    ends = 0
    with _opened(path) as film:
        pictures = _pictures(film)
        if not pictures:
            return 0
        with suppress(FFmpegError, EOFError):
            film.seek(max((film.duration or 0) - _LAST_SECONDS * av.time_base, 0))
            for packet in film.demux(pictures[0]):
                if packet.pts is not None:
                    end = (packet.pts + (packet.duration or 0)) * packet.time_base
                    ends = max(ends, round(end * 1000))
    return ends


@dataclass(frozen=True)
class EarlyEnd:
    """A part of a film that is missing."""

    at_ms: int
    """Where what can be read ends."""
    of_sound: bool
    """Whether the picture goes on without the sound."""

    @property
    def message(self) -> Message:
        code = "film.sound-ends-early" if self.of_sound else "film.ends-early"
        return message(code, at=f"{self.at_ms / 1000:.1f}")


def early_end(
    duration_ms: int, sound_ends_ms: int | None, picture_ends_ms: int | None
) -> EarlyEnd | None:
    """What is missing of a film; None where it can be read to its end.

    :param sound_ends_ms: where decoding the sound came to its end; None where there is none or nobody tried
    :param picture_ends_ms: as `picture_ends_ms` tells it; None or 0 where there is none
    """
    nearly = duration_ms - _CUT_OFF_MS
    if sound_ends_ms is None:
        is_early = bool(picture_ends_ms) and (picture_ends_ms or 0) < nearly
        return EarlyEnd(picture_ends_ms or 0, of_sound=False) if is_early else None
    if sound_ends_ms >= nearly:
        return None
    return EarlyEnd(sound_ends_ms, of_sound=(picture_ends_ms or 0) >= nearly)


@contextmanager
def _opened(path: Path) -> Iterator[InputContainer]:
    try:
        with av.open(
            str(path.absolute()), options=open_options(), metadata_errors="replace"
        ) as film:
            yield film
    except (FFmpegError, OSError, ValueError, EOFError) as error:
        raise MediaError(_reason(error)) from None


def _reason(error: Exception) -> Message:
    # A container that is not on the list of those that are read is an invalid argument to ffmpeg.
    if isinstance(error, (av.error.InvalidDataError, av.error.ArgumentError)):
        return message("media.not-readable")
    return message("media.not-opened", reason=getattr(error, "strerror", None) or error)


def _probe(film: InputContainer) -> Probe:
    pictures = _pictures(film)
    sounds = list(film.streams.audio)
    if not pictures and not sounds:
        raise MediaError(message("media.neither"))
    picture = pictures[0] if pictures else None
    sound = sounds[0] if sounds else None
    rate, varies = _frame_rate(picture)
    width, height, rotation = _shown_size(film, picture) if picture else (0, 0, 0)
    container = _container(film.format.name, picture is not None)
    video_codec = picture.codec_context.name if picture else None
    audio_codec = sound.codec_context.name if sound else None
    return Probe(
        duration_ms=_duration_ms(film),
        container=container,
        video_codec=video_codec,
        audio_codec=audio_codec,
        width=width,
        height=height,
        rotation=rotation,
        frame_rate=rate,
        frame_rate_varies=varies,
        audio_streams=len(sounds),
        browser_plays=(
            (picture is None or video_codec in _PLAYED_VIDEO.get(container, ()))
            and (picture is None or picture.codec_context.pix_fmt in _PLAYED_PIXELS)
            and (sound is None or audio_codec in _PLAYED_AUDIO.get(container, ()))
        ),
    )


def _pictures(film: InputContainer) -> list[av.VideoStream]:
    # A cover picture in a sound file is no film.
    cover = av.stream.Disposition.attached_pic
    return [stream for stream in film.streams.video if not stream.disposition & cover]


def _duration_ms(film: InputContainer) -> int:
    if film.duration:
        return round(film.duration / 1000)
    ends = [
        s.duration * s.time_base for s in film.streams if s.duration and s.time_base is not None
    ]
    return round(max(ends, default=Fraction(0)) * 1000)


def _container(names: str, has_picture: bool) -> str:
    first = names.split(",")[0]
    if first in ("mov", "mp4"):
        return "mp4"
    return "webm" if first == "matroska" and has_picture else first


def _frame_rate(picture: "av.VideoStream | None") -> tuple[FrameRate, bool]:
    """The rate, and whether the frames are unevenly spaced."""
    if picture is None:
        return FrameRate(25), False
    average, base = picture.average_rate, picture.base_rate
    rate = average or base
    if rate is None or not 1 <= rate <= 480:
        return FrameRate(25), True
    varies = bool(average and base and abs(average - base) / base > Fraction(1, 200))
    return _usual_rate(Fraction(rate)), varies


def _usual_rate(rate: Fraction) -> FrameRate:
    """The rate films are made at that is nearest, where one is within a two-thousandth."""
    usual = [Fraction(n) for n in (24, 25, 30, 48, 50, 60, 12, 15)]
    usual += [Fraction(n * 1000, 1001) for n in (24, 30, 48, 60)]
    nearest = min(usual, key=lambda candidate: abs(candidate - rate))
    chosen = (
        nearest if abs(nearest - rate) / rate < Fraction(1, 2000) else rate.limit_denominator(1001)
    )
    return FrameRate(chosen.numerator, chosen.denominator)


def _shown_size(film: InputContainer, picture: "av.VideoStream") -> tuple[int, int, int]:
    width, height = picture.codec_context.width, picture.codec_context.height
    shape = picture.sample_aspect_ratio
    if shape:
        width = round(width * shape)
    rotation = _rotation(film, picture)
    return (height, width, rotation) if rotation % 180 else (width, height, rotation)


def _rotation(film: InputContainer, picture: "av.VideoStream") -> int:
    """Degrees the picture is turned by when it is shown; a phone's film tells by its first frame."""
    try:
        frame = next(film.decode(picture))
    except (FFmpegError, StopIteration, EOFError):
        return 0
    return round(frame.rotation) % 360
