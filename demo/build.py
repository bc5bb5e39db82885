"""Builds the demo film and what comes with it: `make demo-media`.

Needs Debian's flite for the voices; with `--picture` the sound stays as it is, and the picture alone is drawn anew; with `--short` the upright short alone is made. The
results are committed, so that nobody has to run this to use Dunlin.
"""

import subprocess
import sys
import wave
from collections.abc import Iterable
from pathlib import Path

import imageio_ffmpeg
import numpy as np
from captions import delivery_spec, finished_track, title_on_sign
from picture import FRAME_RATE, HEIGHT, WIDTH, frames
from scenario import SHORT_LINES, SHORT_SECONDS
from sound import RATE, Samples, lines_as_timed, mix, timed_lines, word_times
from upright import UPRIGHT_HEIGHT, UPRIGHT_WIDTH, upright_frames

HERE = Path(__file__).parent


def _write_sound(path: Path, samples: Samples) -> None:
    with wave.open(str(path), "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(RATE)
        sound.writeframes((samples * 32767).astype(np.int16).tobytes())


def _encode(film: Path, sound: Path, frames: Iterable[bytes], width: int, height: int) -> None:
    """Puts a picture to a sound, which is taken as it is where it is in a film already."""
    as_sound = (
        ["-c:a", "aac", "-b:a", "72k", "-ar", "48000"]
        if sound.suffix == ".wav"
        else ["-c:a", "copy"]
    )
    command = [
        imageio_ffmpeg.get_ffmpeg_exe(), "-y", "-v", "error",
        "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{width}x{height}", "-r", str(FRAME_RATE),
        "-i", "pipe:0", "-i", str(sound), "-map", "0:v", "-map", "1:a",
        "-c:v", "libx264", "-preset", "slow", "-crf", "27", "-g", "50", "-pix_fmt", "yuv420p",
        "-vf", "scale=out_color_matrix=bt709", "-color_primaries", "bt709", "-color_trc", "bt709",
        "-colorspace", "bt709", *as_sound,
        "-movflags", "+faststart", str(film),
    ]  # fmt: skip
    encoder = subprocess.Popen(command, stdin=subprocess.PIPE)
    assert encoder.stdin is not None
    for frame in frames:
        encoder.stdin.write(frame)
    encoder.stdin.close()
    if encoder.wait() != 0:
        raise SystemExit("the film could not be encoded")


FILM = HERE / "fog-bell.mp4"


def build() -> None:
    """Writes the film, its word times, its captions and the client's delivery spec."""
    lines = timed_lines()
    (HERE / "fog-bell.words.json").write_text(word_times(lines))
    (HERE / "fog-bell.en.json").write_bytes(finished_track(lines))
    (HERE / "ternholm.spec.json").write_text(delivery_spec())
    sound = HERE / "fog-bell.wav"
    _write_sound(sound, mix(lines))
    _encode(FILM, sound, frames(lines), WIDTH, HEIGHT)
    sound.unlink()
    build_short()
    (HERE / "fog-bell.sign.json").write_bytes(title_on_sign(FILM))


def build_short() -> None:
    """Writes the upright short, and its word times."""
    lines = timed_lines(SHORT_LINES)
    (HERE / "low-water.words.json").write_text(word_times(lines))
    sound = HERE / "low-water.wav"
    _write_sound(sound, mix(lines, SHORT_SECONDS, strikes=()))
    film = HERE / "low-water.mp4"
    _encode(film, sound, upright_frames(lines), UPRIGHT_WIDTH, UPRIGHT_HEIGHT)
    sound.unlink()


def draw_anew() -> None:
    """Writes the film with another picture to the same sound, and the title on its sign."""
    before = FILM.rename(HERE / "before.mp4")
    lines = lines_as_timed((HERE / "fog-bell.words.json").read_text())
    _encode(FILM, before, frames(lines), WIDTH, HEIGHT)
    before.unlink()
    (HERE / "fog-bell.sign.json").write_bytes(title_on_sign(FILM))


if __name__ == "__main__":
    if "--short" in sys.argv:
        build_short()
    elif "--picture" in sys.argv:
        draw_anew()
    else:
        build()
