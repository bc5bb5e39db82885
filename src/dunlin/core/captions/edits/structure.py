"""Edits of which captions there are."""

from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from dunlin.core.captions.edits.outcome import Applied, Conflict, held, timed
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.captions.model import Caption, Extras, Span, Track, joined, plain_text, sliced
from dunlin.core.messages import message

__all__ = [
    "DeleteCaptions",
    "InsertCaptions",
    "MergeCaptions",
    "ReplaceCaptions",
    "SplitCaption",
    "delete_captions",
    "insert_captions",
    "merge_captions",
    "replace_captions",
    "split_caption",
]


# What a file knows of one caption alone, and would know twice if both halves of a split kept it.
_OF_ONE_CAPTION = frozenset({"webvtt:id", "webvtt:notes"})


@dataclass(frozen=True)
class InsertCaptions:
    """Adds captions, each with an id of its own."""

    captions: tuple[Caption, ...]
    kind: Literal["insert-captions"] = "insert-captions"

    def names(self) -> frozenset[str]:
        return frozenset()


@dataclass(frozen=True)
class DeleteCaptions:
    """Takes captions away."""

    captions: tuple[str, ...]
    kind: Literal["delete-captions"] = "delete-captions"

    def names(self) -> frozenset[str]:
        return frozenset(self.captions)


@dataclass(frozen=True)
class ReplaceCaptions:
    """Takes captions away and puts others in, in one step."""

    removed: tuple[str, ...]
    captions: tuple[Caption, ...]
    kind: Literal["replace-captions"] = "replace-captions"

    def names(self) -> frozenset[str]:
        return frozenset(self.removed)


@dataclass(frozen=True)
class SplitCaption:
    """Parts a caption in two at a character of its text.

    The first ends at `at_ms`; the second, with the id `new_id`, starts `gap_ms` later.
    """

    caption: str
    offset: int
    at_ms: int
    new_id: str
    gap_ms: int = 0
    kind: Literal["split-caption"] = "split-caption"

    def names(self) -> frozenset[str]:
        return frozenset({self.caption})


@dataclass(frozen=True)
class MergeCaptions:
    """Makes one caption of neighbours; it keeps the id and speaker of the first, and words of other
    speakers tell whose they are."""

    captions: tuple[str, ...]
    kind: Literal["merge-captions"] = "merge-captions"

    def names(self) -> frozenset[str]:
        return frozenset(self.captions)


def replace_captions(track: Track, edit: ReplaceCaptions) -> Applied:
    """Carries it out. :raises Conflict: when a caption is not there, or one of that id is already"""
    removed = frozenset(edit.removed)
    if len(removed) != len(edit.removed):
        raise Conflict(message("edits.removed-twice"))
    before = tuple(held(track, id_) for id_ in edit.removed)
    put = [timed(caption) for caption in edit.captions]
    seen: set[str] = set()
    for caption in put:
        if caption.id in seen or (caption.id in track and caption.id not in removed):
            raise Conflict(message("edits.there-already", caption=caption.id))
        seen.add(caption.id)
    changed = track.changed(edit.removed, put)
    inverse = ReplaceCaptions(tuple(caption.id for caption in put), before)
    return Applied(changed, inverse, removed | seen)


def insert_captions(track: Track, edit: InsertCaptions) -> Applied:
    """Carries it out. :raises Conflict: when there is a caption of an id already"""
    applied = replace_captions(track, ReplaceCaptions((), edit.captions))
    return replace(applied, inverse=DeleteCaptions(tuple(c.id for c in edit.captions)))


def delete_captions(track: Track, edit: DeleteCaptions) -> Applied:
    """Carries it out. :raises Conflict: when a caption is not there"""
    inverse = InsertCaptions(tuple(held(track, id_) for id_ in edit.captions))
    return replace(replace_captions(track, ReplaceCaptions(edit.captions, ())), inverse=inverse)


def split_caption(track: Track, edit: SplitCaption) -> Applied:
    """Carries it out.

    What a file knows of the caption alone stays with the first half. A locked caption is split, and
    both halves keep their lock.

    :raises Conflict: when it is not there, or no words stand on one side of the place
    """
    caption = held(track, edit.caption)
    length = len(caption.text)
    first = _trimmed(sliced(caption.spans, 0, edit.offset))
    second = _trimmed(sliced(caption.spans, edit.offset, length))
    if not first or not second:
        raise Conflict(message("edits.split-between-words"))
    halves = (
        replace(caption, out_ms=edit.at_ms, spans=first),
        replace(
            caption,
            id=edit.new_id,
            in_ms=edit.at_ms + edit.gap_ms,
            spans=second,
            extras=tuple(pair for pair in caption.extras if pair[0] not in _OF_ONE_CAPTION),
        ),
    )
    return replace_captions(track, ReplaceCaptions((caption.id,), halves))


def merge_captions(track: Track, edit: MergeCaptions) -> Applied:
    """Carries it out. Letters stay as they are shown where the captions show them in another case.

    :raises Conflict: when one is not there, or they do not stand one after the other
    """
    captions = sorted(
        (held(track, id_) for id_ in set(edit.captions)), key=lambda c: (c.in_ms, c.id)
    )
    if len(captions) < 2:
        raise Conflict(message("edits.merge-of-one"))
    places = [track.index(caption.id) for caption in captions]
    if any(after - before != 1 for before, after in pairwise(places)):
        raise Conflict(message("edits.merge-of-neighbours"))
    if len({caption.case for caption in captions}) > 1:
        captions = [as_shown(caption) for caption in captions]
    first = captions[0]
    spans: tuple[Span, ...] = ()
    extras: Extras = first.extras
    for caption in captions:
        own = caption.spans
        if caption.speaker and caption.speaker != first.speaker:
            own = tuple(replace(span, voice=span.voice or caption.speaker) for span in own)
        spans = joined(spans, [Span("\n")] if spans and own else [], own)
        known = {name for name, _ in extras}
        extras += tuple(pair for pair in caption.extras if pair[0] not in known)
    merged = replace(first, out_ms=max(c.out_ms for c in captions), spans=spans, extras=extras)
    return replace_captions(track, ReplaceCaptions(tuple(c.id for c in captions), (merged,)))


def _trimmed(spans: tuple[Span, ...]) -> tuple[Span, ...]:
    text = plain_text(spans)
    start = len(text) - len(text.lstrip())
    return sliced(spans, start, len(text.rstrip()))
