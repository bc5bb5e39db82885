"""Builds the demo film and what comes with it: `make demo-media`.

Needs Debian's flite for the voices. The results are committed, so that nobody has to run this to
use Dunlin.
"""

import subprocess
import wave
from pathlib import Path

import imageio_ffmpeg
import numpy as np
from captions import delivery_spec, finished_track
from picture import FRAME_RATE, HEIGHT, WIDTH, frames
from sound import RATE, TimedLine, mix, timed_lines, word_times

HERE = Path(__file__).parent


def _write_sound(path: Path, lines: list[TimedLine]) -> None:
    with wave.open(str(path), "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(RATE)
        sound.writeframes((mix(lines) * 32767).astype(np.int16).tobytes())


def _encode(film: Path, sound: Path, lines: list[TimedLine]) -> None:
    command = [
        imageio_ffmpeg.get_ffmpeg_exe(), "-y", "-v", "error",
        "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{WIDTH}x{HEIGHT}", "-r", str(FRAME_RATE),
        "-i", "pipe:0", "-i", str(sound),
        "-c:v", "libx264", "-preset", "slow", "-crf", "27", "-g", "50", "-pix_fmt", "yuv420p",
        "-vf", "scale=out_color_matrix=bt709", "-color_primaries", "bt709", "-color_trc", "bt709",
        "-colorspace", "bt709", "-c:a", "aac", "-b:a", "72k", "-ar", "48000",
        "-movflags", "+faststart", str(film),
    ]  # fmt: skip
    encoder = subprocess.Popen(command, stdin=subprocess.PIPE)
    assert encoder.stdin is not None
    for frame in frames(lines):
        encoder.stdin.write(frame)
    encoder.stdin.close()
    if encoder.wait() != 0:
        raise SystemExit("the film could not be encoded")


def build() -> None:
    """Writes the film, its word times, its captions and the client's delivery spec."""
    lines = timed_lines()
    (HERE / "fog-bell.words.json").write_text(word_times(lines))
    (HERE / "fog-bell.en.json").write_bytes(finished_track(lines))
    (HERE / "ternholm.spec.json").write_text(delivery_spec())
    sound = HERE / "fog-bell.wav"
    _write_sound(sound, lines)
    _encode(HERE / "fog-bell.mp4", sound, lines)
    sound.unlink()


if __name__ == "__main__":
    build()
