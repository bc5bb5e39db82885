"""Lines measured with the font they are drawn in, against the part of the picture that is safe."""

from collections.abc import Iterable

from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.captions.model import plain_text
from dunlin.core.specs.rules.place import Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks_or_two
from dunlin.core.styles.model import STYLES
from dunlin.core.styles.widths import line_width, surely_fitting

__all__ = ["RULE", "width_of"]

_HOUSE = STYLES["house"]


def width_of(place: Place, setting: Setting) -> float:
    """Part of the picture's width that the widest line takes, letters in the case they are shown in."""
    return _widest(_shown_text(place), setting)


def _shown_text(place: Place) -> str:
    return plain_text(shown_spans(place.caption)) if place.caption.case else place.text


def _widest(text: str, setting: Setting) -> float:
    return max(line_width(line, _HOUSE, setting.picture) for line in text.split("\n"))


def _check(setting: Setting) -> Check | None:
    limit = setting.spec.safe_area
    if not limit:
        return None
    surely_fits = surely_fitting(_HOUSE, setting.picture, limit)
    # As many of the widest letters fit: most captions need not be looked at.
    surely = int(limit / max(line_width(letter, _HOUSE, setting.picture) for letter in "Wm"))

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        if place.text.isascii() and place.measures.longest_line <= surely:
            return ()
        text = _shown_text(place)
        if surely_fits(text):
            return ()
        width = _widest(text, setting)
        if width <= limit:
            return ()
        percent = round(width * 100)
        return (
            (
                percent,
                limit * 100,
                f"{percent} % of the picture's width, the spec allows {limit:.0%}",
            ),
        )

    return found


RULE = Rule("safe-area", ("safe_area",), "percent", _check, other_breaks_or_two)
