"""How lines share out the words: balanced, the right one longer, no single word last."""

from collections.abc import Iterable

from dunlin.core.specs.rules.place import Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks, spoken_by_two
from dunlin.core.text.measure import characters

__all__ = ["BALANCE", "LAST_WORD", "SHAPE"]


def _lines(place: Place) -> list[str]:
    """Lines of one speaker; none where each line is another's."""
    if "\n" not in place.text or spoken_by_two(place.text):
        return []
    return place.text.split("\n")


def _unbalanced(setting: Setting) -> Check | None:
    least = setting.spec.line_balance
    if not least:
        return None

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        lengths = [characters(line) for line in _lines(place)]
        if not lengths or min(lengths) * 100 >= max(lengths) * least:
            return ()
        percent = min(lengths) * 100 // max(max(lengths), 1)
        return (
            (
                percent,
                least,
                f"shortest line {percent} % of the longest, the spec's least is {least} %",
            ),
        )

    return found


def _misshaped(setting: Setting) -> Check | None:
    shape = setting.spec.line_shape
    if not shape:
        return None

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        lines = _lines(place)
        if len(lines) != 2:
            return ()
        upper, lower = characters(lines[0]), characters(lines[1])
        over = lower - upper if shape == "top-heavy" else upper - lower
        if over <= 0:
            return ()
        which = "lower" if shape == "top-heavy" else "upper"
        return ((over, 0, f"the {which} line is longer by {over} characters"),)

    return found


def _single_last_word(setting: Setting) -> Check | None:
    if not setting.spec.no_single_last_word:
        return None

    def found(place: Place) -> Iterable[tuple[float, float, str]]:
        lines = _lines(place)
        if not lines or len(lines[-1].split()) != 1:
            return ()
        return ((1, 0, f"{lines[-1].strip()[:40]!r} stands alone in the last line"),)

    return found


BALANCE = Rule("line-balance", ("line_balance",), "percent", _unbalanced, other_breaks, r"\n")
SHAPE = Rule("line-shape", ("line_shape",), "characters", _misshaped, other_breaks, r"\n")
LAST_WORD = Rule(
    "last-word", ("no_single_last_word",), "places", _single_last_word, other_breaks, r"\n"
)
