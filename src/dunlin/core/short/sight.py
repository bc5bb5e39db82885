"""What a caption covers of the picture, held within what a viewer sees."""

from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Placement
from dunlin.core.short.model import Seen
from dunlin.core.styles.holding import covered_by, frame_of
from dunlin.core.styles.layout import point_of
from dunlin.core.styles.model import Style, StyleSheet, look_of_caption, styled
from dunlin.core.styles.picture import Script, base_size

__all__ = ["covers", "is_surely_seen", "within_sight"]

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
    larger, edge = _larger(whole), base * _edge(whole)
    widest = max(word for word in _words_of(caption))
    across = edge + larger * (right - left) * widest
    down = edge + larger * whole.size * base
    return left - across, top - down, right + across, bottom + down


def is_surely_seen(width: float, lines: int, style: Style, picture: Script, seen: Seen) -> bool:
    """Whether a caption in nothing but its style surely is within what a viewer sees; False says nothing.

    :param width: pixels that its widest line takes, its words at their largest
    """
    if style.turn or style.tilt_x or style.tilt_y or style.vertical or style.depth:
        return False
    base = base_size(picture)
    tallest = max(style.second_line, style.line_spacing, 1.0)
    edge = 2 * base * (_edge(style) + _larger(style) * style.size)
    across, down = width + edge, lines * tallest * style.size * base + edge
    x, y = point_of(style, picture)
    left = x - across * ("left", "center", "right").index(style.align) / 2
    top = y - down * ("top", "middle", "bottom").index(style.anchor) / 2
    # The edges stand out on either side of where it is placed.
    return (
        left - edge >= seen.left * picture.width
        and left + across + edge <= seen.right * picture.width
        and top - edge >= seen.top * picture.height
        and top + down + edge <= seen.bottom * picture.height
    )


def _larger(style: Style) -> float:
    """How far a word that is larger for a moment stands out of its place, as a part of its size."""
    looks = (style.spoken, style.said, style.to_come)
    return max([0.0, *((look.scale or 1.0) - 1 for look in looks if look)]) / 2


def _edge(style: Style) -> float:
    """What stands out of letters on each side: edge, shadow or ground, as a part of the picture's height."""
    told = any(look and look.background for look in (style.spoken, style.said, style.to_come))
    padding = style.background_padding * bool(style.background or told)
    return max(
        style.outline + style.outline_softness, style.shadow + style.shadow_softness, padding
    )


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
