"""Sound and picture: peaks, recognition, burning in."""

import os
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
from faster_whisper import WhisperModel

from bench.turns import least_of_each
from dunlin.core.captions import Caption, spans_of
from dunlin.core.styles import STYLES
from dunlin.engines.aligning import aligner_for, words_on_sound
from dunlin.engines.carried import put_together
from dunlin.engines.whisper import Whisper
from dunlin.media.burn import burn
from dunlin.media.ffmpeg import film_input
from dunlin.media.peaks import write_peaks
from dunlin.media.probe import probe
from dunlin.media.sound import speech_blocks
from dunlin.settings import Settings
from tests.conftest import FILM, ffmpeg

__all__ = ["burning", "encode_plainly", "peaks", "peaks_memory", "recognition"]


def peaks(folder: Path) -> tuple[float, float]:
    """Peaks of an hour of film sound against ffmpeg decoding it to null."""
    sound = folder / "hour.m4a"
    ffmpeg("-stream_loop", "27", "-i", str(FILM), "-vn", "-c", "copy", str(sound))
    return tuple(
        least_of_each(
            6,
            lambda: write_peaks(sound, folder, 3_600_000),
            lambda: ffmpeg("-i", str(sound), "-vn", "-f", "null", "-"),
        )
    )  # type: ignore[return-value]


def peaks_memory(folder: Path) -> tuple[float, float]:
    """Greatest memory and seconds for three hours of sound."""
    sound = folder / "three-hours.m4a"
    ffmpeg("-stream_loop", "84", "-i", str(FILM), "-vn", "-c", "copy", str(sound))
    code = (
        "import sys; from pathlib import Path; from dunlin.media.peaks import write_peaks\n"
        "write_peaks(Path(sys.argv[1]), Path(sys.argv[2]), 1)\n"
        "print(Path('/proc/self/status').read_text().split('VmHWM:')[1].split()[0])"
    )
    start = time.perf_counter()
    command = [sys.executable, "-c", code, str(sound), str(folder)]
    run = subprocess.run(command, check=True, capture_output=True, text=True)
    return int(run.stdout) / 1024, time.perf_counter() - start


def recognition() -> tuple[float, float, float]:
    """Words of the demo film against the bare engine; and sharpening their times, beside it."""
    engine = Whisper(Settings().model_folders)
    folder = put_together(engine.taken("en"))
    threads = os.cpu_count() or 1
    model = WhisperModel(str(folder), device="cpu", compute_type="int8", cpu_threads=threads)

    def bare() -> None:
        segments, _ = model.transcribe(str(FILM), language="en", word_timestamps=True)
        list(segments)

    def ours() -> None:
        list(engine.recognise(speech_blocks(FILM, 30), "en"))

    ours()
    mine, theirs = least_of_each(3, ours, bare)
    words = list(engine.recognise(speech_blocks(FILM, 30), "en"))
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    return (
        mine,
        theirs,
        least_of_each(2, lambda: words_on_sound(words, [sound], aligner_for("en")))[0],
    )


def burning(folder: Path) -> tuple[float, float]:
    """The demo film with its captions against the same encode without."""
    facts = probe(FILM)
    captions = [
        Caption(
            f"c{n}",
            n * 3000,
            n * 3000 + 2800,
            spans_of("It weighs four hundred kilos,\nand it was cast in one evening."),
        )
        for n in range(42)
    ]
    return tuple(
        least_of_each(
            2,
            lambda: burn(FILM, facts, captions, STYLES["house"], folder / "burned.mp4"),
            lambda: encode_plainly(FILM, folder / "plain.mp4"),
        )
    )  # type: ignore[return-value]


def encode_plainly(film: Path, output: Path) -> None:
    """The encode that a burn does, without captions."""
    ffmpeg(
        *film_input(film), "-map", "0:v:0", "-map", "0:a:0?", "-c:v", "libx264", "-preset", "medium",
        "-crf", "20", "-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "160k", "-movflags", "+faststart",
        str(output),
    )  # fmt: skip
