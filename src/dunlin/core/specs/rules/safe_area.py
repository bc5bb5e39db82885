"""Lines measured with the fonts they are drawn in, against the part of the picture that is safe.

What is wider than its style leaves room for wraps when it is drawn.
"""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks_or_two
from dunlin.core.styles.measuring import line_width, surely_fitting, surely_fitting_in_any_face
from dunlin.core.styles.telling import shown_words
from dunlin.core.styles.wrapping import lines_of, room_of, spans_width, wrapped

__all__ = ["RULE", "width_of"]


def width_of(place: Place, setting: Setting) -> float:
    """Part of the picture's width that the widest line takes: letters in the case they are shown in,
    words in their styles, lines as they are written, or wrapped where the caption's place has a width."""
    style = setting.sheet.style_of(place.caption)
    spans = shown_words(place.caption.spans, style)
    if style.width is not None:
        spans = wrapped(spans, style, setting.picture)
    widths = (spans_width(line, style, setting.picture) for line in lines_of(spans))
    return max(widths) / setting.picture.width


def _check(setting: Setting) -> Check | None:
    spec, usual = setting.spec, setting.sheet.default
    if not (spec.safe_area or spec.no_wrapping):
        return None
    allowed = spec.safe_area or 1
    limit = min(allowed, room_of(usual)) if spec.no_wrapping else allowed
    surely_fits = surely_fitting(usual, setting.picture, limit)
    surely_fits_styled = surely_fitting_in_any_face(usual, setting.picture, limit)
    # As many of the widest letters fit: most captions need not be looked at.
    surely = int(limit / max(line_width(letter, usual, setting.picture) for letter in "Wm"))

    def found(place: Place) -> Iterable[Broken]:
        caption = place.caption
        spans = caption.spans
        plain = not (caption.case or caption.look or any(span.look for span in spans))
        if plain and setting.sheet.base_of(caption) is usual:
            if len(spans) == 1 and not (spans[0].bold or spans[0].italic):
                if place.measures.longest_line <= surely and place.text.isascii():
                    return ()
                if surely_fits(place.text):
                    return ()
            elif surely_fits_styled(place.text):
                return ()
        style = setting.sheet.style_of(caption)
        width, room = width_of(place, setting), room_of(style)
        percent = round(width * 100)
        if width > allowed:
            told = message("findings.safe-area", percent=percent, limit=round(allowed * 100))
            return ((percent, allowed * 100, told),)
        if spec.no_wrapping and width > room and not style.vertical:
            told = message("findings.wraps", percent=percent, limit=round(room * 100))
            return ((percent, room * 100, told),)
        return ()

    return found


RULE = Rule("safe-area", ("safe_area", "no_wrapping"), "percent", _check, other_breaks_or_two)
