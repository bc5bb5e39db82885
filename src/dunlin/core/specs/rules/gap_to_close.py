"""Gaps so short that they only flicker: they are closed to the least gap."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.measures import gap_frames, least_gap_ms
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_before
from dunlin.core.timecode import first_frame_from

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    spec, rate = setting.spec, setting.rate
    if not spec.close_gaps_below_ms:
        return None
    below = spec.close_gaps_below_ms
    least_frames = first_frame_from(least_gap_ms(spec, rate), rate)

    def found(place: Place) -> Iterable[Broken]:
        gap_ms = place.measures.gap_before_ms
        if place.before is None or gap_ms is None or not 0 < gap_ms < below:
            return ()
        if gap_frames(place.before, place.caption, rate) <= least_frames:
            return ()
        return (
            (
                gap_ms,
                below,
                message("findings.gap-to-close", gap=gap_ms, limit=below),
            ),
        )

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The one before is shown until the least gap."""
    if place.before is not None:
        gap = least_gap_ms(setting.spec, setting.rate)
        out_ms = frame_at_or_before(place.caption.in_ms - gap, setting)
        if out_ms > place.before.out_ms:
            yield (place.before.id,), (replace(place.before, out_ms=out_ms),)


RULE = Rule("gap-to-close", ("close_gaps_below_ms",), "ms", _check, _mend, "figure")
