"""Captions and words moved in time: by an amount, a stretch, a change of frame rate, or piece by piece."""

from bisect import bisect_right
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal, TypeAlias

from dunlin.core.captions import Caption
from dunlin.core.messages import Told, message
from dunlin.core.speech import Word
from dunlin.core.speech.words import in_order
from dunlin.core.timecode import FrameRate

__all__ = [
    "BelowZero",
    "Edges",
    "Piece",
    "Retimed",
    "RetimingError",
    "rate_change",
    "retimed",
    "shift",
    "through_anchors",
    "words_retimed",
]

Edges: TypeAlias = Literal["both", "ins", "outs"]
BelowZero: TypeAlias = Literal["hold", "drop", "less"]
"""What becomes of captions that would start before the film: held at its start, dropped, or all moved
less far, so that the first starts with the film."""

# Slower or faster than this is no mistake of timing, but of the numbers given.
_LEAST_RATE, _GREATEST_RATE = 0.2, 5.0


class RetimingError(Told, ValueError):
    """Times cannot be moved like that."""


@dataclass(frozen=True)
class Piece:
    """From `from_ms` on, until but not including `to_ms`, a time `t` becomes `t * rate + offset_ms`.

    `to_ms` None is the end, however late.
    """

    from_ms: int
    to_ms: int | None
    offset_ms: float
    rate: float = 1.0
    absent: bool = False
    """Whether the film has no such part: what is whole in it is left out."""

    def at(self, ms: float) -> int:
        return round(ms * self.rate + self.offset_ms)


@dataclass(frozen=True)
class Retimed:
    """The captions that are left, and the ids of those that would have started below zero, and of those
    in absent parts."""

    captions: tuple[Caption, ...]
    below_zero: tuple[str, ...]
    absent: tuple[str, ...] = ()


def shift(by_ms: float) -> tuple[Piece, ...]:
    """Everything later by an amount, or earlier by a negative one."""
    return (Piece(0, None, by_ms),)


def rate_change(from_rate: FrameRate, to_rate: FrameRate) -> tuple[Piece, ...]:
    """Every frame keeps its number, and is shown at another rate."""
    return (Piece(0, None, 0.0, float(from_rate.fraction / to_rate.fraction)),)


def through_anchors(anchors: Iterable[tuple[int, int]]) -> tuple[Piece, ...]:
    """Each old time comes to its new one; between two of them time is stretched evenly.

    One anchor moves everything. Before the first and behind the last, the stretch next to it goes on.

    :param anchors: pairs of old and new milliseconds, in any order
    :raises RetimingError: when there is none, or two cross
    """
    ordered = sorted(set(anchors))
    if not ordered:
        raise RetimingError(message("timing.no-anchor"))
    if len(ordered) == 1:
        return shift(ordered[0][1] - ordered[0][0])
    pieces = []
    for (old, new), (next_old, next_new) in pairwise(ordered):
        if next_old == old or next_new <= new:
            raise RetimingError(
                message(
                    "timing.anchors-cross", old=old, new=new, next_old=next_old, next_new=next_new
                )
            )
        rate = (next_new - new) / (next_old - old)
        if not _LEAST_RATE <= rate <= _GREATEST_RATE:
            raise RetimingError(
                message("timing.anchors-steep", old=old, next_old=next_old, rate=round(rate, 2))
            )
        pieces.append(Piece(old, next_old, new - old * rate, rate))
    pieces[0] = replace(pieces[0], from_ms=0)
    pieces[-1] = replace(pieces[-1], to_ms=None)
    return tuple(pieces)


def retimed(
    captions: Iterable[Caption],
    pieces: Sequence[Piece],
    *,
    edges: Edges = "both",
    below_zero: BelowZero = "hold",
) -> Retimed:
    """Captions at their new times. A whole caption moves with the piece that its in is in, and is left
    out where that is absent.

    With one edge alone moved, a caption keeps a millisecond at least.

    :param pieces: in order, the first of which also holds for what comes before it
    """
    piece_at = _pieces_by_time(pieces)
    moved, absent = [], []
    for caption in captions:
        piece = piece_at(caption.in_ms)
        if piece.absent:
            absent.append(caption.id)
            continue
        in_ms, out_ms = piece.at(caption.in_ms), piece.at(caption.out_ms)
        if edges == "ins":
            in_ms, out_ms = min(in_ms, caption.out_ms - 1), caption.out_ms
        elif edges == "outs":
            in_ms, out_ms = caption.in_ms, max(out_ms, caption.in_ms + 1)
        moved.append((caption, in_ms, max(out_ms, in_ms + 1)))
    below = tuple(caption.id for caption, in_ms, _ in moved if in_ms < 0)
    if below and below_zero == "drop":
        moved = [entry for entry in moved if entry[1] >= 0]
    elif below and below_zero == "less":
        too_far = min(in_ms for _, in_ms, _ in moved)
        moved = [
            (c, in_ms - (edges != "outs") * too_far, out_ms - (edges != "ins") * too_far)
            for c, in_ms, out_ms in moved
        ]
        moved = [(c, in_ms, max(out_ms, in_ms + 1)) for c, in_ms, out_ms in moved]
    return Retimed(tuple(_held(*entry) for entry in moved), below, tuple(absent))


def words_retimed(words: Iterable[Word], pieces: Sequence[Piece]) -> list[Word]:
    """Words at their new times, each moved whole with the piece that it begins in, without those of
    absent ones.

    None begins before zero, nor before the one before it ends.

    :param pieces: in order, the first of which also holds for what comes before it
    """
    piece_at = _pieces_by_time(pieces)
    return in_order(
        replace(word, start_ms=piece.at(word.start_ms), end_ms=piece.at(word.end_ms))
        for word in words
        for piece in (piece_at(word.start_ms),)
        if not piece.absent
    )


def _pieces_by_time(pieces: Sequence[Piece]) -> Callable[[int], Piece]:
    starts = [piece.from_ms for piece in pieces]
    return lambda ms: pieces[max(bisect_right(starts, ms) - 1, 0)]


def _held(caption: Caption, in_ms: int, out_ms: int) -> Caption:
    """At zero, where it would start before; one that would even end before keeps its length."""
    if in_ms < 0:
        in_ms, out_ms = 0, out_ms if out_ms > 0 else out_ms - in_ms
    return replace(caption, in_ms=in_ms, out_ms=out_ms)
