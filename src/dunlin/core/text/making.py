"""Captions made of a transcript, again and again, without losing what was done by hand."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import zip_longest

from dunlin.core.captions.model import Caption, Case, spans_of
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word, linked_ms
from dunlin.core.text.joints import bare_word
from dunlin.core.text.segmentation import Shape, segmented
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["Made", "captions_made"]

# A caption that was timed by hand stands near its words, not always on them.
_NEAR_MS = 2000


@dataclass(frozen=True)
class Made:
    """The captions a track would have, in order, and the ids of those that stay as they are."""

    captions: tuple[Caption, ...]
    kept: frozenset[str]


def captions_made(
    words: Sequence[Word],
    old: Sequence[Caption],
    spec: Spec,
    rate: FrameRate,
    language: str = "en",
    *,
    shape: Shape | None = None,
    case: Case | None = None,
    keep: bool = True,
) -> Made:
    """Captions of the words, in place of those a track has.

    Captions that are locked stay. So do those that were timed or written by hand, where the
    transcript still says their words: at the same place, one after the other. The words between
    them are cut as if they stood alone. Time links are nobody's words.

    :param old: the captions of the track, in its order
    :param case: how the letters of new ones are shown
    :param keep: whether captions made by hand stay
    :returns: captions with ids of their own; a new one's is `made-` and a number
    """
    words = [word for word in words if linked_ms(word.text) is None]
    kept = list(_kept(words, old, keep))
    gap_ms = least_gap_ms(spec, rate)
    captions: list[Caption] = []
    from_word, from_ms = 0, 0
    for caption, first, after in [*kept, (None, len(words), len(words))]:
        cuts = segmented(words[from_word:first], spec, rate, language, shape)
        until_ms = caption.in_ms - gap_ms if caption else None
        for cut in cuts:
            in_ms = max(cut.in_ms, start_of_frame(first_frame_from(from_ms, rate), rate))
            out_ms = cut.out_ms
            if until_ms is not None and out_ms > until_ms:
                out_ms = start_of_frame(frame_at(max(until_ms, 0), rate), rate)
            if out_ms <= in_ms:
                # No room is left beside one that stays: an overlap is found and mended, a word left
                # out is not.
                in_ms, out_ms = cut.in_ms, cut.out_ms
            speaker = words[from_word + cut.first].speaker
            captions.append(Caption(
                f"made-{len(captions)}", in_ms, out_ms, spans_of("\n".join(cut.lines)), speaker,
                case=case,
            ))  # fmt: skip
        if caption:
            from_word, from_ms = max(after, from_word), caption.out_ms + gap_ms
    stay = [caption for caption, _, _ in kept]
    fresh = [replace(c, made=c.fingerprint) for c in _apart(captions, gap_ms)]
    return Made(
        tuple(sorted([*stay, *fresh], key=lambda c: (c.in_ms, c.out_ms))),
        frozenset(caption.id for caption in stay),
    )


def _apart(captions: Sequence[Caption], gap_ms: int) -> Iterator[Caption]:
    """The captions, each over before the next one begins: one that found no room beside a caption
    that stays has the times of its words, which linger on into what comes after."""
    for caption, after in zip_longest(captions, captions[1:]):
        if after and caption.in_ms < after.in_ms < caption.out_ms:
            out_ms = after.in_ms - gap_ms
            caption = replace(caption, out_ms=out_ms if out_ms > caption.in_ms else after.in_ms)
        yield caption


def _kept(
    words: Sequence[Word], old: Iterable[Caption], keep: bool
) -> Iterator[tuple[Caption, int, int]]:
    """Captions that stay, with the words they stand for: the first, and the one after the last."""
    bare = [bare_word(word.text) for word in words]
    starts = [word.start_ms for word in words]
    free = 0
    for caption in old:
        by_hand = keep and not caption.is_untouched
        if not (by_hand or caption.locked):
            continue
        said = [token for token in map(bare_word, caption.text.split()) if token]
        first = _place(bare, starts, said, caption, free) if said else None
        if first is not None:
            free = first + len(said)
            yield caption, first, free
        elif caption.locked:
            # What is said while it is shown is not said twice.
            first = max(bisect_left(starts, caption.in_ms), free)
            free = max(bisect_left(starts, caption.out_ms), first)
            yield caption, first, free


def _place(
    bare: Sequence[str], starts: Sequence[int], said: Sequence[str], caption: Caption, free: int
) -> int | None:
    """The word nearest to a caption's in from which the transcript says what the caption says."""
    low = max(bisect_left(starts, caption.in_ms - _NEAR_MS), free)
    high = min(bisect_left(starts, caption.out_ms + _NEAR_MS), len(bare) - len(said) + 1)
    places = [at for at in range(low, high) if list(bare[at : at + len(said)]) == list(said)]
    return min(places, key=lambda at: abs(starts[at] - caption.in_ms), default=None)
