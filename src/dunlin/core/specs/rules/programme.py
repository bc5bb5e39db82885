"""What a spec asks of the programme as a whole: how dense captions are, the first one, speech without any."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_after

__all__ = ["DENSITY", "FIRST", "UNCAPTIONED"]

_MINUTE_MS = 60_000


def _too_dense(setting: Setting) -> Check | None:
    most = setting.spec.captions_per_minute
    if not most:
        return None

    def found(place: Place) -> Iterable[Broken]:
        since = bisect_left(place.track.order, (place.caption.in_ms - _MINUTE_MS + 1, ""))
        count = place.index - since + 1
        if count <= most:
            return ()
        return ((count, most, message("findings.density", count=count, limit=most)),)

    return found


def _too_early(setting: Setting) -> Check | None:
    least = setting.spec.first_caption_ms
    if not least:
        return None

    def found(place: Place) -> Iterable[Broken]:
        in_ms = place.caption.in_ms
        if place.before is not None or in_ms >= least:
            return ()
        return ((in_ms, least, message("findings.first-caption", at=in_ms, limit=least)),)

    return found


def _later(place: Place, setting: Setting) -> Iterator[Candidate]:
    """It comes in when the first caption may."""
    in_ms = frame_at_or_after(setting.spec.first_caption_ms or 0, setting)
    if in_ms < place.caption.out_ms:
        yield (place.caption.id,), (replace(place.caption, in_ms=in_ms),)


def _uncaptioned(setting: Setting) -> Check | None:
    most = setting.spec.speech_without_caption_ms
    if not most or not setting.speech:
        return None
    ends = [end_ms for _, end_ms in setting.speech]

    def found(place: Place) -> Iterable[Broken]:
        from_ms = place.before.out_ms if place.before else 0
        until_ms = place.caption.in_ms
        longest = 0
        for start_ms, end_ms in setting.speech[bisect_left(ends, from_ms) :]:
            if start_ms >= until_ms:
                break
            spoken = min(end_ms, until_ms) - max(start_ms, from_ms)
            longest = max(longest, spoken)
        if longest <= most:
            return ()
        return ((longest, most, message("findings.uncaptioned", spoken=longest, limit=most)),)

    return found


DENSITY = Rule("density", ("captions_per_minute",), "captions", _too_dense)
FIRST = Rule("first-caption", ("first_caption_ms",), "ms", _too_early, _later)
UNCAPTIONED = Rule("uncaptioned", ("speech_without_caption_ms",), "ms", _uncaptioned)
