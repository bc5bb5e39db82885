"""Real films through the real ffmpeg."""

import subprocess
import sys
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import av
import numpy as np
import pytest

from dunlin.core.captions import Caption, spans_of
from dunlin.core.delivery.encoding import Encoding
from dunlin.core.speech import Word
from dunlin.core.styles import STYLES
from dunlin.engines.aligning import words_on_sound
from dunlin.engines.sphinx_aligner import SphinxAligner
from dunlin.media.backdrop import backdrop_in
from dunlin.media.burn import burn
from dunlin.media.drafts import whole_file
from dunlin.media.ffmpeg import Cancelled, MediaError, reading
from dunlin.media.peaks import peaks_info, peaks_slice, write_peaks
from dunlin.media.probe import audio_streams, is_ten_bit, picture_ends_ms, probe
from dunlin.media.proxy import write_proxy
from dunlin.media.shots import shot_changes
from dunlin.media.sound import Hearing, sound_between, speech_blocks
from dunlin.media.speech import find_speech, speech_in
from tests.conftest import Films, ffmpeg


def frame(path: Path, seconds: float) -> np.ndarray:
    with av.open(str(path)) as film:
        for picture in film.decode(video=0):
            if picture.time >= seconds - 0.001:
                return picture.to_ndarray(format="rgb24").astype(int)
    raise AssertionError("no such frame")


def test_peaks_are_the_least_and_greatest_of_the_sound(tmp_path: Path) -> None:
    sound = tmp_path / "tone.wav"
    ffmpeg("-f", "lavfi", "-i", "sine=440:d=3:r=48000,volume=enable='lt(t,1)':volume=0",
           "-c:a", "pcm_s16le", str(sound))  # fmt: skip
    samples = np.concatenate(list(_whole(sound)))
    info = write_peaks(sound, tmp_path, 3000)
    assert info == peaks_info(tmp_path)
    assert info.duration_ms == 3000
    for level, (count, pair_ms) in enumerate(zip(info.counts, info.pair_ms, strict=True)):
        pairs = np.frombuffer(peaks_slice(tmp_path, level, 0, count), np.int8).reshape(-1, 2)
        assert len(pairs) == count
        stretch = round(pair_ms * 48)
        padded = np.resize(samples, (count, stretch))
        whole = len(samples) // stretch
        assert (pairs[:whole, 0] == padded[:whole].min(axis=1) >> 8).all()
        assert (pairs[:whole, 1] == padded[:whole].max(axis=1) >> 8).all()


def _whole(sound: Path):
    with av.open(str(sound)) as file:
        for block in file.decode(audio=0):
            yield block.to_ndarray()[0]


def test_peaks_take_no_more_memory_for_a_longer_sound(tmp_path: Path) -> None:
    """Each in a process whose greatest memory is read at its end. Three hours are measured by the bench."""
    # A process's greatest memory since it began; `ru_maxrss` would tell that of its parent too.
    code = (
        "import sys; from pathlib import Path; from dunlin.media.peaks import write_peaks\n"
        "info = write_peaks(Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3]))\n"
        "status = Path('/proc/self/status').read_text()\n"
        "print(info.duration_ms, int(status.split('VmHWM:')[1].split()[0]) // 1024)"
    )
    taken = []
    for seconds in (60, 1200):
        sound = tmp_path / f"{seconds}.flac"
        tone = f"sine=220:r=16000:d={seconds}"
        ffmpeg("-f", "lavfi", "-i", tone, "-compression_level", "0", str(sound))
        command = [sys.executable, "-c", code, str(sound), str(tmp_path), str(seconds * 1000)]
        run = subprocess.run(command, capture_output=True, text=True, check=True)
        duration_ms, megabytes = map(int, run.stdout.split())
        assert abs(duration_ms - seconds * 1000) < 10
        taken.append(megabytes)
    # The samples of the longer one alone would take 36 MB.
    assert taken[1] - taken[0] < 12


def test_a_frame_rate_that_varies_is_told(films) -> None:
    assert probe(films["varying"]).frame_rate_varies
    assert not probe(films["short"]).frame_rate_varies


def test_a_film_without_sound_has_no_peaks(tmp_path: Path, films) -> None:
    with pytest.raises(MediaError):
        write_peaks(films["silent"], tmp_path, 8000)
    assert peaks_info(tmp_path) is None


def test_a_cut_off_film_gives_what_can_be_read_and_where_it_ends(tmp_path: Path, films) -> None:
    facts = probe(films["cut-off"])
    info = write_peaks(films["cut-off"], tmp_path, facts.duration_ms)
    assert 7900 < facts.duration_ms < 8100
    assert 1000 < info.duration_ms < 7000


@pytest.mark.parametrize(
    ("name", "least", "most"),
    [
        ("short", 7950, 8050),
        ("sound-ends", 7950, 8050),
        ("old", 7900, 8100),
        ("varying", 3900, 4100),
        ("cut-off", 0, 6500),
        ("sound", 0, 0),
    ],
)
def test_a_picture_ends_where_the_last_one_that_can_be_read_does(
    films, name: str, least: int, most: int
) -> None:
    assert least <= picture_ends_ms(films[name]) <= most


@pytest.mark.parametrize("name", ["old", "odd", "rotated"])
def test_a_copy_plays_in_the_browser_and_keeps_its_length(tmp_path: Path, films, name: str) -> None:
    facts, told = probe(films[name]), []
    write_proxy(films[name], facts, tmp_path / "copy.mp4", told.append)
    copy = probe(tmp_path / "copy.mp4")
    assert copy.browser_plays
    assert (copy.video_codec, copy.audio_codec) == ("h264", "aac")
    assert abs(copy.duration_ms - facts.duration_ms) < 120
    assert abs(copy.width / copy.height - facts.width / facts.height) < 0.01
    assert [path.name for path in tmp_path.iterdir()] == ["copy.mp4"]


CAPTIONS = (Caption("a", 1000, 2000, spans_of("It weighs four hundred kilos,")),)


def test_a_burn_draws_on_exactly_the_caption_s_frames(tmp_path: Path, films) -> None:
    film, facts = films["brief"], probe(films["brief"])
    plain, burned = tmp_path / "plain.mp4", tmp_path / "burned.mp4"
    burn(film, facts, (), STYLES["house"], plain, Encoding(crf=10))
    burn(film, facts, CAPTIONS, STYLES["house"], burned, Encoding(crf=10))
    differs = {
        at: np.abs(frame(plain, at)[280:] - frame(burned, at)[280:]).mean()
        for at in (0.92, 0.96, 1.0, 1.96, 2.0, 2.04)
    }
    assert {at for at, difference in differs.items() if difference > 1} == {1.0, 1.96}


def test_sound_alone_is_burned_over_a_plain_picture(tmp_path: Path, films) -> None:
    burn(
        films["sound"],
        probe(films["sound"]),
        CAPTIONS,
        STYLES["house"],
        tmp_path / "b.mp4",
        Encoding(crf=30),
    )
    facts = probe(tmp_path / "b.mp4")
    assert (facts.width, facts.height, facts.audio_codec) == (1280, 720, "aac")
    assert frame(tmp_path / "b.mp4", 1.5).max() > 200


def test_a_burn_can_be_scaled(tmp_path: Path, films) -> None:
    burn(
        films["brief"],
        probe(films["brief"]),
        CAPTIONS,
        STYLES["house"],
        tmp_path / "b.mp4",
        Encoding(crf=35, height=180),
    )
    facts = probe(tmp_path / "b.mp4")
    assert (facts.width, facts.height) == (320, 180)


def test_a_burn_keeps_the_shape_of_an_anamorphic_film_at_every_height(
    tmp_path: Path, films
) -> None:
    film = tmp_path / "wide.mp4"
    ffmpeg("-i", str(films["short"]), "-t", "1", "-vf", "scale=720:576,setsar=64/45", "-preset",
           "ultrafast", str(film))  # fmt: skip
    facts = probe(film)
    for height in (None, 288):
        burn(film, facts, (), STYLES["house"], tmp_path / "b.mp4", Encoding(crf=40, height=height))
        burned = probe(tmp_path / "b.mp4")
        assert burned.height == (height or 576)
        assert burned.width / burned.height == pytest.approx(16 / 9, abs=0.01)


def test_a_burn_keeps_all_sounds_and_copies_what_mp4_can_hold(tmp_path: Path, films) -> None:
    film = tmp_path / "sounds.mkv"
    ffmpeg("-i", str(films["short"]), "-t", "1", "-map", "0:v", "-map", "0:a", "-map", "0:a", "-map",
           "0:a", "-c:v", "copy", "-c:a:0", "ac3", "-c:a:1", "libvorbis", "-ac", "2", "-c:a:2", "aac",
           "-metadata:s:a:1", "language=fin", str(film))  # fmt: skip
    burn(
        film,
        probe(film),
        CAPTIONS,
        STYLES["house"],
        tmp_path / "b.mp4",
        Encoding(crf=40, height=120),
    )
    sounds = audio_streams(tmp_path / "b.mp4")
    assert [sound.codec for sound in sounds] == ["ac3", "aac", "aac"]
    assert sounds[1].language == "fin"


def test_a_picture_of_ten_bits_stays_one(tmp_path: Path, films) -> None:
    film = tmp_path / "deep.mp4"
    ffmpeg("-i", str(films["short"]), "-t", "1", "-vf", "scale=320:180", "-pix_fmt", "yuv420p10le",
           "-preset", "ultrafast", str(film))  # fmt: skip
    assert (is_ten_bit(film), is_ten_bit(films["short"])) == (True, False)
    burn(film, probe(film), CAPTIONS, STYLES["house"], tmp_path / "b.mp4", Encoding(crf=30))
    assert is_ten_bit(tmp_path / "b.mp4")


def test_a_film_whose_picture_comes_late_is_burned_on_the_frame(tmp_path: Path) -> None:
    film, plain, burned = (tmp_path / name for name in ("late.mkv", "plain.mp4", "burned.mp4"))
    ffmpeg("-f", "lavfi", "-i", "sine=200:d=3", "-itsoffset", "0.48", "-f", "lavfi", "-i",
           "color=navy:s=320x180:r=25:d=2.5", "-map", "1:v", "-map", "0:a", "-c:v", "libx265",
           "-x265-params", "log-level=none:bframes=4", "-preset", "fast", str(film))  # fmt: skip
    facts = probe(film)
    burn(film, facts, (), STYLES["house"], plain, Encoding(crf=10))
    burn(film, facts, CAPTIONS, STYLES["house"], burned, Encoding(crf=10))
    differs = {
        at
        for at in (0.92, 0.96, 1.0, 1.96, 2.0, 2.04)
        if np.abs(frame(plain, at)[140:] - frame(burned, at)[140:]).mean() > 1
    }
    assert differs == {1.0, 1.96}


def test_a_burn_that_is_called_off_or_fails_leaves_nothing(tmp_path: Path, films) -> None:
    facts = probe(films["short"])
    with pytest.raises(Cancelled):
        burn(
            films["short"],
            facts,
            CAPTIONS,
            STYLES["house"],
            tmp_path / "b.mp4",
            cancelled=lambda: True,
        )
    broken = tmp_path / "broken.mp4"
    broken.write_bytes(b"no film")
    with pytest.raises(MediaError, match="no film or sound can be read"):
        burn(broken, replace(facts), CAPTIONS, STYLES["house"], tmp_path / "b.mp4")
    assert [path.name for path in tmp_path.iterdir()] == ["broken.mp4"]


def test_the_sound_for_a_recogniser_comes_in_whole_blocks(films) -> None:
    blocks = list(speech_blocks(films["short"], 3))
    assert [len(block) for block in blocks[:2]] == [48_000, 48_000]
    assert sum(map(len, blocks)) / 16_000 == pytest.approx(8, abs=0.1)


def test_shot_changes_are_found_to_the_frame(tmp_path: Path) -> None:
    film = tmp_path / "cuts.mp4"
    shots = [
        "color=navy:s=320x180:r=25:d=2",
        "testsrc2=s=320x180:r=25:d=1.48",
        "color=olive:s=320x180:r=25:d=2",
    ]
    inputs = [argument for shot in shots for argument in ("-f", "lavfi", "-i", shot)]
    ffmpeg(*inputs, "-filter_complex", "concat=n=3:v=1:a=0", "-pix_fmt", "yuv420p", str(film))
    assert shot_changes(film, probe(film)) == [2000, 3480]
    # In the same go small pictures are kept of it, and the shots are the same.
    assert backdrop_in(tmp_path) is None
    assert shot_changes(film, probe(film), folder=tmp_path) == [2000, 3480]
    backdrop = backdrop_in(tmp_path)
    assert backdrop is not None
    assert len(backdrop.pictures) == pytest.approx(11, abs=1)
    navy, olive = (
        backdrop.behind((0.4, 0.8, 0.6, 0.95), at, at + 400).mean(axis=0) for at in (500, 4500)
    )
    assert navy == pytest.approx([0, 0, 0x80 / 255], abs=0.03)
    assert olive == pytest.approx([0x80 / 255, 0x80 / 255, 0], abs=0.03)


def test_sound_alone_has_no_shots(films: dict[str, Path]) -> None:
    assert shot_changes(films["sound"], probe(films["sound"])) == []


def test_each_sound_is_told_and_heard(films: dict[str, Path]) -> None:
    film = films["two-sounds"]
    assert [(s.language, s.title) for s in audio_streams(film)] == [("fin", None), (None, "Rumble")]
    hum, said = (sound_between(film, 0, 8000, Hearing(stream)) for stream in (0, 1))
    assert len(hum) == len(said) == pytest.approx(128_000, abs=2000)
    assert strength(hum, 90, 110) > 100 * strength(hum, 300, 3000)


def test_voice_focus_holds_down_what_is_no_voice(films: dict[str, Path]) -> None:
    plain, focused = (
        sound_between(films["two-sounds"], 0, 8000, Hearing(1, focus)) for focus in (False, True)
    )
    assert len(focused) == pytest.approx(len(plain), abs=400)

    def rumble(sound: np.ndarray) -> float:
        return strength(sound, 30, 50) / strength(sound, 300, 3000)

    assert rumble(focused) < rumble(plain) / 100


def strength(sound: np.ndarray, low_hz: int, high_hz: int) -> float:
    """How much of a sound lies between two pitches."""
    pitches = np.fft.rfftfreq(len(sound), 1 / 16_000)
    power = np.abs(np.fft.rfft(sound)) ** 2
    return float(power[(pitches >= low_hz) & (pitches < high_hz)].sum())


@pytest.mark.parametrize("film", ["talk", "minute", "sound"])
def test_a_passage_comes_when_it_comes_in_the_whole_sound(films: Films, film: str) -> None:
    whole = np.concatenate(list(speech_blocks(films[film], 30))).astype(float)
    for from_ms, to_ms in ((200, 1200), (1013, 4013), (6000, 7900)):
        alone = sound_between(films[film], from_ms, to_ms).astype(float)[800:-800]
        at = from_ms * 16 + 800
        likeness = [alone @ whole[at + by : at + by + len(alone)] for by in range(-480, 480)]
        # Samples of other rates fall between those of the recogniser.
        assert abs(int(np.argmax(likeness)) - 480) <= 1


def test_a_film_whose_sound_cannot_be_decoded_says_so_and_is_not_just_silent(
    films: dict[str, Path], tmp_path: Path
) -> None:
    broken = tmp_path / "broken.mp4"
    data = bytearray(films["late-index"].read_bytes())
    # The index stands, and all that it points at is noise.
    start, end = data.index(b"mdat") + 4, data.index(b"moov") - 4
    data[start:end] = bytes(n * 73 % 251 for n in range(end - start))
    broken.write_bytes(data)
    with pytest.raises(MediaError):
        list(speech_blocks(broken, 30))
    with pytest.raises(MediaError):
        find_speech(broken, tmp_path, 8000)
    assert speech_in(tmp_path) is None
    # Beyond the end of a sound that can be decoded there is nothing, and nothing wrong.
    assert len(sound_between(films["short"], 60_000, 61_000)) == 0


def test_what_gives_nothing_for_too_long_is_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("dunlin.media.ffmpeg._STANDS_STILL_SECONDS", 0.2)
    endless = ["-re", "-f", "lavfi", "-i", "anullsrc=d=3600", "-ss", "3000", "-f", "s16le"]
    with pytest.raises(MediaError, match="nothing came"), reading(endless) as stream:
        stream.read(10)


def test_a_script_is_fitted_along_with_the_sound_in_bounded_memory(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """However long the sound is, no more of it is held than a block and what the next words may be in."""
    held: list[int] = []
    places = SphinxAligner.places

    def noted(self: SphinxAligner, texts: Sequence[str], speech: np.ndarray) -> object:
        held.append(len(speech if speech.base is None else speech.base))
        return places(self, texts, speech)

    monkeypatch.setattr(SphinxAligner, "places", noted)
    words = [Word("bell", n * 4000 + 500, n * 4000 + 900) for n in range(40)]
    blocks = (np.zeros(16_000 * 10, np.int16) for _ in range(17))
    assert len(words_on_sound(words, blocks, SphinxAligner())) == 40
    assert max(held) < 16_000 * 25


def test_two_may_make_the_same_file_at_once_and_a_broken_one_leaves_nothing(tmp_path: Path) -> None:
    file = tmp_path / "speech.json"
    with whole_file(file) as one, whole_file(file) as other:
        one.write_text("one")
        other.write_text("other")
    assert file.read_text() == "one"

    def broken_off() -> None:
        with whole_file(file) as draft:
            draft.write_text("half")
            raise OSError("full")

    with pytest.raises(OSError, match="full"):
        broken_off()
    assert [path.name for path in tmp_path.iterdir()] == ["speech.json"]
    assert file.read_text() == "one"
