"""Captions for streams: WebVTT in segments, with playlists (HTTP Live Streaming, RFC 8216)."""

from collections.abc import Sequence
from dataclasses import replace

from babel import Locale, UnknownLocaleError

from dunlin.core.delivery.names import told_apart
from dunlin.core.formats import FORMATS, Context, Document, reduced
from dunlin.core.timecode import FrameRate

__all__ = ["playlist_files"]

# Times of captions are those of the film, whose first is nothing in the stream, too (RFC 8216, 3.5).
_TIMES = b"X-TIMESTAMP-MAP=MPEGTS:0,LOCAL:00:00:00.000"


def playlist_files(
    documents: Sequence[tuple[str, Document]], length_ms: int, segment_ms: int, rate: FrameRate
) -> dict[str, bytes]:
    """The files of a stream's captions, by their paths: a folder a track, with segments and their playlist, and
    `captions.m3u8` with the lines for the stream's own playlist.

    :param documents: tracks with their names, in the order in which players list them; the first is shown by default
    :param length_ms: of the stream; the last segment ends there
    """
    folders = told_apart(f"{document.language or 'und'}." for _, document in documents)
    files: dict[str, bytes] = {}
    lines = ["#EXTM3U", "#EXT-X-VERSION:3"]
    for number, ((name, document), folder) in enumerate(zip(documents, folders, strict=True)):
        folder = folder.rstrip(".")
        files |= {
            f"{folder}/{path}": data
            for path, data in _of_track(document, length_ms, segment_ms, rate).items()
        }
        language = document.language or "und"
        shown = "YES" if number == 0 else "NO"
        called = _quoted(", ".join(part for part in (_language_name(language), name) if part))
        lines.append(
            f'#EXT-X-MEDIA:TYPE=SUBTITLES,GROUP-ID="captions",NAME="{called}",LANGUAGE="{language}",'
            f'DEFAULT={shown},AUTOSELECT=YES,FORCED=NO,URI="{folder}/captions.m3u8"'
        )
    return {"captions.m3u8": _text(lines)} | files


def _quoted(text: str) -> str:
    """A text that stands between quotation marks, in which it may have none, nor line ends (RFC 8216, 4.2)."""
    return " ".join(text.replace('"', "'").split())


def _language_name(language: str) -> str:
    """What the language calls itself; its code where nobody knows."""
    try:
        return Locale.parse(language, sep="-").get_display_name() or language
    except (UnknownLocaleError, ValueError):
        return language


def _of_track(
    document: Document, length_ms: int, segment_ms: int, rate: FrameRate
) -> dict[str, bytes]:
    format_ = FORMATS["webvtt"]
    held = reduced(document, format_, rate)
    count = max(-(-length_ms // segment_ms), 1)
    lines = [
        "#EXTM3U",
        "#EXT-X-VERSION:3",
        f"#EXT-X-TARGETDURATION:{-(-segment_ms // 1000)}",
        "#EXT-X-MEDIA-SEQUENCE:0",
        "#EXT-X-PLAYLIST-TYPE:VOD",
    ]
    files: dict[str, bytes] = {}
    digits = max(len(str(count)), 5)
    # A caption is in every segment during which it is shown.
    shown: list[list[int]] = [[] for _ in range(count)]
    for index, caption in enumerate(held.captions):
        last = min((max(caption.out_ms, caption.in_ms + 1) - 1) // segment_ms, count - 1)
        for segment in range(min(caption.in_ms // segment_ms, count - 1), last + 1):
            shown[segment].append(index)
    for number, within in enumerate(shown):
        part = replace(held, captions=tuple(held.captions[index] for index in within))
        data = format_.write(part, Context(rate))
        name = f"{number + 1:0{digits}}.vtt"
        # Readers that put segments together need an empty line behind the last caption.
        files[name] = data.replace(b"\n", b"\n" + _TIMES + b"\n", 1) + b"\n"
        seconds = min(segment_ms, length_ms - number * segment_ms) / 1000
        lines += [f"#EXTINF:{max(seconds, 0.001):.3f},", name]
    return {"captions.m3u8": _text([*lines, "#EXT-X-ENDLIST"])} | files


def _text(lines: Sequence[str]) -> bytes:
    return ("\n".join(lines) + "\n").encode()
