"""Where captions are on the picture, and how large: off its edges, over each other, in letters too small or too faint
to be read."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.styles.contrast import contrast_of
from dunlin.core.styles.holding import Frame, covered_by, frame_of
from dunlin.core.styles.model import Style, placement_of, style_of_words
from dunlin.core.styles.picture import base_size
from dunlin.core.styles.stacking import REACH, raised_by, stands_by_margin

__all__ = ["CONTRAST", "COVERING", "LETTER_SIZE", "OUTSIDE"]

_FEW_LINES = 6
"""So many lines of the usual size are on the picture wherever a margin puts them."""
_TOUCHING = 2
"""Pixels that frames may share: letters do not fill theirs to the edge."""


def _frame(caption: Caption, place: Place, setting: Setting) -> Frame | None:
    """The frame of a caption of a track, where it comes to stand in it."""
    track = place.track
    raised = None
    if caption.id in track and track.by_id[caption.id] is caption:
        raised = raised_by(track, track.index(caption.id), setting.sheet, setting.picture)
    return frame_of(caption, setting.sheet, setting.picture, raised)


def _is_usual(place: Place, setting: Setting) -> bool:
    """Whether it stands where its style's margins put it, in the track's usual style, in a few lines: as nearly all do."""
    caption, usual = place.caption, setting.sheet.default
    return (
        caption.placement is None and caption.look is None
        and usual.x is None and usual.y is None and not usual.turn and not usual.vertical
        and setting.sheet.base_of(caption) is usual
        and place.measures.lines <= _FEW_LINES
    )  # fmt: skip


def _outside(setting: Setting) -> Check | None:
    clear = setting.spec.kept_from_edges
    if clear is None:
        return None
    width, height = setting.picture.width, setting.picture.height
    least = min(setting.sheet.default.margin, setting.sheet.default.side_margin)

    def found(place: Place) -> Iterable[Broken]:
        if clear <= least and _is_usual(place, setting):
            return ()
        frame = _frame(place.caption, place, setting)
        if frame is None:
            return ()
        left, top, right, bottom = covered_by(frame)
        nearest = min(left / width, top / height, 1 - right / width, 1 - bottom / height)
        # A pixel is no more than how letters are drawn at an edge.
        if nearest >= clear - 1 / min(width, height):
            return ()
        percent, limit = round(nearest * 100, 1), round(clear * 100, 1)
        code = "findings.off-picture" if nearest < 0 else "findings.near-edge"
        return ((percent, limit, message(code, percent=abs(percent), limit=limit)),)

    return found


def _inside(place: Place, setting: Setting) -> Iterator[Candidate]:
    """As it is, moved so far that it is clear of the edges; else as large as has room."""
    caption, clear = place.caption, setting.spec.kept_from_edges or 0
    frame = _frame(caption, place, setting)
    if frame is None:
        return
    width, height = setting.picture.width, setting.picture.height
    left, top, right, bottom = covered_by(frame)
    room = (width * (1 - 2 * clear), height * (1 - 2 * clear))
    factor = min(room[0] / max(right - left, 1), room[1] / max(bottom - top, 1))
    style = setting.sheet.style_of(caption)
    if factor < 1:
        smaller = replace(caption.look or Look(), size=round(style.size * factor * 0.98, 5))
        caption = replace(caption, look=smaller)
        frame = _frame(caption, place, setting)
        assert frame is not None
        left, top, right, bottom = covered_by(frame)
    dx = max(width * clear - left, 0) or min(width * (1 - clear) - right, 0)
    dy = max(height * clear - top, 0) or min(height * (1 - clear) - bottom, 0)
    own = caption.placement or placement_of(style)
    at = (round((frame.x + dx) / width, 5), round((frame.y + dy) / height, 5))
    yield (place.caption.id,), (replace(caption, placement=replace(own, x=at[0], y=at[1])),)


def _covering(setting: Setting) -> Check | None:
    if not setting.spec.no_covering:
        return None

    def found(place: Place) -> Iterable[Broken]:
        if place.before is None or not place.text.strip():
            return ()
        together = [
            one
            for one in place.track.still_shown(place.index, REACH)
            if one.text.strip() and not _are_stacked(one, place.caption, setting)
        ]
        if not together:
            return ()
        frame = _frame(place.caption, place, setting)
        for other in together:
            beside = _frame(other, place, setting)
            if frame and beside and (part := _shared(covered_by(frame), covered_by(beside))):
                percent = round(part * 100)
                return ((percent, 0, message("findings.covering", percent=percent)),)
        return ()

    return found


def _are_stacked(one: Caption, other: Caption, setting: Setting) -> bool:
    """Whether two captions are given places beside each other when they are drawn."""
    first, second = setting.sheet.style_of(one), setting.sheet.style_of(other)
    return first.anchor == second.anchor and stands_by_margin(first) and stands_by_margin(second)


def _shared(
    one: tuple[float, float, float, float], other: tuple[float, float, float, float]
) -> float:
    """The part of the smaller of two boxes that is in both; 0 where they do no more than touch."""
    across = min(one[2], other[2]) - max(one[0], other[0])
    down = min(one[3], other[3]) - max(one[1], other[1])
    if across <= _TOUCHING or down <= _TOUCHING:
        return 0.0
    areas = [(box[2] - box[0]) * (box[3] - box[1]) for box in (one, other)]
    return across * down / max(min(areas), 1)


def _elsewhere(place: Place, setting: Setting) -> Iterator[Candidate]:
    """At the other edge of the picture, in the middle of it."""
    caption = place.caption
    style = setting.sheet.style_of(caption)
    own = caption.placement or placement_of(style)
    for anchor in ("top", "bottom", "middle"):
        if anchor != style.anchor or style.y is not None:
            moved = replace(own, anchor=anchor, x=None, y=None)
            yield (caption.id,), (replace(caption, placement=moved),)


def _letter_size(setting: Setting) -> Check | None:
    least = setting.spec.least_letter_size
    if least is None:
        return None
    part = base_size(setting.picture) / setting.picture.height

    def found(place: Place) -> Iterable[Broken]:
        style = setting.sheet.style_of(place.caption)
        sizes = [
            style_of_words(style, span).size for span in place.caption.spans if span.text.strip()
        ]
        smallest = min(sizes, default=least) * part
        if smallest >= least - 1e-6:
            return ()
        percent, limit = round(smallest * 100, 1), round(least * 100, 1)
        return ((percent, limit, message("findings.letter-size", percent=percent, limit=limit)),)

    return found


def _larger(place: Place, setting: Setting) -> Iterator[Candidate]:
    """All of it as large as it has to be."""
    caption = place.caption
    least = (
        (setting.spec.least_letter_size or 0) * setting.picture.height / base_size(setting.picture)
    )
    look = caption.look or Look()
    if setting.sheet.style_of(caption).size < least:
        look = replace(look, size=round(least, 5))
    spans = tuple(
        replace(span, look=replace(span.look, size=None))
        if span.look and span.look.size and span.look.size < least
        else span
        for span in caption.spans
    )
    yield (caption.id,), (replace(caption, spans=spans, look=look if look != Look() else None),)


def _contrast(setting: Setting) -> Check | None:
    least = setting.spec.least_contrast
    if least is None:
        return None

    def found(place: Place) -> Iterable[Broken]:
        frame = _frame(place.caption, place, setting)
        if frame is None:
            return ()
        style = setting.sheet.style_of(place.caption)
        contrast = contrast_of(place.caption, style, frame, setting.picture, setting.backdrop)
        if contrast is None or contrast.ratio >= least:
            return ()
        ratio = round(contrast.ratio, 1)
        told = message(f"findings.contrast-{contrast.against}", ratio=ratio, limit=least)
        return ((ratio, least, told),)

    return found


def _parted_from_picture(place: Place, setting: Setting) -> Iterator[Candidate]:
    """With an outline, dark or light; a ground of its own would be more than was asked for."""
    look = place.caption.look or Look()
    usual = Style("", "")
    width = max(usual.outline, setting.sheet.style_of(place.caption).size * 0.06)
    for colour in (usual.outline_colour, "#FFFFFF"):
        edged = replace(look, outline=round(width, 5), outline_colour=colour, outline_opacity=1.0)
        yield (place.caption.id,), (replace(place.caption, look=edged),)


OUTSIDE = Rule("outside", ("kept_from_edges",), "percent", _outside, _inside)
COVERING = Rule("covering", ("no_covering",), "percent", _covering, _elsewhere, "joined")
LETTER_SIZE = Rule("letter-size", ("least_letter_size",), "percent", _letter_size, _larger)
CONTRAST = Rule("contrast", ("least_contrast",), "ratio", _contrast, _parted_from_picture)
