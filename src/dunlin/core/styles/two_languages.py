"""Two tracks in one picture: the captions of one above those of the other, each in its own style."""

from dataclasses import replace

from dunlin.core.captions.look import Look
from dunlin.core.captions.model import Caption, Track
from dunlin.core.styles.model import Style, StyleSheet
from dunlin.core.styles.picture import Script
from dunlin.core.styles.stacking import height_of, stands_by_margin

__all__ = ["both_in_picture"]

_UPPER = "upper "
"""What its ids and the names of its styles begin with, so that they are no other's."""
_APART = 0.012
"""Part of the picture's height between the two."""


def both_in_picture(
    lower: Track,
    upper: Track,
    sheet: StyleSheet,
    upper_sheet: StyleSheet,
    picture: Script,
    language: str,
) -> tuple[list[Caption], StyleSheet]:
    """The captions of two tracks as those of one, and the styles of both.

    A caption of the upper track stands as high as whatever is beneath it in its time takes, and stays there until it goes.
    What is placed by hand stays where it is, and what stands at the top stays there.

    :param language: BCP 47 tag of the upper track
    """
    others = {f"{_UPPER}{name}": style for name, style in upper_sheet.styles.items()}
    others[_UPPER] = upper_sheet.default
    both = replace(sheet, styles={**sheet.styles, **others})
    below = list(lower)
    made = list(below)
    first = 0
    longest = max((one.out_ms - one.in_ms for one in below), default=0)
    for caption in upper:
        own = _named(caption, upper_sheet, language)
        drawn = both.style_of(own)
        while first < len(below) and below[first].in_ms + longest <= caption.in_ms:
            first += 1
        if _is_bottom(drawn):
            taken = 0.0
            for one in below[first:]:
                if one.in_ms >= caption.out_ms:
                    break
                if one.out_ms > caption.in_ms and one.text.strip():
                    taken = max(taken, _top_of(one, sheet.style_of(one), picture))
            if taken:
                # Placed, it is moved by nothing that comes and goes beneath it.
                x = {"left": drawn.side_margin, "right": 1 - drawn.side_margin}.get(
                    drawn.align, 0.5
                )
                y = max(1 - taken - _APART, 0.0)
                own = replace(own, look=replace(own.look or Look(), x=x, y=y))
        made.append(own)
    return sorted(made, key=lambda one: one.in_ms), both


def _named(caption: Caption, sheet: StyleSheet, language: str) -> Caption:
    """A caption of the upper track among those of the lower one."""
    style = _UPPER + (caption.style if caption.style and caption.style in sheet.styles else "")
    spans = tuple(
        span if span.language else replace(span, language=language) for span in caption.spans
    )
    return replace(caption, id=_UPPER + caption.id, style=style, spans=spans)


def _is_bottom(style: Style) -> bool:
    return stands_by_margin(style) and style.anchor == "bottom"


def _top_of(caption: Caption, style: Style, picture: Script) -> float:
    """Where the upper edge of a caption is, as a part of the picture's height from its lower edge."""
    if not _is_bottom(style):
        return 0.0
    return style.margin + height_of(caption, style, picture) / picture.height
