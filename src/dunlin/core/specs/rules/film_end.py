"""Captions that are shown when the film is over."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_before
from dunlin.core.timecode import next_frame

__all__ = ["RULE"]


def _latest_ms(setting: Setting) -> int | None:
    """The latest out: the film's end, or the end of a frame that is begun there."""
    if setting.film_ends_ms is None:
        return None
    return next_frame(setting.film_ends_ms - 1, setting.rate)


def _check(setting: Setting) -> Check | None:
    latest = _latest_ms(setting)
    if latest is None or not setting.spec.within_film:
        return None

    def found(place: Place) -> Iterable[Broken]:
        beyond = place.caption.out_ms - latest
        if beyond <= 0:
            return ()
        code = "findings.after-film" if place.caption.in_ms >= latest else "findings.past-film"
        return ((beyond, 0, message(code, beyond=beyond)),)

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """It goes out with the film."""
    out_ms = frame_at_or_before(_latest_ms(setting) or 0, setting)
    if out_ms > place.caption.in_ms:
        yield (place.caption.id,), (replace(place.caption, out_ms=out_ms),)


RULE = Rule("film-end", ("within_film",), "ms", _check, _mend)
