"""Least and greatest duration."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.measures import least_duration_ms
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import (
    frame_at_or_before,
    more_time,
    one_of_two,
    two_of_one,
)

__all__ = ["GREATEST", "LEAST"]


def _too_short(setting: Setting) -> Check | None:
    spec = setting.spec
    if not spec.least_duration_ms and not spec.least_duration_by_length:
        return None

    def found(place: Place) -> Iterable[Broken]:
        duration, least = (
            place.measures.duration_ms,
            least_duration_ms(setting.spec, place.measures.characters),
        )
        if duration >= least:
            return ()
        return (
            (duration, least, message("findings.least-duration", duration=duration, limit=least)),
        )

    return found


def _too_long(setting: Setting) -> Check | None:
    greatest = setting.spec.greatest_duration_ms
    if not greatest:
        return None

    def found(place: Place) -> Iterable[Broken]:
        duration = place.measures.duration_ms
        if duration <= greatest:
            return ()
        return (
            (
                duration,
                greatest,
                message("findings.greatest-duration", duration=duration, limit=greatest),
            ),
        )

    return found


def _lengthen(place: Place, setting: Setting) -> Iterator[Candidate]:
    """More time where there is room, else one caption of it and its neighbour."""
    yield from more_time(place, setting, least_duration_ms(setting.spec, place.measures.characters))
    yield from one_of_two(place, setting)


def _shorten(place: Place, setting: Setting) -> Iterator[Candidate]:
    """An earlier out, else two captions."""
    caption = place.caption
    out_ms = frame_at_or_before(caption.in_ms + (setting.spec.greatest_duration_ms or 0), setting)
    if out_ms > caption.in_ms:
        yield (caption.id,), (replace(caption, out_ms=out_ms),)
    yield from two_of_one(place, setting)


LEAST = Rule(
    "least-duration",
    ("least_duration_ms", "least_duration_by_length"),
    "ms",
    _too_short,
    _lengthen,
    "figure",
)
GREATEST = Rule("greatest-duration", ("greatest_duration_ms",), "ms", _too_long, _shorten, "figure")
