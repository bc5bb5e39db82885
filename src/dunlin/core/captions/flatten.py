"""Captions that overlap, made into captions that do not."""

from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

from dunlin.core.captions.model import Caption, Span, Track, joined

__all__ = ["flattened", "overlapping"]


def overlapping(captions: Iterable[Caption]) -> tuple[str, ...]:
    """Ids of the captions that are shown together with another, in the order of their ins."""
    found: dict[str, None] = {}
    latest: Caption | None = None
    for caption in sorted(captions, key=lambda caption: (caption.in_ms, caption.id)):
        if latest is not None and caption.in_ms < latest.out_ms:
            found |= {latest.id: None, caption.id: None}
        if latest is None or caption.out_ms > latest.out_ms:
            latest = caption
    return tuple(found)


def flattened(captions: Iterable[Caption]) -> tuple[Caption, ...]:
    """Captions of which only one is shown at a time, showing the same words at the same times.

    Where several were shown, one caption stacks their texts: what stands higher in the picture
    first, then what began earlier. A caption that is not overlapped stays as it is.
    """
    track = Track.of(captions)
    clashing = set(overlapping(track))
    result = [caption for caption in track if caption.id not in clashing]
    together = [caption for caption in track if caption.id in clashing]
    edges = sorted({edge for c in together for edge in (c.in_ms, c.out_ms)})
    taken = set(track.by_id)
    shown: list[Caption] = []
    coming = iter(together)
    ahead = next(coming, None)
    for start, end in pairwise(edges):
        shown = [caption for caption in shown if caption.out_ms > start]
        while ahead is not None and ahead.in_ms <= start:
            shown.append(ahead)
            ahead = next(coming, None)
        if shown:
            result.append(_stacked(shown, start, end, taken))
    result.sort(key=lambda caption: (caption.in_ms, caption.id))
    return tuple(result)


def _stacked(shown: list[Caption], in_ms: int, out_ms: int, taken: set[str]) -> Caption:
    """One caption with the texts of several; it has the id of the first that begins here."""
    stack = sorted(shown, key=lambda caption: (_height(caption), caption.in_ms, caption.id))
    base = next((caption for caption in stack if caption.in_ms == in_ms), stack[0])
    speakers = {caption.speaker for caption in stack}
    spans: tuple[Span, ...] = ()
    for caption in stack:
        own = caption.spans
        if len(speakers) > 1 and caption.speaker:
            own = tuple(replace(span, voice=span.voice or caption.speaker) for span in own)
        spans = joined(spans, [Span("\n")] if spans and own else [], own)
    return replace(
        base,
        id=base.id if base.in_ms == in_ms else _fresh_id(base.id, taken),
        in_ms=in_ms,
        out_ms=out_ms,
        spans=spans,
        speaker=base.speaker if len(speakers) == 1 else None,
        placement=base.placement if len({caption.placement for caption in stack}) == 1 else None,
    )


def _height(caption: Caption) -> float:
    place = caption.placement
    if place is None:
        return 1.0
    return (
        place.y if place.y is not None else {"top": 0.0, "middle": 0.5, "bottom": 1.0}[place.anchor]
    )


def _fresh_id(wanted: str, taken: set[str]) -> str:
    number = 2
    while f"{wanted}-{number}" in taken:
        number += 1
    taken.add(f"{wanted}-{number}")
    return f"{wanted}-{number}"
