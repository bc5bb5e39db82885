"""How lines share out the words: balanced, the right one longer, no single word last."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import other_breaks, spoken_by_two
from dunlin.core.text.words import words_of

__all__ = ["BALANCE", "LAST_WORD", "SHAPE", "balance_of"]


def balance_of(place: Place) -> int | None:
    """The shortest line in per cent of the longest; None where there is one, or each is another's."""
    lengths = _lengths(place)
    return min(lengths) * 100 // (max(lengths) or 1) if len(lengths) > 1 else None


def _lengths(place: Place) -> list[int]:
    """Characters of each line of one speaker; none where each line is another's."""
    return [] if spoken_by_two(place.text) else place.measures.line_lengths


def _unbalanced(setting: Setting) -> Check | None:
    least = setting.spec.line_balance
    if not least:
        return None

    def found(place: Place) -> Iterable[Broken]:
        percent = balance_of(place)
        if percent is None or percent >= least:
            return ()
        return (
            (
                percent,
                least,
                message("findings.line-balance", percent=percent, limit=least),
            ),
        )

    return found


def _misshaped(setting: Setting) -> Check | None:
    shape = setting.spec.line_shape
    if not shape:
        return None

    def found(place: Place) -> Iterable[Broken]:
        lengths = _lengths(place)
        if len(lengths) != 2:
            return ()
        upper, lower = lengths
        over = lower - upper if shape == "top-heavy" else upper - lower
        if over <= 0:
            return ()
        which = "lower" if shape == "top-heavy" else "upper"
        return ((over, 0, message(f"findings.{which}-line-longer", count=over)),)

    return found


def _single_last_word(setting: Setting) -> Check | None:
    if not setting.spec.no_single_last_word:
        return None

    def found(place: Place) -> Iterable[Broken]:
        _, broken, last = place.text.rpartition("\n")
        last = last.strip()
        # A space parts words in every script; where there is none, there may still be several.
        if not broken or not last or " " in last or spoken_by_two(place.text):
            return ()
        if len(words_of(last, setting.language)) != 1:
            return ()
        return ((1, 0, message("findings.last-word", word=last[:40])),)

    return found


BALANCE = Rule(
    "line-balance", ("line_balance",), "percent", _unbalanced, other_breaks, "line-break"
)
SHAPE = Rule("line-shape", ("line_shape",), "characters", _misshaped, other_breaks, "line-break")
LAST_WORD = Rule(
    "last-word", ("no_single_last_word",), "places", _single_last_word, other_breaks, "line-break"
)
