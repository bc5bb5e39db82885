"""Builds the demo film and what comes with it: `make demo-media`.

Needs Debian's flite for the voices; with `--picture` the sound stays as it is, and the picture alone is drawn anew. The
results are committed, so that nobody has to run this to use Dunlin.
"""

import subprocess
import sys
import wave
from pathlib import Path

import imageio_ffmpeg
import numpy as np
from captions import delivery_spec, finished_track, title_on_sign
from picture import FRAME_RATE, HEIGHT, WIDTH, frames
from sound import RATE, TimedLine, lines_as_timed, mix, timed_lines, word_times

HERE = Path(__file__).parent


def _write_sound(path: Path, lines: list[TimedLine]) -> None:
    with wave.open(str(path), "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(RATE)
        sound.writeframes((mix(lines) * 32767).astype(np.int16).tobytes())


def _encode(film: Path, sound: Path, lines: list[TimedLine]) -> None:
    """Draws the picture to a sound, which is taken as it is where it is in a film already."""
    as_sound = (
        ["-c:a", "aac", "-b:a", "72k", "-ar", "48000"]
        if sound.suffix == ".wav"
        else ["-c:a", "copy"]
    )
    command = [
        imageio_ffmpeg.get_ffmpeg_exe(), "-y", "-v", "error",
        "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{WIDTH}x{HEIGHT}", "-r", str(FRAME_RATE),
        "-i", "pipe:0", "-i", str(sound), "-map", "0:v", "-map", "1:a",
        "-c:v", "libx264", "-preset", "slow", "-crf", "27", "-g", "50", "-pix_fmt", "yuv420p",
        "-vf", "scale=out_color_matrix=bt709", "-color_primaries", "bt709", "-color_trc", "bt709",
        "-colorspace", "bt709", *as_sound,
        "-movflags", "+faststart", str(film),
    ]  # fmt: skip
    encoder = subprocess.Popen(command, stdin=subprocess.PIPE)
    assert encoder.stdin is not None
    for frame in frames(lines):
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
    _write_sound(sound, lines)
    _encode(FILM, sound, lines)
    sound.unlink()
    (HERE / "fog-bell.sign.json").write_bytes(title_on_sign(FILM))


def draw_anew() -> None:
    """Writes the film with another picture to the same sound, and the title on its sign."""
    before = FILM.rename(HERE / "before.mp4")
    _encode(FILM, before, lines_as_timed((HERE / "fog-bell.words.json").read_text()))
    before.unlink()
    (HERE / "fog-bell.sign.json").write_bytes(title_on_sign(FILM))


if __name__ == "__main__":
    draw_anew() if "--picture" in sys.argv else build()
