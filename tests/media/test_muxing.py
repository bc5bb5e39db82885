"""Films with caption tracks inside, read by ffmpeg's own libraries: which tracks, in which language, shown when, and word for word."""

import subprocess
from collections.abc import Mapping
from pathlib import Path

import av
import imageio_ffmpeg
import pytest

from dunlin.core.captions import Caption, Span
from dunlin.core.formats import FORMATS, Context, Document, written
from dunlin.core.styles.shelf import LATIN, family_files
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.muxing import CONTAINERS, CodedTrack, caption_format, write_with_tracks
from dunlin.media.probe import probe
from dunlin.media.tracks_inside import tracks_inside
from tests.conftest import ffmpeg

SAID = {"de": "Häng sie hoch.", "ar": "علّقها عاليًا.", "pt-BR": "Pendure-o no alto."}


def coded(container: str, language: str, **more) -> CodedTrack:
    format_ = FORMATS[caption_format(container)]
    captions = (
        Caption("a", 200, 900, (Span(SAID[language]),)),
        Caption("b", 1000, 1800, (Span("412"),)),
    )
    data = written(Document(captions, language), format_, Context())
    fonts = tuple(family_files(LATIN)[:2]) if container == "mkv" else ()
    return CodedTrack(data, format_.ENDINGS[0], language, fonts=fonts, **more)


def read_out(film: Path, number: int) -> str:
    """A track of a film as SubRip, as ffmpeg reads it."""
    command = [imageio_ffmpeg.get_ffmpeg_exe(), "-v", "error", "-i", str(film), "-map", f"0:s:{number}", "-f", "srt", "-"]  # fmt: skip
    return subprocess.run(command, capture_output=True, check=True, text=True).stdout


@pytest.mark.parametrize("container", CONTAINERS)
def test_tracks_are_inside_with_language_title_and_flags(
    container: str, films: Mapping[str, Path], tmp_path: Path
) -> None:
    film, output = films["small"], tmp_path / f"out.{container}"
    tracks = [
        coded(container, "de", title="For the harbour", is_default=True),
        coded(container, "ar"),
        coded(container, "pt-BR", is_forced=True),
    ]
    parts: list[float] = []
    write_with_tracks(film, probe(film), tracks, output, parts.append)
    with av.open(str(output)) as made:
        subtitles = made.streams.subtitles
        assert [one.metadata.get("language") for one in subtitles] == (
            ["ger", "ara", "por"]
            if container == "mkv"
            else ["deu", "ara", "por"]
            if container == "mp4"
            else [one.metadata.get("language") for one in subtitles]
        )
        flags = [one.disposition for one in subtitles]
        assert [bool(flag & av.stream.Disposition.default) for flag in flags] == [
            True,
            False,
            False,
        ]
        assert bool(flags[2] & av.stream.Disposition.forced)
        if container != "webm":
            # Copied, not made anew: the sizes of its packets are the film's.
            with av.open(str(film)) as original:
                sizes = [[packet.size for packet in one.demux(video=0)] for one in (original, made)]
            assert sizes[0] == sizes[1]
    for number, language in enumerate(SAID):
        said = read_out(output, number)
        assert SAID[language] in said
        assert "412" in said
        assert "00:00:01,000 --> 00:00:01,800" in said
    assert not list(tmp_path.glob(".*part"))


def test_matroska_brings_its_fonts_along(films: Mapping[str, Path], tmp_path: Path) -> None:
    output = tmp_path / "out.mkv"
    write_with_tracks(films["short"], probe(films["short"]), [coded("mkv", "de")], output)
    with av.open(str(output)) as made:
        kinds = [one for one in made.streams if one.type == "attachment"]
    assert len(kinds) == 2


def test_what_a_container_does_not_hold_is_made_anew(tmp_path: Path) -> None:
    film, output = tmp_path / "odd.mov", tmp_path / "out.mp4"
    ffmpeg("-f", "lavfi", "-i", "testsrc=s=64x64:d=1:r=25", "-f", "lavfi", "-i", "sine=d=1", "-c:v", "prores", "-c:a", "pcm_s16le", film)  # fmt: skip
    write_with_tracks(film, probe(film), [coded("mp4", "de")], output)
    with av.open(str(output)) as made:
        codecs = [
            stream.codec_context.name for stream in (*made.streams.video, *made.streams.audio)
        ]
    assert codecs == ["h264", "aac"]


def test_nothing_half_written_stays_when_it_is_called_off(
    films: Mapping[str, Path], tmp_path: Path
) -> None:
    film = films["short"]
    with pytest.raises(Cancelled):
        write_with_tracks(
            film, probe(film), [coded("webm", "de")], tmp_path / "out.webm", cancelled=lambda: True
        )
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize("container", CONTAINERS)
def test_thirty_tracks_go_into_a_turned_film_with_a_dozen_sounds(
    container: str, turned: Path, tmp_path: Path
) -> None:
    output = tmp_path / f"out.{container}"
    tracks = [coded(container, "de", title=f"Reading {n}") for n in range(30)]
    write_with_tracks(turned, probe(turned), tracks, output)
    facts = probe(output)
    assert (facts.width, facts.height, facts.audio_streams) == (90, 160, 12)
    inside = tracks_inside(output)
    assert len(inside) == 30
    assert [one.title for one in inside][::29] == ["Reading 0", "Reading 29"]
    assert SAID["de"] in read_out(output, 29)
