"""Caption tracks that a film brings along: which there are, and their captions as files."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from types import MappingProxyType

import av
import pycountry
from av.error import FFmpegError

from dunlin.core.messages import message
from dunlin.media.ffmpeg import MediaError, film_input, open_options, run_with_progress

__all__ = ["TrackInside", "tracks_inside", "write_track_inside"]

# Of text alone: others are pictures of letters. The format of each is one that loses least of it.
_FORMATS: Mapping[str, str] = MappingProxyType({
    "mov_text": "srt", "subrip": "srt", "text": "srt", "ass": "ass", "ssa": "ass", "webvtt": "webvtt",
})  # fmt: skip
_ENDINGS = {"srt": ".srt", "ass": ".ass", "webvtt": ".vtt"}
_ANY_HANDLER = "SubtitleHandler"
"""What ffmpeg calls it where a track has no title."""
_MOST = 200
"""Streams that are looked at; films have a few dozen."""


@dataclass(frozen=True)
class TrackInside:
    """A caption track in a film."""

    stream: int
    """Its place among the film's caption tracks, from 0."""
    codec: str
    language: str | None
    """BCP 47 tag; None where the film says none."""
    title: str
    is_default: bool
    is_forced: bool
    format: str | None
    """Name of the caption format it is read as; None where it is pictures of letters."""


def tracks_inside(film: Path) -> list[TrackInside]:
    """The caption tracks of a film, in their order.

    :raises MediaError: when the file is no film or sound that can be read
    """
    try:
        with av.open(
            str(film.absolute()), options=open_options(), metadata_errors="replace"
        ) as opened:
            return [
                _track(number, stream)
                for number, stream in enumerate(opened.streams.subtitles[:_MOST])
            ]
    except (FFmpegError, OSError, ValueError, EOFError):
        raise MediaError(message("media.not-readable")) from None


def _track(number: int, stream: "av.subtitles.stream.SubtitleStream") -> TrackInside:
    flags = av.stream.Disposition(stream.disposition)
    codec = stream.codec_context.name
    return TrackInside(
        number,
        codec,
        _tag(stream.metadata.get("language")),
        _title(stream.metadata)[:200],
        bool(flags & av.stream.Disposition.default),
        bool(flags & av.stream.Disposition.forced),
        _FORMATS.get(codec),
    )


def _title(metadata: Mapping[str, str]) -> str:
    """MP4 has titles as names of what handles a track; that of no track in particular is none."""
    handler = metadata.get("handler_name", "")
    return metadata.get("title") or ("" if handler == _ANY_HANDLER else handler)


def _tag(code: str | None) -> str | None:
    """The shortest tag of a language by its three letters, as ISO 639-2 has them."""
    if not code or code == "und":
        return None
    found = pycountry.languages.get(alpha_3=code) or pycountry.languages.get(bibliographic=code)
    return str(getattr(found, "alpha_2", None) or found.alpha_3) if found else None


def write_track_inside(
    film: Path,
    track: TrackInside,
    duration_ms: int,
    folder: Path,
    progress: Callable[[float], None] = lambda part: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Writes a track's captions as a file into a folder; all of the film is read for it.

    :raises MediaError: when it cannot be read, or is pictures of letters
    :raises Cancelled: when `cancelled` came true
    """
    if track.format is None:
        raise MediaError(message("media.captions-are-pictures", codec=track.codec))
    output = folder / f"track-{track.stream}{_ENDINGS[track.format]}"
    arguments = [*film_input(film), "-map", f"0:s:{track.stream}", "-vn", "-an", "-dn"]
    run_with_progress(arguments, output, duration_ms, progress, cancelled)
    return output
