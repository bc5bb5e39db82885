"""Lines measured with the font they are drawn in, against the part of the picture that is safe."""

from collections.abc import Iterable

from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks_or_two
from dunlin.core.styles.measuring import line_width, surely_fitting
from dunlin.core.styles.wrapping import lines_of, spans_width, wrapped

__all__ = ["RULE", "width_of"]


def width_of(place: Place, setting: Setting) -> float:
    """Part of the picture's width that the widest line takes, as it is drawn: letters in the case they
    are shown in, words in their styles, lines wrapped where the caption's place says so."""
    style = setting.sheet.style_of(place.caption)
    spans = wrapped(shown_spans(place.caption), style, setting.picture)
    widths = (spans_width(line, style, setting.picture) for line in lines_of(spans))
    return max(widths) / setting.picture.width


def _check(setting: Setting) -> Check | None:
    limit = setting.spec.safe_area
    if not limit:
        return None
    usual = setting.sheet.default
    surely_fits = surely_fitting(usual, setting.picture, limit)
    # As many of the widest letters fit: most captions need not be looked at.
    surely = int(limit / max(line_width(letter, usual, setting.picture) for letter in "Wm"))

    def found(place: Place) -> Iterable[Broken]:
        caption = place.caption
        if setting.sheet.base_of(caption) is usual and not caption.case:
            spans = caption.spans
            plain = len(spans) == 1 and not (spans[0].bold or spans[0].italic)
            if place.text.isascii() and place.measures.longest_line <= surely and plain:
                return ()
            if plain and surely_fits(place.text):
                return ()
        width = width_of(place, setting)
        if width <= limit:
            return ()
        percent = round(width * 100)
        return (
            (
                percent,
                limit * 100,
                message("findings.safe-area", percent=percent, limit=round(limit * 100)),
            ),
        )

    return found


RULE = Rule("safe-area", ("safe_area",), "percent", _check, other_breaks_or_two)
