"""Films as they are asked for: codec, frame rate, passage, sound; and captions alone."""

from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from dunlin.core.captions import Caption, spans_of
from dunlin.core.delivery.alone import Transparent
from dunlin.core.delivery.encoding import Codec, Encoding, Passage, SoundWay, on_frames
from dunlin.core.messages import BadInput
from dunlin.core.styles import Script, sheet_with
from dunlin.core.timecode import FrameRate, first_frame_from
from dunlin.media.alone import write_alone
from dunlin.media.burn import burn
from dunlin.media.probe import audio_streams, probe
from tests.conftest import ffmpeg

SHEET = sheet_with({}, None).in_language("en")
RATES = [FrameRate(25), FrameRate(30000, 1001), FrameRate(24000, 1001), FrameRate(50)]


def pictures(film: Path) -> Iterator[np.ndarray]:
    with av.open(str(film)) as opened:
        for frame in opened.decode(video=0):
            yield frame.to_ndarray(format="gray")


@pytest.fixture(scope="module")
def grey(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Four seconds of grey at 25 frames, with two sounds."""
    film = tmp_path_factory.mktemp("grey") / "grey.mp4"
    ffmpeg(
        "-f", "lavfi", "-i", "color=gray:s=320x180:r=25:d=4", "-f", "lavfi", "-i", "sine=440:d=4",
        "-f", "lavfi", "-i", "sine=880:d=4", "-map", "0", "-map", "1", "-map", "2", "-c:v", "libx264",
        "-preset", "ultrafast", "-pix_fmt", "yuv420p", "-c:a", "aac", str(film),
    )  # fmt: skip
    return film


def lit(film: Path) -> list[bool]:
    """Of each frame, whether white letters are in it."""
    return [bool((picture > 215).sum() > 20) for picture in pictures(film)]


@pytest.mark.parametrize(
    ("codec", "name"), [("h264", "h264"), ("hevc", "hevc"), ("vp9", "vp9"), ("prores", "prores")]
)
def test_each_codec_writes_what_it_says(
    codec: Codec, name: str, grey: Path, tmp_path: Path
) -> None:
    encoding = Encoding(codec, "best", height=360)
    film = tmp_path / f"film{encoding.ending}"
    burn(grey, probe(grey), [Caption("a", 1000, 2000, spans_of("OOO"))], SHEET, film, encoding)
    facts = probe(film)
    assert (facts.video_codec, facts.width, facts.height) == (name, 640, 360)
    assert (facts.audio_streams, facts.frame_rate) == (2, FrameRate(25))
    assert abs(facts.duration_ms - 4000) <= 40
    shown = lit(film)
    assert [n for n, there in enumerate(shown) if there] == list(range(25, 50))


@pytest.mark.parametrize("rate", RATES, ids=lambda rate: str(rate.fraction))
def test_captions_are_on_the_frames_of_the_rate_that_is_written(
    rate: FrameRate, grey: Path, tmp_path: Path
) -> None:
    film = tmp_path / "film.mp4"
    captions = [
        Caption("a", 1001, 1990, spans_of("OOO")),
        Caption("b", 2503, 3207, spans_of("OOO")),
    ]
    burn(grey, probe(grey), captions, SHEET, film, Encoding(crf=10, rate=rate))
    assert probe(film).frame_rate == rate
    wanted = {
        n
        for c in captions
        for n in range(first_frame_from(c.in_ms, rate), first_frame_from(c.out_ms, rate))
    }
    assert {n for n, there in enumerate(lit(film)) if there} == wanted


def test_a_passage_begins_and_ends_on_its_frames(grey: Path, tmp_path: Path) -> None:
    film = tmp_path / "film.mp4"
    captions = [Caption("a", 1000, 2000, spans_of("OOO"))]
    burn(grey, probe(grey), captions, SHEET, film, Encoding(crf=10, passage=Passage(790, 2410)))
    # From the frame at 800 ms up to that at 2,440 ms: 41 frames, lit from the fifth to the 29th.
    shown = lit(film)
    assert len(shown) == 41
    assert [n for n, there in enumerate(shown) if there] == list(range(5, 30))
    with av.open(str(film)) as opened:
        for sound in opened.streams.audio:
            assert abs(float(sound.duration * sound.time_base) - 1.64) < 0.06
        assert opened.streams.video[0].start_time == 0


@pytest.mark.parametrize(
    ("way", "sounds"), [("kept", ["aac", "aac"]), ("anew", ["aac", "aac"]), ("none", [])]
)
def test_sound_is_kept_written_anew_or_left_out(
    way: SoundWay, sounds: list[str], grey: Path, tmp_path: Path
) -> None:
    film = tmp_path / "film.mp4"
    burn(grey, probe(grey), [], SHEET, film, Encoding(crf=40, height=90, sound=way))
    assert [sound.codec for sound in audio_streams(film)] == sounds
    kept = _packets(film) == _packets(grey)
    assert kept is (way == "kept") or way == "none"


def _packets(film: Path) -> list[bytes]:
    with av.open(str(film)) as opened:
        if not opened.streams.audio:
            return []
        return [bytes(packet) for packet in opened.demux(audio=0) if packet.size]


@pytest.mark.parametrize("wanted", [Passage(2000, 2000), Passage(4000, 5000), Passage(3000, 1000)])
def test_nothing_of_the_film_is_no_passage(wanted: Passage) -> None:
    with pytest.raises(BadInput, match="nothing of the film"):
        on_frames(wanted, 4000, FrameRate(25))


def test_prores_has_no_rate_factor(grey: Path, tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="no constant rate factor"):
        burn(grey, probe(grey), [], SHEET, tmp_path / "x.mov", Encoding("prores", crf=20))
    assert not list(tmp_path.iterdir())


@pytest.mark.parametrize("kind", ["prores", "vp9"])
def test_captions_alone_are_on_their_frames_and_nothing_is_elsewhere(
    kind: Transparent, tmp_path: Path
) -> None:
    rate = FrameRate(30000, 1001)
    film = tmp_path / ("film.mov" if kind == "prores" else "film.webm")
    captions = [Caption("a", 1001, 1702, spans_of("OOO"))]
    passage = on_frames(Passage(600, 2000), 4000, rate)
    write_alone(captions, SHEET, Script(320, 180), rate, passage, kind, film)
    decoder = "libvpx-vp9" if kind == "vp9" else "prores"
    shown = tmp_path / "over.mp4"
    # Over red: where nothing is drawn, red is what is seen.
    ffmpeg(
        "-f", "lavfi", "-i", "color=red:s=320x180:r=30000/1001:d=3", "-c:v", decoder, "-i", str(film),
        "-filter_complex", "[1]setpts=N*1001/30000/TB[a];[0][a]overlay=eof_action=pass", "-c:v", "libx264", "-crf", "4", str(shown),
    )  # fmt: skip
    assert probe(film).frame_rate == rate
    first = first_frame_from(600, rate)
    wanted = range(first_frame_from(1001, rate) - first, first_frame_from(1702, rate) - first)
    assert len(list(pictures(film))) == first_frame_from(2000, rate) - first
    there = lit(shown)
    assert [n for n, yes in enumerate(there) if yes] == list(wanted)
    untouched = next(pictures(shown))
    assert untouched.max() < 100


def test_captions_alone_as_pictures_are_numbered_and_have_transparency(tmp_path: Path) -> None:
    folder = tmp_path / "titles"
    captions = [Caption("a", 200, 400, spans_of("OOO"))]
    picture = Script(320, 180)
    write_alone(captions, SHEET, picture, FrameRate(10), Passage(0, 1000), "png", folder)
    assert [p.name for p in tmp_path.iterdir()] == ["titles"]
    files = sorted(folder.iterdir())
    assert [file.name for file in files] == [f"{n:06}.png" for n in range(1, 11)]
    alpha = []
    for file in files:
        with av.open(str(file)) as opened:
            alpha.append(next(opened.decode(video=0)).to_ndarray(format="rgba")[..., 3].max())
    assert [bool(value) for value in alpha] == [2 <= n < 4 for n in range(10)]


def test_where_a_film_is_odd_its_picture_is_even(tmp_path: Path) -> None:
    odd = tmp_path / "odd.mkv"
    ffmpeg("-f", "lavfi", "-i", "color=gray:s=321x181:r=25:d=1", "-c:v", "ffv1", str(odd))
    for codec in ("h264", "vp9", "prores"):
        encoding = Encoding(codec, "small")
        film = tmp_path / f"out{encoding.ending}"
        burn(odd, probe(odd), [], SHEET, film, encoding)
        facts = probe(film)
        assert (facts.width, facts.height) == (320, 180)
        assert Fraction(facts.frame_rate.fraction) == 25


def test_a_turned_film_with_a_dozen_sounds_stays_upright_and_keeps_them(
    turned: Path, tmp_path: Path
) -> None:
    film = tmp_path / "out.mp4"
    caption = Caption("a", 200, 600, spans_of("OOO"))
    burn(turned, probe(turned), [caption], SHEET, film)
    facts = probe(film)
    assert (facts.width, facts.height, facts.audio_streams) == (90, 160, 12)
    # The letters stand at the bottom of the picture as it is shown.
    shown = list(pictures(film))[10] > 215
    assert shown[80:].any()
    assert not shown[:80].any()
