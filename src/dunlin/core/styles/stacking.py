"""Captions that are on the screen at one time and want to stand in one place: who goes above whom.

The renderer stacks what is one event each. What is drawn in several it cannot, so where one of these is among captions
that meet, all of them are given their places here, by the renderer's own way: whoever came first stays, and whoever comes
later goes to the nearest place that is free.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from dunlin.core.captions.model import Caption, Track
from dunlin.core.styles.layout import has_ground, is_layered, laid_out
from dunlin.core.styles.model import Style, StyleSheet
from dunlin.core.styles.motion import is_faded_only
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.wrapping import wrapped_caption

__all__ = ["REACH", "height_of", "on_screen_with", "raised_by", "stands_by_margin"]

REACH = 8
"""Captions before and behind one that are looked at; more do not meet on one screen."""


@dataclass(frozen=True)
class _Standing:
    """A caption that stands where its style's margins put it."""

    caption: Caption
    style: Style

    @property
    def is_left_to_renderer(self) -> bool:
        """Whether the renderer stacks it by itself."""
        return is_faded_only(self.style) and not is_layered(self.style, self.caption.spans)


def height_of(caption: Caption, style: Style, picture: Script) -> float:
    """Pixels that a caption takes from the edge that it stands at, with its ground."""
    spans = wrapped_caption(caption, style, picture)
    _, top, _, bottom = laid_out(spans, style, picture).box
    padding = style.background_padding * has_ground(style)
    return bottom - top + 2 * padding * base_size(picture)


def raised_by(track: Track, index: int, sheet: StyleSheet, picture: Script) -> float | None:
    """How far from its place a caption stands, so that it covers none that is there already.

    :param index: its place in the track's order
    :returns: pixels away from the edge of the picture that it stands at; None where nothing has to be done, or the
        renderer does it
    """
    caption = track.at(index)
    assert caption is not None
    if not _meets_any(track, index, caption):
        return None
    meeting = _meeting(track, index, sheet)
    if len(meeting) < 2 or all(one.is_left_to_renderer for one in meeting):
        return None
    return _places(meeting, picture)[caption.id]


def on_screen_with(track: Track, index: int) -> Iterator[int]:
    """Places of the captions that may stand elsewhere, or be covered, because of one: they meet it, or one that does.

    A caption is raised by those within `REACH` of it, and may cover one that was raised so.

    :param index: its place in the track's order
    :returns: places in the track's order, without its own
    """
    first = index
    begins = track.order[index][0]
    for place in range(index - 1, max(index - REACH, 0) - 1, -1):
        in_ms, id_ = track.order[place]
        if track.by_id[id_].out_ms > begins:
            first, begins = place, in_ms
    yield from range(first, index)
    until = max(track.by_id[id_].out_ms for _, id_ in track.order[first : index + 1])
    for place in range(index + 1, min(index + 2 * REACH + 1, len(track))):
        in_ms, id_ = track.order[place]
        if in_ms >= until:
            return
        until = max(until, track.by_id[id_].out_ms)
        yield place


def _meets_any(track: Track, index: int, caption: Caption) -> bool:
    """Whether another one is shown at the same time; asked of every caption, and mostly there is none."""
    after = track.at(index + 1)
    if after and after.in_ms < caption.out_ms:
        return True
    return bool(track.still_shown(index, REACH))


def _meeting(track: Track, index: int, sheet: StyleSheet) -> list[_Standing]:
    """Captions that meet a caption, or one that meets it, at the same edge of the picture; in order, with itself."""
    own = sheet.style_of(track.by_id[track.order[index][1]])
    around = range(max(index - REACH, 0), min(index + REACH + 1, len(track)))
    listed = [caption for at in around if (caption := track.at(at)) and caption.text.strip()]
    standing = [
        one
        for one in (_Standing(caption, sheet.style_of(caption)) for caption in listed)
        if stands_by_margin(one.style) and one.style.anchor == own.anchor
    ]
    runs: list[list[_Standing]] = []
    until = -1
    for one in standing:
        if one.caption.in_ms >= until:
            runs.append([])
        runs[-1].append(one)
        until = max(until, one.caption.out_ms)
    mine = track.order[index][1]
    return next((run for run in runs if any(one.caption.id == mine for one in run)), [])


def stands_by_margin(style: Style) -> bool:
    """Whether a caption stands where its style's margins put it, so that others are stacked with it."""
    moved = style.moments and any(m.x is not None or m.y is not None for m in style.moments)
    return style.x is None and style.y is None and not style.vertical and not moved


def _places(meeting: Sequence[_Standing], picture: Script) -> dict[str, float]:
    """How far each is from the edge: the least at which it covers none that came before and is still there."""
    taken: list[tuple[int, float, float]] = []
    places: dict[str, float] = {}
    for one in meeting:
        height = height_of(one.caption, one.style, picture)
        place = 0.0
        there = sorted((start, end) for out_ms, start, end in taken if out_ms > one.caption.in_ms)
        for start, end in there:
            if start < place + height and end > place:
                place = end
        taken.append((one.caption.out_ms, place, place + height))
        places[one.caption.id] = place
    return places
