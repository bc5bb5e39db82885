"""Captions of a few words at a time, made of words that were heard, or anew of captions that are there.

What was done to words by hand stays with them: how they are written and styled, which weigh, what stands by them, where a
caption shall begin. What was done to a caption stays with its first word.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Span, Spoken, joined, plain_text
from dunlin.core.short.emphasis import words_of_weight
from dunlin.core.short.fit import Fitted, Widths, fitted
from dunlin.core.short.model import ALL_SEEN, AMOUNTS, Seen, ShortLook
from dunlin.core.short.rhythm import Heard, parted
from dunlin.core.short.sight import within_sight
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word, linked_ms
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.telling import in_state, shown_words, words_apart
from dunlin.core.styles.wrapping import room_of, spans_width
from dunlin.core.text.joints import joint_cost
from dunlin.core.text.words import between
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["ShortWord", "short_captions", "weighed", "words_of_captions", "words_of_transcript"]

_HOLD_MS = 350
"""How long a caption stays after its last word where nothing follows."""
_BRIDGED_MS = 700
"""A pause in which a caption stays until the next one comes: shorter ones would flicker."""


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
    """Words with those of weight told by the measure, in place of what was told of any before."""
    weighing = look.weighing
    kinds = words_of_weight([w.text for w in words], weighing.share, weighing.colours, language)
    return [
        replace(
            word,
            spans=tuple(
                replace(
                    span, spoken=replace(span.spoken or Spoken(), emphasis=_KINDS[kinds.get(n, 0)])
                )
                for span in word.spans
            ),
        )
        for n, word in enumerate(words)
    ]


_KINDS: tuple[None, Literal[1], Literal[2]] = (None, 1, 2)


def short_captions(
    words: Sequence[ShortWord],
    look: ShortLook,
    style: Style,
    picture: Script,
    spec: Spec,
    rate: FrameRate,
    language: str,
    *,
    seen: Seen = ALL_SEEN,
    ends_ms: int | None = None,
) -> tuple[Caption, ...]:
    """Captions of words in a look's rhythm, each within what a viewer sees of the picture.

    A caption that begins with the word that one began with before is that one
    still: it keeps its id, and its place and look by hand.

    :param words: in order of their times
    :param style: the whole style of the look
    :param seen: what a viewer sees of the picture
    :param ends_ms: where the film ends, if there is one
    :returns: in order; a new one's id is `short-` and a number
    """
    if not words:
        return ()
    widths = tuple(_width(word, style, picture) for word in words)
    space = spans_width([Span(" ")], style, picture)
    edge = 2 * (
        style.outline + style.outline_softness + style.background_padding * bool(style.background)
    )
    room = min(room_of(style), seen.right - seen.left) * picture.width - edge * base_size(picture)
    heard = [
        Heard(w.text, w.start_ms, w.end_ms, width, w.spoken.boundary, w.speaker)
        for w, width in zip(words, widths, strict=True)
    ]
    joints = [joint_cost(a.text, b.text, language) for a, b in pairwise(words)]
    measured = Widths(widths, space, room, style.second_line)
    lines = 2 if look.rhythm.by != "amount" else AMOUNTS[look.rhythm.amount - 1].lines
    parts = [
        part
        for first, after in parted(heard, look.rhythm, room, space, language, (spec, rate))
        for part in fitted(measured, joints, look.fit, first, after, lines)
    ]
    captions: list[Caption] = []
    for n, part in enumerate(parts):
        own = words[part.first : part.after]
        following = words[parts[n + 1].first].start_ms if n + 1 < len(parts) else None
        in_ms, out_ms = _times(own, following, rate, ends_ms)
        if captions and captions[-1].out_ms > in_ms:
            captions[-1] = replace(captions[-1], out_ms=max(in_ms, captions[-1].in_ms + 1))
        made = _caption(part, own, f"short-{n}", in_ms, out_ms, style)
        captions.append(within_sight(made, style, picture, seen))
    return tuple(captions)


def _width(word: ShortWord, style: Style, picture: Script) -> float:
    """Pixels that a word takes at its widest: at rest, or in any of its states."""
    rest = shown_words(word.spans, style)
    widths = [spans_width(rest, style, picture)]
    for look in (style.spoken, style.said, style.to_come):
        if look:
            told = [in_state(span, look, style.size) for span in rest]
            widths.append(spans_width(told, style, picture))
    return max(widths)


def _times(
    own: Sequence[ShortWord], following_ms: int | None, rate: FrameRate, ends_ms: int | None
) -> tuple[int, int]:
    """From the frame in which the first word begins until the next caption comes, or until the last word has been read."""
    first = frame_at(own[0].start_ms, rate)
    ends = max(word.end_ms for word in own)
    after = first_frame_from(ends + _HOLD_MS, rate)
    if following_ms is not None:
        following = frame_at(following_ms, rate)
        after = following if following_ms - ends < _BRIDGED_MS else min(after, following)
    if ends_ms is not None:
        after = min(after, first_frame_from(ends_ms, rate))
    return start_of_frame(first, rate), start_of_frame(max(after, first + 1), rate)


def _caption(
    part: Fitted, own: Sequence[ShortWord], id_: str, in_ms: int, out_ms: int, style: Style
) -> Caption:
    pieces: list[tuple[Span, ...]] = []
    for n, word in enumerate(own, part.first):
        if pieces:
            gap = "\n" if n in part.breaks else between(own[n - part.first - 1].text, word.text)
            pieces.append((Span(gap),) if gap else ())
        pieces.append(word.spans)
    was = own[0].caption
    look = was.look if was else None
    size = round(style.size * part.size, 5) if part.size < 1 else None
    if size or (look and look.size):
        look = replace(look or Look(), size=size)
        look = look if said_by(look) else None
    if was:
        return replace(was, in_ms=in_ms, out_ms=out_ms, spans=joined(*pieces), look=look)
    return Caption(id_, in_ms, out_ms, joined(*pieces), own[0].speaker, look=look)
