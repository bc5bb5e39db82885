"""Words with all that is said of them: of a transcript, or of captions that are there."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from dunlin.core.captions.model import Caption, Span, Spoken, plain_text
from dunlin.core.short.emphasis import words_of_weight
from dunlin.core.short.model import ShortLook
from dunlin.core.speech.words import Word, linked_ms
from dunlin.core.styles.telling import words_apart

__all__ = [
    "ShortWord",
    "is_set",
    "weighed",
    "with_spoken",
    "words_of_captions",
    "words_of_transcript",
]


@dataclass(frozen=True)
class ShortWord:
    """A word with all that is said of it, and of the caption that begins with it."""

    spans: tuple[Span, ...]
    start_ms: int
    end_ms: int
    speaker: str | None = None
    caption: Caption | None = None
    """The caption that begins with it; its times and words are nobody's."""

    @property
    def text(self) -> str:
        return plain_text(self.spans)

    @property
    def spoken(self) -> Spoken:
        return self.spans[0].spoken or Spoken()


def words_of_transcript(words: Iterable[Word]) -> list[ShortWord]:
    """The words that captions say: without time links, and without those that are left out."""
    return [
        ShortWord(
            (Span(word.text, word.italic, word.bold, word.underline, spoken=Spoken(word.start_ms, word.end_ms)),),
            word.start_ms, word.end_ms, word.speaker,
        )
        for word in words
        if not word.left_out and linked_ms(word.text) is None and word.text.strip()
    ]  # fmt: skip


def words_of_captions(captions: Iterable[Caption], language: str) -> list[ShortWord]:
    """The words of captions as they stand there, each with the time it was spoken at.

    Words of a caption in which none has a time share its time by their characters. Shapes are passed over.
    """
    found: list[ShortWord] = []
    for caption in captions:
        if caption.is_shape or not caption.text.strip():
            continue
        parts = words_apart(_timed(caption), language)
        own: list[list[Span]] = []
        goes_on = False
        for part in parts:
            if part.spoken is None or not part.text.strip():
                goes_on = False
            elif goes_on and own and own[-1][-1].spoken == part.spoken:
                own[-1].append(part)
            else:
                own.append([part])
                goes_on = True
        for n, spans in enumerate(own):
            spoken = spans[0].spoken or Spoken()
            start = caption.in_ms if spoken.start_ms is None else spoken.start_ms
            found.append(ShortWord(
                tuple(spans), start, max(spoken.end_ms or start, start), caption.speaker,
                caption if n == 0 else None,
            ))  # fmt: skip
    return sorted(found, key=lambda word: word.start_ms)


def _timed(caption: Caption) -> Caption:
    if any(span.spoken and span.spoken.start_ms is not None for span in caption.spans):
        return caption
    at, spans, length = 0, [], len(caption.text)
    for span in caption.spans:
        start, end = (
            caption.in_ms + caption.duration_ms * place // length for place in (at, at + len(span.text))
        )  # fmt: skip
        spans.append(
            replace(span, spoken=replace(span.spoken or Spoken(), start_ms=start, end_ms=end))
        )
        at += len(span.text)
    return replace(caption, spans=tuple(spans))


def weighed(words: Sequence[ShortWord], look: ShortLook, language: str) -> list[ShortWord]:
    """Words with those of weight told by the measure, in place of what it told before; what somebody set stays."""
    weighing = look.weighing
    kinds = words_of_weight([w.text for w in words], weighing.share, weighing.colours, language)
    return [
        word
        if is_set(word.spoken)
        else with_spoken(word, emphasis=kinds.get(n), measured=n in kinds or None)
        for n, word in enumerate(words)
    ]


def is_set(spoken: Spoken) -> bool:
    """Whether somebody set the weight of a word."""
    return spoken.emphasis is not None and not spoken.measured


def with_spoken(word: ShortWord, **known: Any) -> ShortWord:
    """A word of which more, or something else, is known."""
    spans = (replace(s, spoken=replace(s.spoken or Spoken(), **known)) for s in word.spans)
    return replace(word, spans=tuple(spans))
