"""Room for words: how many characters a caption may still have at its reading speed, and what would make more of it."""

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal, TypeAlias

from dunlin.core.captions import Caption, Change, ChangeCaptions, ReplaceCaptions
from dunlin.core.captions.model import Track
from dunlin.core.language.drafts.asking import readable_in
from dunlin.core.specs import Judge
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.mends import what_breaks
from dunlin.core.specs.rules.place import Candidate, Place, Setting
from dunlin.core.specs.rules.reshaping import (
    frame_at_or_after,
    frame_at_or_before,
    in_best_lines,
    one_of_two,
)

__all__ = ["Offer", "Room", "Way", "room_of"]

Way: TypeAlias = Literal["longer", "earlier", "lines", "join"]
"""A later out, an earlier in, other lines, or one caption of this and its neighbour."""


@dataclass(frozen=True)
class Offer:
    """A way to more room that breaks no limit which is kept now."""

    way: Way
    by_ms: int
    """Milliseconds that the caption is shown longer; none where that is not what it does."""
    left: int
    """Characters that there is room for then."""
    edit: ChangeCaptions | ReplaceCaptions


@dataclass(frozen=True)
class Room:
    """The room that the words of a caption have."""

    left: int | None
    """Characters that may still be written, less than none where there are too many; None without a limit."""
    silence_ms: int | None
    """For so long nobody speaks after its out; None where it is not known who speaks when, or nobody does any more."""
    offers: tuple[Offer, ...]


def room_of(track: Track, index: int, judge: Judge) -> Room:
    """The room of a caption, and what would make more where its words or lines have none.

    :param index: its place in the track's order
    """
    place, setting = judge.place(track, index), judge.setting
    left = _left(place, setting)
    offers: list[Offer] = []
    if (left is not None and left < 0) or _lines_are_over(place, setting):
        for way, candidate in _candidates(place, setting):
            if any(offer.way == way for offer in offers) or what_breaks(track, candidate, judge):
                continue
            offers.append(_offer(track, place, way, candidate, judge))
    return Room(left, _silence(place.caption, setting), tuple(offers))


def _left(place: Place, setting: Setting) -> int | None:
    readable = readable_in(place.caption, setting.spec.reading_speed)
    if readable is None:
        return None
    return readable - round(place.measures.reading_speed * place.measures.duration_ms / 1000)


def _lines_are_over(place: Place, setting: Setting) -> bool:
    most, lines = setting.spec.characters_per_line, setting.spec.lines
    measures = place.measures
    return bool(most and measures.longest_line > most) or bool(lines and measures.lines > lines)


def _candidates(place: Place, setting: Setting) -> Iterator[tuple[Way, Candidate]]:
    """Ways in the order in which they change least: lines, then time, then neighbours."""
    caption = place.caption
    if (broken := in_best_lines(caption, setting)).spans != caption.spans:
        yield "lines", ((caption.id,), (broken,))
    limit, gap = setting.spec.reading_speed, least_gap_ms(setting.spec, setting.rate)
    if limit and place.measures.reading_speed > limit:
        duration = place.measures.duration_ms
        wanted = ceil(place.measures.reading_speed * duration / limit) - duration
        latest = place.after.in_ms - gap if place.after else setting.film_ends_ms
        out_ms = frame_at_or_after(caption.out_ms + wanted, setting)
        if latest is not None:
            out_ms = min(out_ms, frame_at_or_before(latest, setting))
        if out_ms > caption.out_ms:
            yield "longer", ((caption.id,), (replace(caption, out_ms=out_ms),))
        earliest = place.before.out_ms + gap if place.before else 0
        in_ms = max(
            frame_at_or_before(caption.in_ms - wanted, setting),
            frame_at_or_after(earliest, setting),
        )
        if in_ms < caption.in_ms:
            yield "earlier", ((caption.id,), (replace(caption, in_ms=in_ms),))
        for candidate in one_of_two(place, setting):
            yield "join", candidate


def _offer(track: Track, place: Place, way: Way, candidate: Candidate, judge: Judge) -> Offer:
    removed, put = candidate
    changed = track.changed(removed, put)
    after = judge.place(changed, changed.index(put[0].id))
    edit: ChangeCaptions | ReplaceCaptions
    if way == "join":
        edit = ReplaceCaptions(removed, put)
    elif way == "lines":
        edit = ChangeCaptions((Change(caption=put[0].id, spans=put[0].spans),))
    else:
        edit = ChangeCaptions(
            (Change(caption=put[0].id, in_ms=put[0].in_ms, out_ms=put[0].out_ms),)
        )
    by_ms = put[0].duration_ms - place.caption.duration_ms if way in ("longer", "earlier") else 0
    return Offer(way, by_ms, _left(after, judge.setting) or 0, edit)


def _silence(caption: Caption, setting: Setting) -> int | None:
    """Milliseconds from a caption's out to when somebody speaks next."""
    ends = [end for _, end in setting.speech]
    at = bisect_left(ends, caption.out_ms + 1)
    if at == len(ends):
        return None
    return max(setting.speech[at][0] - caption.out_ms, 0)
