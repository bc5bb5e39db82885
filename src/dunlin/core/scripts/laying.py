"""A script as captions, laid out one after the other until they are timed."""

from collections.abc import Iterable, Sequence

from dunlin.core.captions.model import Caption, spans_of
from dunlin.core.making.segmentation import segmented
from dunlin.core.scripts.reading import Passage, Script
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word
from dunlin.core.text.lines import break_lines
from dunlin.core.text.words import words_of
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame

__all__ = ["captions_of_script"]

# A little below what may be read, so that nothing is cut for speed before it has its times.
_SPEED_PART = 0.9
_USUAL_SPEED, _LEAST_MS = 17.0, 1000
# Parts passages surely.
_BETWEEN_MS = 2000


def captions_of_script(
    script: Script, spec: Spec, rate: FrameRate, language: str = "en", *, lines: bool = True
) -> tuple[Caption, ...]:
    """Captions for a script, with times that are none yet: each as long as it takes to read.

    :param lines: whether each passage is one caption, however long; else they are cut to the spec
    :returns: captions called `line-` and a number, in the script's order, none overlapping the next
    """
    make = _line_by_line if lines else _reflowed
    return tuple(_laid_out(make(script.passages, spec, rate, language), spec, rate))


def _line_by_line(
    passages: Sequence[Passage], spec: Spec, rate: FrameRate, language: str
) -> Iterable[tuple[str, str | None]]:
    width, most = spec.characters_per_line or 42, spec.lines or 2
    for passage in passages:
        words = words_of(passage.text, language)
        lines = break_lines(
            words, width, most, language, wide_as_two=spec.wide_characters_count_two
        )
        yield "\n".join(lines), passage.speaker


def _reflowed(
    passages: Sequence[Passage], spec: Spec, rate: FrameRate, language: str
) -> Iterable[tuple[str, str | None]]:
    """The passages cut by the spec, as if they were spoken at the speed that is read."""
    words: list[Word] = []
    at = 0
    per_character = 1000 / (_SPEED_PART * (spec.reading_speed or _USUAL_SPEED))
    for number, passage in enumerate(passages):
        for text in words_of(passage.text, language):
            end = at + round(per_character * (len(text) + 1))
            # Passages of one speaker are parted as those of two.
            words.append(Word(text, at, end, speaker=str(number)))
            at = end
        at += _BETWEEN_MS
    for cut in segmented(words, spec, rate, language):
        passage = passages[int(words[cut.first].speaker or 0)]
        yield "\n".join(cut.lines), passage.speaker


def _laid_out(
    texts: Iterable[tuple[str, str | None]], spec: Spec, rate: FrameRate
) -> Iterable[Caption]:
    speed = _SPEED_PART * (spec.reading_speed or _USUAL_SPEED)
    least = max(spec.least_duration_ms or 0, _LEAST_MS)
    gap = least_gap_ms(spec, rate)
    at = 0
    for number, (text, speaker) in enumerate(texts):
        in_ms = start_of_frame(first_frame_from(at, rate), rate)
        needed = max(round(len(text) * 1000 / speed), least)
        longest = spec.greatest_duration_ms or needed
        out_ms = start_of_frame(first_frame_from(in_ms + min(needed, longest), rate), rate)
        yield Caption(f"line-{number}", in_ms, out_ms, spans_of(text), speaker)
        at = out_ms + gap
