"""How words look by whether they are spoken: which word is spoken when, and what that makes of each.

Times are those that a caption's words were spoken at (`Spoken`), so what is told does not depend on when the caption comes in.
"""

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal, TypeAlias

from dunlin.core.captions.letter_case import in_case
from dunlin.core.captions.look import Case, Look, WordLook, said_by
from dunlin.core.captions.model import Caption, Span, Spoken, joined, plain_text, sliced
from dunlin.core.styles.model import Style
from dunlin.core.text.words import word_places
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = [
    "Beat",
    "State",
    "beats",
    "has_other_face",
    "in_state",
    "is_told",
    "shown_words",
    "starts_of",
    "word_numbers",
    "words_apart",
]

State: TypeAlias = Literal["said", "spoken", "to_come"]

_MOVES_MS = {"slide": 120, "rise": 200, "grow": 160}
"""How long a word, or its ground, is on its way; as long as the word is spoken where nothing is said."""


@dataclass(frozen=True)
class Beat:
    """A part of a caption's time in which one word is spoken, or none yet."""

    start_ms: int
    end_ms: int
    word: int
    """Its number among the words that have times; -1 before the first."""
    part: float
    """How far its telling has got, up to 1."""

    def state_of(self, word: int) -> State:
        """What a word is by then."""
        return "said" if word < self.word else "spoken" if word == self.word else "to_come"


def is_told(style: Style, spans: Iterable[Span]) -> bool:
    """Whether a style tells which word is spoken, and it is known of some."""
    return bool(style.spoken or style.said or style.to_come) and any(
        span.spoken and span.spoken.start_ms is not None for span in spans
    )


def shown_words(spans: tuple[Span, ...], style: Style) -> tuple[Span, ...]:
    """Words as they are shown before any is spoken: in their case, those of weight and those below the first line as the
    style has them."""
    shown = in_case(spans, style.case)
    if any(span.spoken and span.spoken.emphasis for span in spans):
        looks = {0: None, 1: style.emphasis, 2: style.emphasis_2 or style.emphasis}
        shown = tuple(
            in_state(span if look.case else cased, look, style.size)
            if span.spoken and span.spoken.emphasis and (look := looks[span.spoken.emphasis])
            else cased
            for span, cased in zip(spans, shown, strict=True)
        )
    if style.second_line == 1 or "\n" not in (text := plain_text(shown)):
        return shown
    first = text.index("\n") + 1
    larger = WordLook(scale=style.second_line)
    below = (in_state(span, larger, style.size) for span in sliced(shown, first, len(text)))
    return joined(sliced(shown, 0, first), below)


def in_state(span: Span, look: WordLook, size: float) -> Span:
    """Words with a state's look over their own.

    :param size: that they have without it, as a part of the picture's height
    """
    said = said_by(look)
    case: Case | None = said.pop("case", None)
    own = span.look or Look()
    if scale := said.pop("scale", None):
        said["size"] = (own.size or size) * scale
    if look.opacity is not None:
        # Pale words are pale with their edges and shadows.
        said |= dict.fromkeys(("outline_opacity", "shadow_opacity"), look.opacity)
    (cased,) = in_case((span,), case)
    return replace(cased, look=replace(own, **said))


def has_other_face(look: WordLook | None) -> bool:
    """Whether words in a state are wider or narrower than they are without it."""
    return look is not None and any(
        getattr(look, name) is not None for name in ("font", "weight", "italic", "case", "scale")
    )


def words_apart(caption: Caption, language: str) -> tuple[Span, ...]:
    """A caption's text with each word in a span of its own, and when it is spoken.

    Where several words stand in one span, they share its time by their characters. A word that has no time is spoken with
    the one before it, or with the one after where there is none before. Times never run backwards.

    :param language: BCP 47 tag: where words part
    :returns: the caption's spans as they are where no word has a time
    """
    if not any(span.spoken and span.spoken.start_ms is not None for span in caption.spans):
        return caption.spans
    parts: list[Span] = []
    for span in caption.spans:
        at = 0
        for start, end in word_places(span.text, language):
            parts += sliced([replace(span, spoken=None)], at, start)
            (word,) = sliced([span], start, end)
            parts.append(replace(word, spoken=_shared(span, start, end)))
            at = end
        parts += sliced([replace(span, spoken=None)], at, len(span.text))
    return tuple(_in_order(parts))


def _shared(span: Span, start: int, end: int) -> Spoken:
    """What is known of a part of a span, its time shared out by characters."""
    spoken = span.spoken or Spoken()
    if spoken.start_ms is None or (start == 0 and end == len(span.text)):
        return spoken
    begun, length = spoken.start_ms, (spoken.end_ms or spoken.start_ms) - spoken.start_ms
    return replace(
        spoken,
        start_ms=begun + round(length * start / len(span.text)),
        end_ms=begun + round(length * end / len(span.text)),
        # What belongs to the whole belongs to its first word.
        emoji=None if start else spoken.emoji,
    )


def _in_order(parts: Sequence[Span]) -> Iterator[Span]:
    first = next(p.spoken.start_ms for p in parts if p.spoken and p.spoken.start_ms is not None)
    begun = first
    for part in parts:
        if part.spoken is None:
            yield part
            continue
        start = begun if part.spoken.start_ms is None else part.spoken.start_ms
        begun = max(begun or 0, start or 0)
        end = max(part.spoken.end_ms or begun, begun)
        yield replace(part, spoken=replace(part.spoken, start_ms=begun, end_ms=end))


def starts_of(spans: Sequence[Span]) -> list[int]:
    """When words are spoken, in order; words that are spoken together once.

    :param spans: as `words_apart` gives them
    """
    return sorted({s.spoken.start_ms for s in spans if s.spoken and s.spoken.start_ms is not None})


def beats(
    spans: Sequence[Span], style: Style, rate: FrameRate, start_ms: int, end_ms: int
) -> Iterator[Beat]:
    """From which time until which a caption tells which word, in milliseconds: frame by frame while that moves.

    A word is told from the frame in whose time it begins until the next one is.

    :param spans: as `words_apart` gives them, with their times
    """
    starts = starts_of(spans)
    ends = {s.spoken.start_ms: s.spoken.end_ms for s in spans if s.spoken}
    frames = [frame_at(start, rate) for start in starts]
    after = max(first_frame_from(end_ms, rate), frames[-1] + 1)
    course = [(-1, 0, frames[0], 1.0)]
    for n, (first, until) in enumerate(pairwise([*frames, after])):
        length = _MOVES_MS.get(style.spoken_by, (ends[starts[n]] or 0) - starts[n])
        count = 0 if style.spoken_by == "cut" else frame_at(starts[n] + length, rate) - first
        count = min(max(count, 1), max(until - first, 1))
        course += [(n, first + i, first + i + 1, (i + 1) / count) for i in range(count - 1)]
        course.append((n, first + count - 1, until, 1.0))
    for word, first, until, part in course:
        begun, ended = (start_of_frame(frame, rate) for frame in (first, until))
        begun, ended = max(begun, start_ms), min(ended, end_ms) if until < after else end_ms
        if begun < ended:
            yield Beat(begun, ended, word, part)


def word_numbers(spans: Sequence[Span]) -> Iterator[int]:
    """The number of each span's word; what stands between two counts with the one before."""
    starts, word = starts_of(spans), 0
    for span in spans:
        if span.spoken and span.spoken.start_ms is not None:
            word = bisect_right(starts, span.spoken.start_ms) - 1
        yield word
