"""Measures each row as a ratio within one run, and writes docs/performance.md.

Both sides of a ratio take turns, and the least time of each counts: a machine's other work only ever
makes things slower.
"""

import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from pathlib import Path
from statistics import median

import httpx
import numpy as np
from faster_whisper import WhisperModel

from dunlin.core.captions import Caption, Span, Track, spans_of
from dunlin.core.formats import FORMATS, Context, Document, read_file, written
from dunlin.core.specs import Judge, Spec, shipped_specs
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.speech.voices import sounds, voice_of, voices
from dunlin.core.styles import STYLES
from dunlin.core.timecode import FrameRate
from dunlin.core.timing.sync import sync
from dunlin.engines import engine_called
from dunlin.engines.aligner import sharpened
from dunlin.engines.fitting import fit_to_speech
from dunlin.engines.whisper import Whisper
from dunlin.media.burn import burn
from dunlin.media.ffmpeg import film_input
from dunlin.media.peaks import write_peaks
from dunlin.media.probe import probe
from dunlin.media.sound import speech_blocks
from tests.conftest import DEMO, FILM, ffmpeg
from tests.server import Server
from tests.spoken import talk
from tests.ui.conftest import open_browser

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


def caption_formats(folder: Path) -> dict[str, tuple[float, float]]:
    """Reading and writing 10,000 captions against ffmpeg converting the same file, by format."""
    document = Document(_speech(10_000), "en")
    result = {}
    for name in ("srt", "webvtt", "ass", "lrc"):
        module, context = FORMATS[name], Context()
        source, target = (folder / f"{part}{module.ENDINGS[0]}" for part in ("a", "b"))
        source.write_bytes(written(document, module, context))

        def ours(module=module, source=source, context=context) -> bytes:  # type: ignore[no-untyped-def]
            reading = read_file(source.read_bytes(), source.name, context)
            return written(reading.document, module, context)

        mine, theirs = least_of_each(
            8, ours, lambda s=source, t=target: ffmpeg("-i", str(s), str(t))
        )
        result[module.TITLE] = (mine, theirs)
    return result


def all_rules() -> dict[str, tuple[float, float]]:
    """All rules over 10,000 captions against reading the file they come from, by spec."""
    data = written(Document(_speech(10_000)), FORMATS["srt"], Context())
    track = Track.of(read_file(data, "a.srt", Context()).document.captions)
    result = {}
    for spec in (shipped_specs()["streaming"], _EVERYTHING):
        judge = Judge.of(spec, FrameRate(25))
        result[spec.name] = tuple(
            least_of_each(
                8,
                lambda judge=judge: list(judge.findings(track)),
                lambda: read_file(data, "a.srt", Context()),
            )
        )
    return result  # type: ignore[return-value]


_SAID = (
    "It weighs four hundred kilos,\nand it was cast in one evening.",
    "One evening, Ilse.",
    "With half the village\nholding the ropes.",
    "Nobody alive had heard it ring.",
    "And then the fog came in\nfrom the sea, and stayed.",
)
_EVERYTHING = Spec(
    id="everything", name="every rule on", characters_per_line=42, lines=2, line_balance=20,
    line_shape="bottom-heavy", no_single_last_word=True, reading_speed=20, words_per_minute=220,
    least_duration_ms=833, greatest_duration_ms=7000, least_gap_frames=2, close_gaps_below_ms=100,
    captions_per_sentence=3, dash="- ", ellipsis="…", quotes="straight", sound_brackets="square",
    sound_case="lower", numbers_in_words_below=11, characters="latin", speaker_labels="upper",
    language=True, safe_area=0.9,
)  # fmt: skip


def _speech(count: int) -> tuple[Caption, ...]:
    """Captions such as a film has, one in ten with italics."""
    return tuple(
        Caption(
            f"c{n}",
            n * 4000,
            n * 4000 + 3880,
            spans_of(_SAID[n % 5])
            if n % 10
            else (Span("Read the "), Span("Marigold", italic=True)),
        )
        for n in range(count)
    )


def timing() -> dict[str, tuple[float, float]]:
    """Finding a file's place in two hours of talk, and fitting the demo film's script, each against
    the sound's own length."""
    made = [talk(seed, 900) for seed in range(8)]
    captions = [
        replace(
            c,
            id=f"{n}-{c.id}",
            in_ms=c.in_ms + n * 900_000 + 3000,
            out_ms=c.out_ms + n * 900_000 + 3000,
        )
        for n, one in enumerate(made)
        for c in one.captions
    ]
    began = time.perf_counter()
    speech = speech_stretches(levels(one.sound for one in made))
    found = sync(captions, speech)
    syncing = time.perf_counter() - began
    assert found.pieces
    script = read_file((DEMO / "fog-bell.en.json").read_bytes(), "a.json", Context()).document
    began = time.perf_counter()
    sound = np.concatenate(list(speech_blocks(FILM, 30)))
    heard = list(engine_called("whisper").recognise(speech_blocks(FILM, 30), "en", quick=True))
    hearing = time.perf_counter() - began
    fit_to_speech(script.captions, heard, speech_stretches(levels([sound])), [sound], "en", 80)
    fitting = time.perf_counter() - began
    places = [(c.in_ms, c.out_ms) for c in script.captions]
    began = time.perf_counter()
    assert voices([voice_of(said) for said in sounds(speech_blocks(FILM, 30), places)])
    listening = time.perf_counter() - began
    print(f"two hours, {len(captions)} captions; fitting, of which hearing {hearing:.1f} s")
    return {
        f"find {len(captions)} captions in two hours of talk": (syncing, 7200),
        "fit the demo film's script, words heard": (fitting - hearing, len(sound) / 16_000),
        "the same with the hearing": (fitting, len(sound) / 16_000),
        "guess who speaks in the demo film": (listening, len(sound) / 16_000),
    }


def edits(folder: Path) -> dict[str, float]:
    """Median milliseconds from request to answer, over one connection."""
    server = Server(folder / "data")
    try:
        tracks, seen = {}, {}
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
            operation = {"kind": "insert-captions", "captions": captions}
            seen[count] = _edit(server.http, track, 0, operation)
            tracks[count] = track
        server.wait_idle()
        taken: dict[str, list[float]] = {"empty": [], "100": [], "10000": [], "page": []}
        for turn in range(300):
            for count, track in tracks.items():
                change = {"caption": f"c{count // 2}", "text": f"Words {turn}"}
                operation = {"kind": "change-captions", "changes": [change]}
                start = time.perf_counter()
                seen[count] = _edit(server.http, track, seen[count], operation)
                taken[str(count)].append(time.perf_counter() - start)
            start = time.perf_counter()
            seen[10_000] = _write(server.http, tracks[10_000], seen[10_000], ["c40", "c41"], turn)
            taken["page"].append(time.perf_counter() - start)
            start = time.perf_counter()
            server.http.get("/api/specs")
            taken["empty"].append(time.perf_counter() - start)
        return {name: median(times) * 1000 for name, times in taken.items()}
    finally:
        server.stop()


def _edit(http: httpx.Client, track: str, revision: int, operation: dict) -> int:
    """Makes an edit, and gives the revision it was told."""
    body = {
        "base_revision": revision,
        "gesture": f"g{revision}",
        "operation": operation,
    }
    answer = http.post(f"/api/tracks/{track}/edits", json=body).raise_for_status()
    return int(answer.json()["revision"])


def _write(http: httpx.Client, track: str, revision: int, ids: list[str], turn: int) -> int:
    texts = ["Two lines", f"of it\n{turn} two lines of it"]
    body = {"base_revision": revision, "gesture": f"p{revision}",
            "captions": ids, "texts": texts}  # fmt: skip
    answer = http.post(f"/api/tracks/{track}/page", json=body).raise_for_status()
    return int(answer.json()["revision"])


_PAINTED = """
const done = arguments[0]
const look = () => document.querySelector('.card') ? done(performance.now()) : requestAnimationFrame(look)
look()
"""


def opening(folder: Path) -> tuple[float, float]:
    """Milliseconds until the first caption is drawn: three hours with 10,000 captions, and the demo."""
    sound = folder / "three-hours.m4a"
    server = Server(folder / "opened", "--demo")
    browser = open_browser(folder)
    try:
        demo = server.get("/api/projects")[0]
        long = server.upload(sound)
        captions = [
            {"id": f"c{n}", "in_ms": n * 1080, "out_ms": n * 1080 + 1000, "spans": [{"text": "Two lines\nof it"}]}
            for n in range(10_000)
        ]  # fmt: skip
        operation = {"kind": "insert-captions", "captions": captions}
        _edit(server.http, long["tracks"][0]["id"], 0, operation)
        server.wait_idle()

        def painted(project: dict) -> float:
            browser.get(f"{server.url}/project/{project['id']}/time")
            return float(browser.execute_async_script(_PAINTED))

        times = [(painted(long), painted(demo)) for _ in range(6)]
        return min(mine for mine, _ in times), min(theirs for _, theirs in times)
    finally:
        browser.quit()
        server.stop()


def _in_ms(times: tuple[float, float]) -> tuple[float, float]:
    return times[0] * 1000, times[1] * 1000


def _ratio(mine: float, theirs: float) -> str:
    found = mine / theirs
    return f"{found:.2f}×" if found >= 0.1 else f"{found:.3f}×"


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        rows = []

        def row(
            work: str, against: str, mine: float, theirs: float, goal: str, unit: str = "s"
        ) -> None:
            rows.append(
                f"| {work} | {against} | {mine:.2f} {unit} | {theirs:.2f} {unit} | {_ratio(mine, theirs)} | {goal} |"
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
        for title, times in caption_formats(folder).items():
            work = f"read and write 10,000 captions, {title}"
            row(work, "ffmpeg converting the file", *_in_ms(times), "≤ 1.0×", "ms")
        for name_, times in all_rules().items():
            work = f"all rules over 10,000 captions, {name_}"
            row(work, "reading that file", *_in_ms(times), "≤ 1.0×", "ms")
        for work, times in timing().items():
            goal = "≤ 0.02×" if "two hours" in work else "–" if "guess" in work else "≤ 0.10×"
            row(work, "the length of the sound", *times, goal)
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
        row(
            "words moved on a page of 10,000 captions, request to answer",
            "an empty request",
            taken["page"],
            taken["empty"],
            "≤ 4×",
            "ms",
        )
        megabytes, seconds = peaks_memory(folder)
        row(
            "open three hours with 10,000 captions, first caption drawn",
            "opening the demo",
            *opening(folder),
            "≤ 1.5×",
            "ms",
        )
    # What is said about the figures, below them, stays.
    notes = ROWS.read_text()[ROWS.read_text().index("\n## ") :]
    ROWS.write_text(
        "# Performance\n\n"
        f"Measured by `make bench` on {date.today().isoformat()}, on two cores, as ratios in one run: both sides\n"
        "take turns and the least time counts; for requests, the median of 300.\n\n"
        "| work | against | Dunlin | the other | ratio | goal |\n| --- | --- | --- | --- | --- | --- |\n"
        + "\n".join(rows)
        + "\n\n"
        f"Peaks of three hours of sound: {megabytes:.0f} MB at the most (goal: under 300 MB), {seconds:.0f} s.\n"
        + notes
    )


if __name__ == "__main__":
    main()
