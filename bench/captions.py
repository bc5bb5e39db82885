"""Caption files and rules."""

from pathlib import Path

from bench.turns import least_of_each
from dunlin.core.captions import Caption, Span, Track, spans_of
from dunlin.core.formats import FORMATS, Context, Document, read_file, written
from dunlin.core.specs import Judge, Spec, shipped_specs
from dunlin.core.timecode import FrameRate
from tests.conftest import ffmpeg

__all__ = ["all_rules", "caption_formats"]


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
