"""Reading speed, in characters a second or words a minute."""

from collections.abc import Iterable, Iterator
from math import ceil

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import more_time, one_of_two

__all__ = ["CHARACTERS", "WORDS"]


def _characters(setting: Setting) -> Check | None:
    limit = setting.spec.reading_speed
    if not limit:
        return None

    def found(place: Place) -> Iterable[Broken]:
        speed = place.measures.reading_speed
        if speed <= limit:
            return ()
        return (
            (
                round(speed, 2),
                limit,
                message("findings.reading-speed", speed=round(speed, 1), limit=limit),
            ),
        )

    return found


def _words(setting: Setting) -> Check | None:
    limit = setting.spec.words_per_minute
    if not limit:
        return None

    def found(place: Place) -> Iterable[Broken]:
        speed = place.measures.words_per_minute
        if speed <= limit:
            return ()
        return (
            (
                round(speed, 1),
                limit,
                message("findings.words-per-minute", speed=round(speed), limit=limit),
            ),
        )

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """Time from the pauses beside it, else one caption of it and its neighbour."""
    measures, spec = place.measures, setting.spec
    factor = max(
        measures.reading_speed / (spec.reading_speed or float("inf")),
        measures.words_per_minute / (spec.words_per_minute or float("inf")),
    )
    yield from more_time(place, setting, ceil(measures.duration_ms * factor))
    yield from one_of_two(place, setting)


CHARACTERS = Rule(
    "reading-speed",
    ("reading_speed", "spaces_count", "punctuation_counts"),
    "cps",
    _characters,
    _mend,
    "figure",
)
WORDS = Rule("words-per-minute", ("words_per_minute",), "wpm", _words, _mend, "figure")
