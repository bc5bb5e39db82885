"""What a caption covers of the picture, held within what a viewer sees."""

from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Placement
from dunlin.core.short.model import Seen
from dunlin.core.styles.holding import covered_by, frame_of
from dunlin.core.styles.layout import point_of
from dunlin.core.styles.model import Style, StyleSheet, look_of_caption, styled
from dunlin.core.styles.picture import Script, base_size

__all__ = ["covers", "within_sight"]

_SMALLER, _TIMES = 0.94, 60
"""Letters become smaller in such steps, and no smaller than a fortieth."""


def covers(caption: Caption, style: Style, picture: Script) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of what a caption takes of the picture, in pixels: its letters at their largest, turned and
    tilted, with their edges, shadows and grounds.

    :param style: of the caption's look, without what it says itself
    """
    frame = frame_of(caption, StyleSheet(style), picture)
    if frame is None:
        return (0.0, 0.0, 0.0, 0.0)
    whole = styled(style, look_of_caption(caption))
    left, top, right, bottom = covered_by(frame)
    base = base_size(picture)
    looks = (whole.spoken, whole.said, whole.to_come)
    larger = max([0.0, *((look.scale or 1.0) - 1 for look in looks if look)]) / 2
    told = any(look and look.background for look in looks)
    padding = whole.background_padding * bool(whole.background or told)
    edge = base * max(
        whole.outline + whole.outline_softness, whole.shadow + whole.shadow_softness, padding
    )
    widest = max(word for word in _words_of(caption))
    across = edge + larger * (right - left) * widest
    down = edge + larger * whole.size * base
    return left - across, top - down, right + across, bottom + down


def _words_of(caption: Caption) -> list[float]:
    """What each word is of the longest line, by characters."""
    longest = max(len(line) for line in caption.lines)
    return [len(word) / max(longest, 1) for word in caption.text.split()] or [0.0]


def within_sight(caption: Caption, style: Style, picture: Script, seen: Seen) -> Caption:
    """The caption, smaller where it is too large for what a viewer sees, and moved where it is only beside that."""
    left, right = seen.left * picture.width, seen.right * picture.width
    top, bottom = seen.top * picture.height, seen.bottom * picture.height
    for _ in range(_TIMES):
        box = covers(caption, style, picture)
        if box[2] - box[0] <= right - left and box[3] - box[1] <= bottom - top:
            break
        size = styled(style, look_of_caption(caption)).size * _SMALLER
        caption = replace(caption, look=replace(caption.look or Look(), size=round(size, 5)))
    across = max(left - box[0], 0) - max(box[2] - right, 0)
    down = max(top - box[1], 0) - max(box[3] - bottom, 0)
    if not (across or down):
        return caption
    whole = styled(style, look_of_caption(caption))
    x, y = point_of(whole, picture)
    place = Placement(
        whole.anchor, whole.align, (x + across) / picture.width, (y + down) / picture.height,
        whole.width, whole.vertical,
    )  # fmt: skip
    return replace(caption, placement=place)
