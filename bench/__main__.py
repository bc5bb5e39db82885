"""Measures the rows of docs/performance.md."""

import tempfile
from datetime import date
from pathlib import Path

from bench.accuracy import accuracy
from bench.captions import all_rules, caption_formats
from bench.delivery import alone, burning_in_codecs, editing_beside_burns, packing
from bench.media import burning, peaks, peaks_memory, recognition
from bench.page import edits, frames_called, opening
from bench.short import burning_looks, showing_looks
from bench.style import dragging, following, specimens
from bench.times import timing
from bench.translating import editing_two_columns, pairing, remembering
from bench.words import digesting

ROWS = Path(__file__).parents[1] / "docs" / "performance.md"


def _in_ms(times: tuple[float, float]) -> tuple[float, float]:
    return times[0] * 1000, times[1] * 1000


def _ratio(mine: float, theirs: float) -> str:
    found = mine / theirs
    return f"{found:.2f}×" if found >= 0.1 else f"{found:.3f}×"


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        rows = []
        remembered: list[str] = []

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
        look, counts = frames_called(folder)
        work = f"frame callbacks of five seconds in the dearest look to play, {look}"
        row(work, "the bare film", *counts, "≥ 1.00×", "frames")
        for codec, mine, theirs in burning_in_codecs(folder):
            work = f"burn in 12 seconds of it, {codec}"
            row(work, "the same encode without captions", mine, theirs, "≤ 1.15×")
        row("captions alone, 720 lines, ProRes 4444", "their length", *alone(folder), "≤ 1.0×")
        row(
            "a packing list of 12 files of 2,000 captions",
            "three seconds",
            packing(folder),
            3,
            "≤ 1.0×",
        )
        row("words about an hour of talk", "two seconds", digesting(), 2, "≤ 1.0×")
        work = "one edit while 20 burns are queued and made, request to answer"
        row(work, "the same before", *editing_beside_burns(folder), "≤ 1.5×", "ms")
        look, times = burning_looks(folder)
        work = f"burn in the dearest look of short form, {look}, upright"
        row(work, "the same encode without captions", *times, "≤ 1.35×")
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
        dragged, shown = dragging(folder), specimens(folder)
        frames, off = following(folder)
        for pairs, goal in ((10_000, 50), (1_000_000, 300)):
            middle, most = remembering(folder, pairs)
            remembered.append(
                f"of {pairs:,} pairs in {middle:.0f} ms ({most:.0f} ms for 95 of 100; goal: {goal} ms)"
            )
        edit, empty = editing_two_columns(folder)
        row(
            "one edit of a translation, 10,000 captions on both sides",
            "an empty request",
            edit,
            empty,
            "≤ 4×",
            "ms",
        )
        seconds_paired = pairing(1500)
    minute, ten = showing_looks(60), showing_looks(600)
    for line in accuracy():
        print(line, flush=True)
    # What is said about the figures, below them, stays.
    notes = ROWS.read_text()[ROWS.read_text().index("\n## ") :]
    ROWS.write_text(
        "# Performance\n\n"
        f"Measured by `make bench` on {date.today().isoformat()}, on two cores, as ratios in one run: both sides\n"
        "take turns and the least time counts; for requests, the median of 300.\n\n"
        "| work | against | Dunlin | the other | ratio | goal |\n| --- | --- | --- | --- | --- | --- |\n"
        + "\n".join(rows)
        + "\n\n"
        f"Peaks of three hours of sound: {megabytes:.0f} MB at the most (goal: under 300 MB), {seconds:.0f} s.\n\n"
        f"A caption dragged on the picture, 2,000 in the track: frame and letters are drawn {dragged:.1f} ms after the pointer moved\n"
        f"(95 of 100 no later; goal: 16.7 ms). Twenty styles are drawn side by side {shown:.0f} ms after the press that opens Style\n"
        "(goal: 300 ms).\n\n"
        f"A sign in a picture of 720 lines is followed, forth and back, at {frames:.0f} frames a second (goal: 10), on the mean {off:.2f}\n"
        "pixels off (goal: 1.5).\n\n"
        f"Another look, rhythm or colour: the words of a minute are parted and fitted anew, and what is near the playhead is compiled, in\n"
        f"{minute:.0f} ms (goal: 200 ms), those of ten minutes in {ten:.0f} ms (goal: 1 s), in the dearest look.\n\n"
        f"What is like a caption is found {', '.join(remembered)}. 1,500 lines are paired\n"
        f"with their translation in {seconds_paired:.1f} s.\n" + notes
    )


if __name__ == "__main__":
    main()
