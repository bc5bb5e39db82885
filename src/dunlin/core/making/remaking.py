"""Captions made of a transcript, again and again, without losing what was done by hand."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import zip_longest

from dunlin.core.captions.look import Case
from dunlin.core.captions.model import Caption, Span, joined, spans_of
from dunlin.core.making.segmentation import Shape, segmented
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.model import Spec
from dunlin.core.speech.words import Word, linked_ms
from dunlin.core.text.joints import bare_word
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = ["Change", "Made", "captions_made", "changes"]

# A caption that was timed by hand stands near its words, not always on them.
_NEAR_MS = 2000


@dataclass(frozen=True)
class Made:
    """The captions a track would have, in order, and the ids of those that stay as they are."""

    captions: tuple[Caption, ...]
    kept: frozenset[str]


@dataclass(frozen=True)
class Change:
    """A part of a track that would be another: `gone` are ids of captions whose place is taken."""

    gone: tuple[str, ...]
    put: tuple[Caption, ...]


def changes(old: Iterable[Caption], made: Made) -> list[Change]:
    """What would change in a track, in parts that can be made one without the other.

    Captions of two parts are at no time shown together, before or after: so whichever are made,
    nothing comes to overlap. Captions that would be as they are belong to none.

    :param old: the captions of the track
    """
    before = [(caption, True) for caption in old if caption.id not in made.kept]
    after = [(caption, False) for caption in made.captions if caption.id not in made.kept]
    parts: list[list[tuple[Caption, bool]]] = []
    ends = -1
    for caption, was in sorted([*before, *after], key=lambda each: each[0].in_ms):
        if not parts or caption.in_ms >= ends:
            parts.append([])
        parts[-1].append((caption, was))
        ends = max(ends, caption.out_ms)
    found = []
    for part in parts:
        gone = [caption for caption, was in part if was]
        put = tuple(caption for caption, was in part if not was)
        if [_shown(caption) for caption in gone] != [_shown(caption) for caption in put]:
            found.append(Change(tuple(caption.id for caption in gone), put))
    return found


def _shown(caption: Caption) -> Caption:
    """A caption without its name: equal to one that looks the same."""
    return replace(caption, id="")


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
    ends_ms: int | None = None,
) -> Made:
    """Captions of the words, in place of those a track has.

    Captions that are locked stay. So do those that were timed or written by hand, where the
    transcript still says their words: at the same place, one after the other. The words between
    them are cut as if they stood alone. Time links are nobody's words, and words that are left out stay out.

    :param old: the captions of the track, in its order
    :param case: how the letters of new ones are shown
    :param keep: whether captions made by hand stay
    :param ends_ms: where the film ends, if there is one
    :returns: captions with ids of their own; a new one's is `made-` and a number
    """
    words = [word for word in words if not word.left_out and linked_ms(word.text) is None]
    kept = list(_kept(words, old, keep))
    gap_ms = least_gap_ms(spec, rate)
    captions: list[Caption] = []
    from_word, from_ms = 0, 0
    for caption, first, after in [*kept, (None, len(words), len(words))]:
        cuts = segmented(words[from_word:first], spec, rate, language, shape, ends_ms)
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
                f"made-{len(captions)}", in_ms, out_ms,
                _styled("\n".join(cut.lines), words[from_word + cut.first : from_word + cut.last + 1]),
                speaker, case=case,
            ))  # fmt: skip
        if caption:
            from_word, from_ms = max(after, from_word), caption.out_ms + gap_ms
    stay = [caption for caption, _, _ in kept]
    fresh = [replace(c, made=c.fingerprint) for c in _apart(captions, gap_ms)]
    return Made(
        tuple(sorted([*stay, *fresh], key=lambda c: (c.in_ms, c.out_ms))),
        frozenset(caption.id for caption in stay),
    )


def _styled(text: str, words: Sequence[Word]) -> tuple[Span, ...]:
    """A text of these words in their styles; what stands between two of one style is in it too."""
    if not any(word.italic or word.bold or word.underline for word in words):
        return spans_of(text)
    looks = [Span("", word.italic, word.bold, word.underline) for word in words]
    parts, at, before = [], 0, None
    for word, look in zip(words, looks, strict=True):
        start = text.index(word.text, at)
        between = look if look == before else Span("")
        parts += [between.with_text(text[at:start]), look.with_text(word.text)]
        at, before = start + len(word.text), look
    return joined(parts)


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
        said = "".join(map(bare_word, caption.text.split()))
        place = _place(bare, starts, said, caption, free) if said else None
        if place is not None:
            first, free = place
            yield caption, first, free
        elif caption.locked:
            # What is said while it is shown is not said twice.
            first = max(bisect_left(starts, caption.in_ms), free)
            free = max(bisect_left(starts, caption.out_ms), first)
            yield caption, first, free


def _place(
    bare: Sequence[str], starts: Sequence[int], said: str, caption: Caption, free: int
) -> tuple[int, int] | None:
    """The words nearest to a caption's in with which the transcript says what the caption says: the
    first, and the one after the last. Where words end is not compared: some scripts do not show it."""
    low = max(bisect_left(starts, caption.in_ms - _NEAR_MS), free)
    high = bisect_left(starts, caption.out_ms + _NEAR_MS)
    places = [
        (at, end) for at in range(low, high) if bare[at] and (end := _said_until(bare, at, said))
    ]
    return min(places, key=lambda place: abs(starts[place[0]] - caption.in_ms), default=None)


def _said_until(bare: Sequence[str], at: int, said: str) -> int | None:
    """The word after those that say it from a place on; None where they say something else."""
    while said and at < len(bare) and said.startswith(bare[at]):
        said = said.removeprefix(bare[at])
        at += 1
    return None if said else at
