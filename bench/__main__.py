"""Measures each row as a ratio within one run, and writes docs/performance.md.

Both sides of a ratio take turns, and the least time of each counts: a machine's other work only ever
makes things slower.
"""

import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path
from statistics import median

import httpx
import numpy as np
from faster_whisper import WhisperModel

from dunlin.core.captions import Caption, spans_of
from dunlin.core.styles import STYLES
from dunlin.engines.aligner import sharpened
from dunlin.engines.whisper import Whisper
from dunlin.media.burn import burn
from dunlin.media.ffmpeg import film_input
from dunlin.media.peaks import write_peaks
from dunlin.media.probe import probe
from dunlin.media.sound import speech_blocks
from tests.conftest import FILM, ffmpeg
from tests.server import Server

ROWS = Path(__file__).parents[1] / "docs" / "performance.md"


def least_of_each(rounds: int, *works: Callable[[], object]) -> list[float]:
    """Least seconds of each work, done in turns."""
    times: list[list[float]] = [[] for _ in works]
    for _ in range(rounds):
        for taken, work in zip(times, works, strict=True):
            start = time.perf_counter()
            work()
            taken.append(time.perf_counter() - start)
    return [min(taken) for taken in times]


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
    engine = Whisper()
    model = WhisperModel(str(engine.models()[0].folder), device="cpu", compute_type="int8")

    def bare() -> None:
        segments, _ = model.transcribe(str(FILM), language="en", word_timestamps=True)
        list(segments)

    def ours() -> None:
        list(engine.recognise(speech_blocks(FILM, 30), "en"))

    ours()
    mine, theirs = least_of_each(3, ours, bare)
    words = list(engine.recognise(speech_blocks(FILM, 30), "en"))
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    return mine, theirs, least_of_each(2, lambda: sharpened(words, sound))[0]


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
    plain = [
        *film_input(FILM), "-map", "0:v:0", "-map", "0:a:0?", "-c:v", "libx264", "-preset", "medium",
        "-crf", "20", "-pix_fmt", "yuv420p", "-c:a", "aac", "-b:a", "160k", "-movflags", "+faststart",
    ]  # fmt: skip
    return tuple(
        least_of_each(
            2,
            lambda: burn(FILM, facts, captions, STYLES["house"], folder / "burned.mp4"),
            lambda: ffmpeg(*plain, str(folder / "plain.mp4")),
        )
    )  # type: ignore[return-value]


def edits(folder: Path) -> dict[str, float]:
    """Median milliseconds from request to answer, over one connection."""
    server = Server(folder / "data")
    try:
        tracks = {}
        for count in (100, 10_000):
            project = server.upload(FILM)
            track = project["tracks"][0]["id"]
            captions = [
                {
                    "id": f"c{n}",
                    "in_ms": n * 1200,
                    "out_ms": n * 1200 + 1000,
                    "spans": [{"text": "Two lines\nof it"}],
                }
                for n in range(count)
            ]
            _edit(server.http, track, 0, {"kind": "insert-captions", "captions": captions})
            tracks[count] = track
        server.wait_idle()
        taken: dict[str, list[float]] = {"empty": [], "100": [], "10000": []}
        for turn in range(300):
            for count, track in tracks.items():
                operation = {
                    "kind": "rewrite-text",
                    "caption": f"c{count // 2}",
                    "text": f"Words {turn}",
                }
                start = time.perf_counter()
                _edit(server.http, track, turn + 1, operation)
                taken[str(count)].append(time.perf_counter() - start)
            start = time.perf_counter()
            server.http.get("/api/specs")
            taken["empty"].append(time.perf_counter() - start)
        return {name: median(times) * 1000 for name, times in taken.items()}
    finally:
        server.stop()


def _edit(http: httpx.Client, track: str, revision: int, operation: dict) -> None:
    body = {
        "base_revision": revision,
        "gesture": f"g{revision}",
        "actor": "bench",
        "operation": operation,
    }
    http.post(f"/api/tracks/{track}/edits", json=body).raise_for_status()


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        rows = []

        def row(
            work: str, against: str, mine: float, theirs: float, goal: str, unit: str = "s"
        ) -> None:
            rows.append(
                f"| {work} | {against} | {mine:.2f} {unit} | {theirs:.2f} {unit} | {mine / theirs:.2f}× | {goal} |"
            )
            print(rows[-1], flush=True)

        row(
            "peaks of an hour of film sound",
            "ffmpeg decoding it to null",
            *peaks(folder),
            "≤ 1.25×",
        )
        heard, bare, sharpening = recognition()
        row("recognise the demo film", "the bare engine", heard, bare, "≤ 1.10×")
        row("the same with sharpened word times", "the bare engine", heard + sharpening, bare, "–")
        row(
            "burn in the demo film", "the same encode without captions", *burning(folder), "≤ 1.15×"
        )
        taken = edits(folder)
        row(
            "one edit, 10,000 captions",
            "the same, 100 captions",
            taken["10000"],
            taken["100"],
            "≤ 1.3×",
            "ms",
        )
        row(
            "one edit, request to answer",
            "an empty request",
            taken["10000"],
            taken["empty"],
            "≤ 4×",
            "ms",
        )
        megabytes, seconds = peaks_memory(folder)
    ROWS.write_text(
        "# Performance\n\n"
        f"Measured by `make bench` on {date.today().isoformat()}, on two cores, as ratios in one run: both sides\n"
        "take turns and the least time counts; for requests, the median of 300.\n\n"
        "| work | against | Dunlin | the other | ratio | goal |\n| --- | --- | --- | --- | --- | --- |\n"
        + "\n".join(rows)
        + "\n\n"
        f"Peaks of three hours of sound: {megabytes:.0f} MB at the most (goal: under 300 MB), {seconds:.0f} s.\n\n"
        "The empty request is `GET /api/specs`. An edit's answer comes after its row of the log is on the\n"
        "disk.\n\n"
        "Scrolling through and playing 2,000 captions: no task on the page's main thread over 50 ms, held by\n"
        "`tests/ui/test_speed.py` with the Long Tasks API.\n"
    )


if __name__ == "__main__":
    main()
