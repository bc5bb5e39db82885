"""Ways to mend that several rules share: other line breaks, two captions of one, one of two, more time."""

import re
from collections.abc import Iterator
from dataclasses import replace
from itertools import pairwise

from dunlin.core.captions.model import Caption, Span, Track, joined, plain_text, sliced
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.rules.place import Candidate, Place, Setting
from dunlin.core.text.joints import joint_cost
from dunlin.core.text.lines import break_lines
from dunlin.core.text.measure import characters
from dunlin.core.text.words import joined_words, word_places, words_of
from dunlin.core.timecode import first_frame_from, frame_at, start_of_frame

__all__ = [
    "frame_at_or_after",
    "frame_at_or_before",
    "in_best_lines",
    "in_one_line",
    "more_time",
    "one_of_two",
    "other_breaks",
    "other_breaks_or_two",
    "parted",
    "spoken_by_two",
    "two_of_one",
]

_UNLIMITED_WIDTH, _USUAL_LINES = 10_000, 2
# Captions further apart than this are not said in one breath.
_CLOSE_MS = 1000
_PIECE, _RUN = re.compile(r"\s+|\S+"), re.compile(r"\S+")
_SPEAKER_LINE = re.compile(r"^[-–—]", re.MULTILINE)


def spoken_by_two(text: str) -> bool:
    """Whether more lines than one begin with a dash: each is another speaker's."""
    # Most texts are told by this alone.
    if not ("\n-" in text or "\n–" in text or "\n—" in text):
        return False
    return len(_SPEAKER_LINE.findall(text)) > 1


def _best_lines(words: list[str], setting: Setting) -> list[str]:
    """Words in lines of the spec's width."""
    spec = setting.spec
    width, most = spec.characters_per_line or _UNLIMITED_WIDTH, spec.lines or _USUAL_LINES
    wide = spec.wide_characters_count_two
    return break_lines(words, width, most, setting.language, wide_as_two=wide)


def other_breaks_or_two(place: Place, setting: Setting) -> Iterator[Candidate]:
    """Other line breaks, else two captions."""
    yield from other_breaks(place, setting)
    yield from two_of_one(place, setting)


def parted(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The spec's gap between the caption and the one before: that ends earlier, or this starts later."""
    before, caption = place.before, place.caption
    if before is None:
        return
    gap = least_gap_ms(setting.spec, setting.rate)
    out_ms = frame_at_or_before(caption.in_ms - gap, setting)
    if before.in_ms < out_ms < before.out_ms:
        yield (before.id,), (replace(before, out_ms=out_ms),)
    in_ms = frame_at_or_after(before.out_ms + gap, setting)
    if in_ms < caption.out_ms:
        yield (caption.id,), (replace(caption, in_ms=in_ms),)


def other_breaks(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The same words in other lines: the best, and if the lines may be uneven, every other way.

    Lines that each begin with a dash are two speakers', and stay.
    """
    caption = place.caption
    if spoken_by_two(place.text):
        return
    words = words_of(place.text, setting.language)
    seen = {place.text}
    ways = [_best_lines(words, setting)]
    if (setting.spec.lines or _USUAL_LINES) >= 2 and len(words) <= 40:
        costs = [joint_cost(a, b, setting.language) for a, b in pairwise(words)]
        order = sorted(range(len(costs)), key=lambda at: costs[at])
        ways += [[joined_words(words[: at + 1]), joined_words(words[at + 1 :])] for at in order]
    for lines in ways:
        text = "\n".join(lines)
        if text not in seen:
            seen.add(text)
            yield (caption.id,), (_with_gaps_of(caption, text),)


def in_best_lines(caption: Caption, setting: Setting) -> Caption:
    """The caption in the best lines of the spec's width, wherever its lines ended before.

    Lines that each begin with a dash are two speakers', and stay.
    """
    return caption if spoken_by_two(caption.text) else _broken(caption, setting)


def in_one_line(caption: Caption, setting: Setting) -> Caption:
    """The caption without line breaks, whatever the spec says of its length."""
    return _with_gaps_of(caption, joined_words(words_of(caption.text, setting.language)))


def _with_gaps_of(caption: Caption, text: str) -> Caption:
    """The caption with the spaces and line breaks of a text that has the same words."""
    whole = plain_text(caption.spans)
    parts: list[tuple[Span, ...]] = []
    at = 0
    for piece in _PIECE.findall(text):
        if piece.isspace():
            parts.append((sliced(caption.spans, at - 1, at)[0].with_text(piece),))
            continue
        left = len(piece)
        # A line break may have stood where the text has nothing.
        while left and (run := _RUN.search(whole, at)):
            at = min(run.end(), run.start() + left)
            left -= at - run.start()
            parts.append(sliced(caption.spans, run.start(), at))
    return replace(caption, spans=joined(*parts))


def two_of_one(place: Place, setting: Setting) -> Iterator[Candidate]:
    """A caption as two, at the best places to part its words, the time shared out by characters."""
    caption, text = place.caption, place.text
    total = max(characters(text), 1)
    joints = pairwise(word_places(text, setting.language))

    def badness(joint: tuple[tuple[int, int], tuple[int, int]]) -> float:
        left, right = joint
        uneven = abs(characters(text[: left[1]]) / total - 0.5)
        return joint_cost(text[slice(*left)], text[slice(*right)], setting.language) + 60 * uneven

    gap = least_gap_ms(setting.spec, setting.rate)
    new_id = _fresh_id(place.track, caption.id)
    for (_, end), (start, _) in sorted(joints, key=badness)[:8]:
        share = characters(text[:end]) / total
        moment = caption.in_ms + round(share * (caption.duration_ms - gap))
        second_in = start_of_frame(first_frame_from(moment + gap, setting.rate), setting.rate)
        first_out = frame_at_or_before(second_in - gap, setting)
        if not caption.in_ms < first_out <= second_in < caption.out_ms:
            continue
        first = replace(caption, out_ms=first_out, spans=sliced(caption.spans, 0, end))
        second = replace(
            caption, id=new_id, in_ms=second_in, spans=sliced(caption.spans, start, len(text))
        )
        yield (caption.id,), (_broken(first, setting), _broken(second, setting))


def _broken(caption: Caption, setting: Setting) -> Caption:
    """The caption in lines of the spec's width."""
    return _with_gaps_of(
        caption, "\n".join(_best_lines(words_of(caption.text, setting.language), setting))
    )


def one_of_two(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The caption joined with the one after it, or before it, where they follow each other closely."""
    for first, second in ((place.caption, place.after), (place.before, place.caption)):
        if first is None or second is None or first.speaker != second.speaker:
            continue
        if first.placement != second.placement or second.in_ms - first.out_ms > _CLOSE_MS:
            continue
        if not first.spans or not second.spans:
            continue
        space = replace(first.spans[-1], text=" ", extras=())
        spans = joined(first.spans, [space], second.spans)
        whole = replace(first, out_ms=max(first.out_ms, second.out_ms), spans=spans)
        yield (first.id, second.id), (_broken(whole, setting),)
        stacked = joined(first.spans, [Span("\n")], second.spans)
        yield (first.id, second.id), (replace(whole, spans=stacked),)


def more_time(place: Place, setting: Setting, wanted_ms: int) -> Iterator[Candidate]:
    """The caption shown for as long as is wanted, if there is room: a later out, then an earlier in.

    Time comes first from the pause after it, then from the pause before it.
    """
    caption, gap = place.caption, least_gap_ms(setting.spec, setting.rate)
    latest = frame_at_or_before(place.after.in_ms - gap, setting) if place.after else 2**53
    out_ms = min(frame_at_or_after(caption.in_ms + wanted_ms, setting), max(latest, caption.out_ms))
    if out_ms > caption.out_ms:
        yield (caption.id,), (replace(caption, out_ms=out_ms),)
    earliest = frame_at_or_after(place.before.out_ms + gap, setting) if place.before else 0
    in_ms = max(frame_at_or_before(out_ms - wanted_ms, setting), min(earliest, caption.in_ms), 0)
    if in_ms < caption.in_ms and out_ms - in_ms >= wanted_ms:
        yield (caption.id,), (replace(caption, in_ms=in_ms, out_ms=out_ms),)


def frame_at_or_after(ms: int, setting: Setting) -> int:
    """Start of the first frame that begins at a time or after it."""
    return start_of_frame(first_frame_from(max(ms, 0), setting.rate), setting.rate)


def frame_at_or_before(ms: int, setting: Setting) -> int:
    """Start of the last frame that begins at a time or before it."""
    return start_of_frame(frame_at(max(ms, 0), setting.rate), setting.rate)


def _fresh_id(track: Track, wanted: str) -> str:
    """An id like another that no caption of a track has."""
    number = 2
    while f"{wanted}-{number}" in track:
        number += 1
    return f"{wanted}-{number}"
