"""Spoken words into timed captions, by dynamic programming over all ways to cut them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import accumulate, pairwise

from dunlin.core.specs.measures import least_duration_ms, least_gap_ms
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word, in_order
from dunlin.core.text.joints import joint_cost, sentence_ends
from dunlin.core.text.lines import Breaks, Extents, best_breaks, extents_of, lines_at
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["Cut", "Shape", "segmented"]

# Costs are on the scale of `joint_cost`: 48 is a break at no place in particular.
_EACH_CAPTION = 22.0
_SENTENCE_END_INSIDE = 14.0
# A poor line break disturbs less than a poor end of a caption: both lines are seen at once.
_LINE_BREAK = 0.4
_PAUSE_PARTS_MS, _PAUSE_COST_PER_MS = 350, 0.2
# A sentence that begins inside a caption and is cut off at its end.
_SENTENCE_CUT_OFF = 60.0
_BROKEN_LIMIT = 20_000.0
# A reader hardly feels this excess of speed, as a part of the limit: more where the spec only advises.
_FELT_SPEED = {"error": 0.15, "advice": 0.3}
_FELT_COST = 60.0
_LINES_BROKEN = 2 * _BROKEN_LIMIT
# The eye needs a moment after the voice; less than the shortest pause between phrases.
_HOLD_MS = 200


@dataclass(frozen=True)
class Cut:
    """A caption to be: `lines` of text from `in_ms` to `out_ms`, of the words from `first` to `last`."""

    lines: tuple[str, ...]
    in_ms: int
    out_ms: int
    first: int
    last: int


@dataclass(frozen=True)
class Shape:
    """Captions of so many words a line, and so many lines, whatever a spec says of them."""

    words_per_line: int
    lines: int


def segmented(
    words: Sequence[Word],
    spec: Spec,
    rate: FrameRate,
    language: str = "en",
    shape: Shape | None = None,
    ends_ms: int | None = None,
) -> list[Cut]:
    """Cuts words into captions at the least cost.

    A caption costs more the worse the place where it ends, the worse its line breaks, the longer
    the pauses inside it. A pause after it makes its end better. Breaking one of the spec's limits
    (line length, lines, reading speed, durations, gap) costs more than any number of poor breaks,
    so a limit is broken only where every way of cutting breaks one. Nobody shares a caption with
    another speaker. A sentence that begins inside a caption is better whole in it than cut off at its
    end. A small excess of the reading speed, of up to a seventh, or a third where the spec only advises it,
    costs about as much as a poor break, so that sentences and phrases stay whole for it.

    :param shape: counts the words of lines in place of the spec's limits of length, speed and
        least duration
    :param ends_ms: where the film ends, if there is one: no caption is shown longer than a frame that
        is begun there
    :returns: captions in order, on frames, none overlapping the next
    """
    return _Segmenter(words, spec, rate, language, shape, ends_ms).cuts() if words else []


@dataclass(frozen=True)
class _Limits:
    """A spec's limits; where it has none, one that lets captions be read at all."""

    characters_per_line: int
    lines: int
    reading_speed: float
    least_duration_ms: Callable[[int], int]
    """Of so many characters."""
    greatest_duration_ms: int
    least_gap_frames: int
    small_excess: float
    """Of the reading speed, as a part of it: what whole sentences are worth."""

    @classmethod
    def of(cls, spec: Spec, rate: FrameRate, shape: Shape | None) -> "_Limits":
        greatest_ms = spec.greatest_duration_ms or 10_000
        gap_frames = first_frame_from(least_gap_ms(spec, rate), rate)
        if shape:
            # Words count as one character each, with a space between.
            width = 2 * shape.words_per_line - 1
            return cls(width, shape.lines, float("inf"), lambda _: 0, greatest_ms, gap_frames, 0.0)
        weight = "advice" if "reading-speed" in spec.advice else "error"
        return cls(
            spec.characters_per_line or 42,
            spec.lines or 2,
            spec.reading_speed or 25,
            partial(least_duration_ms, spec),
            greatest_ms,
            gap_frames,
            _FELT_SPEED[weight],
        )


class _Segmenter:
    """The words with everything about them that each possible caption asks for, worked out once."""

    def __init__(
        self,
        words: Sequence[Word],
        spec: Spec,
        rate: FrameRate,
        language: str,
        shape: Shape | None,
        ends_ms: int | None,
    ) -> None:
        self.words, self.rate = in_order(words), rate
        self.last_after = None if ends_ms is None else first_frame_from(ends_ms, rate)
        self.spec = _Limits.of(spec, rate, shape)
        wide = spec.wide_characters_count_two
        texts = [word.text for word in words]
        one = [1] * len(words)
        self.extents = Extents.of(one, one[1:]) if shape else extents_of(texts, wide_as_two=wide)
        self.joints = [joint_cost(a.text, b.text, language) for a, b in pairwise(words)]
        self.ins = self._frames_of_ins()
        self.gap_frames = self.spec.least_gap_frames
        pauses = [b.start_ms - a.end_ms for a, b in pairwise(self.words)]
        # A pause makes a break good whatever the words say; at a second nothing else matters.
        self.end_costs = [
            cost * (1 - min(pause, 1000) / 1000)
            for cost, pause in zip(self.joints, pauses, strict=True)
        ]
        inside = [
            max(0, pause - _PAUSE_PARTS_MS) * _PAUSE_COST_PER_MS
            + (_SENTENCE_END_INSIDE if sentence_ends(word.text, language) else 0)
            for word, pause in zip(self.words, pauses, strict=False)
        ]
        self.inside = [0.0, *accumulate(inside)]
        ends = [sentence_ends(word.text, language) for word in self.words]
        self.ends = [*ends[:-1], True] if ends else []
        # Where the sentence of each word begins.
        self.sentences: list[int] = []
        for at in range(len(ends)):
            begins = at == 0 or ends[at - 1]
            self.sentences.append(at if begins else self.sentences[-1])

    def _frames_of_ins(self) -> list[int]:
        """First frame of each word; two words never share one, so each could start a caption."""
        frames: list[int] = []
        for word in self.words:
            frame = frame_at(word.start_ms, self.rate)
            frames.append(max(frame, frames[-1] + 1) if frames else frame)
        return frames

    def cuts(self) -> list[Cut]:
        count = len(self.words)
        best = [0.0] + [float("inf")] * count
        came_from = [0] * (count + 1)
        for end in range(1, count + 1):
            for start in range(end - 1, -1, -1):
                if end - start > 1 and self._surely_too_long(start, end):
                    break
                if self.words[start].speaker != self.words[end - 1].speaker:
                    break
                cost = best[start] + self._cost(start, end, best[end] - best[start])
                if cost < best[end]:
                    best[end], came_from[end] = cost, start
        cuts, end = [], count
        while end:
            cuts.append(self._cut(came_from[end], end))
            end = came_from[end]
        return cuts[::-1]

    def _surely_too_long(self, start: int, end: int) -> bool:
        room = self.spec.characters_per_line * self.spec.lines
        return self._characters(start, end) > room + self.spec.lines - 1

    def _frames(self, start: int, end: int) -> tuple[int, int]:
        """First frame of the caption, and the first frame after it."""
        rate, spec = self.rate, self.spec
        first = self.ins[start]
        in_ms = start_of_frame(first, rate)
        wanted = max(
            self.words[end - 1].end_ms + _HOLD_MS, in_ms + self._least_duration(start, end)
        )
        after = min(
            first_frame_from(wanted, rate), frame_at(in_ms + spec.greatest_duration_ms, rate)
        )
        if end < len(self.words):
            after = min(after, self.ins[end] - self.gap_frames)
        if self.last_after is not None:
            after = min(after, self.last_after)
        return first, max(after, first + 1)

    def _least_duration(self, start: int, end: int) -> int:
        """Milliseconds that the spec wants these words shown at the least."""
        count = self._characters(start, end)
        needed = count * 1000 / self.spec.reading_speed
        return max(self.spec.least_duration_ms(count), int(needed) + 1)

    def _characters(self, start: int, end: int) -> int:
        """Characters in the caption, its line break counted as the space it replaces."""
        return self.extents.length(start, end)

    def _breaks(self, start: int, end: int) -> Breaks:
        return best_breaks(
            self.extents.part(start, end),
            self.joints[start : end - 1],
            self.spec.characters_per_line,
            self.spec.lines,
        )

    def _cost(self, start: int, end: int, most: float) -> float:
        """What a caption costs; once it is `most`, it may be told as less than it is."""
        cost = _EACH_CAPTION + self.inside[end - 1] - self.inside[start]
        if end < len(self.words):
            cost += self.end_costs[end - 1]
        if not self.ends[end - 1] and self.sentences[end - 1] > start:
            cost += _SENTENCE_CUT_OFF
        if cost < most:
            cost += _BROKEN_LIMIT * self._limits_broken(start, end)
        # Lines are the most work, and most ways to cut are too dear without them.
        if cost < most:
            breaks = self._breaks(start, end)
            cost += _LINE_BREAK * breaks.cost + (0 if breaks.fits else _LINES_BROKEN)
        return cost

    def _limits_broken(self, start: int, end: int) -> float:
        """Number of limits of time this caption breaks, each with by how much as a part of the limit."""
        first, after = self._frames(start, end)
        shown = start_of_frame(after, self.rate) - start_of_frame(first, self.rate)
        least = self._least_duration(start, end)
        spoken = self.words[end - 1].end_ms - self.words[start].start_ms
        broken = 0.0
        if shown < least:
            excess, felt = least / shown - 1, self.spec.small_excess
            if excess < felt and shown >= self.spec.least_duration_ms(self._characters(start, end)):
                broken += excess / felt * _FELT_COST / _BROKEN_LIMIT
            else:
                broken += 1 + (least - shown) / least
        if spoken > self.spec.greatest_duration_ms:
            broken += spoken / self.spec.greatest_duration_ms
        if end < len(self.words) and after > self.ins[end] - self.gap_frames:
            broken += 1
        return broken

    def _cut(self, start: int, end: int) -> Cut:
        first, after = self._frames(start, end)
        texts = [word.text for word in self.words[start:end]]
        return Cut(
            tuple(lines_at(texts, self._breaks(start, end))),
            start_of_frame(first, self.rate),
            start_of_frame(after, self.rate),
            start,
            end - 1,
        )
