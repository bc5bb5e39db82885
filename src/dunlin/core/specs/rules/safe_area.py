"""Lines measured with the font they are drawn in, against the part of the picture that is safe."""

from collections.abc import Iterable

from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.captions.model import plain_text
from dunlin.core.specs.rules.place import Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks_or_two
from dunlin.core.styles.model import STYLES
from dunlin.core.styles.widths import line_width, surely_fits

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
    # Lines of as many of the widest letter fit surely: most need not be measured.
    surely = int(limit / line_width("W", _HOUSE, setting.picture))

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        text = _shown_text(place)
        if len(text) <= surely or surely_fits(text, _HOUSE, setting.picture, limit):
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
