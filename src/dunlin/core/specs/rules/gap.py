"""Least gap before a caption, in frames without a caption or in milliseconds."""

from collections.abc import Iterable

from dunlin.core.messages import message
from dunlin.core.specs.measures import gap_frames, least_gap_ms
from dunlin.core.specs.rules.place import Broken, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import parted
from dunlin.core.timecode import first_frame_from

__all__ = ["RULE"]


def _check(setting: Setting) -> Check | None:
    least, least_ms = setting.spec.least_gap_frames or 0, setting.spec.least_gap_ms or 0
    if not least and not least_ms:
        return None
    # A gap of this many milliseconds has the frames whichever it begins on: most are not counted.
    enough = least_gap_ms(setting.spec, setting.rate)
    enough_frames = first_frame_from(enough, setting.rate)

    def found(place: Place) -> Iterable[Broken]:
        gap_ms = place.measures.gap_before_ms
        # Below zero is an overlap, which has a rule of its own.
        if place.before is None or gap_ms is None or not 0 <= gap_ms < enough:
            return ()
        frames = gap_frames(place.before, place.caption, setting.rate)
        if gap_ms < least_ms:
            told = message("findings.gap-ms", gap=gap_ms, limit=least_ms)
            return ((frames, enough_frames, told),)
        if frames < least:
            told = message("findings.gap-frames", count=frames, limit=least)
            return ((frames, least, told),)
        return ()

    return found


RULE = Rule("gap", ("least_gap_frames", "least_gap_ms"), "frames", _check, parted, "figure")
