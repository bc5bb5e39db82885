"""Edges near a shot change: they are on it, or far enough from it."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_before
from dunlin.core.timecode import first_frame_from

__all__ = ["RULE", "frames_to_shot"]


def frames_to_shot(place: Place, setting: Setting) -> int | None:
    """Frames from a caption's in or out, whichever is nearer, to the shot change next to it; None where
    both are on one, or there is none."""
    edges = (place.caption.in_ms, place.caption.out_ms)
    far = (frames for ms in edges if (frames := _frames(setting, ms)))
    return min(far, default=None)


def _frames(setting: Setting, ms: int) -> int | None:
    shot = _nearest(setting.shots, ms)
    if shot is None:
        return None
    return abs(first_frame_from(ms, setting.rate) - first_frame_from(shot, setting.rate))


def _nearest(shots: Sequence[int], ms: int) -> int | None:
    at = bisect_left(shots, ms)
    return min(shots[max(at - 1, 0) : at + 1], key=lambda shot: abs(shot - ms), default=None)


def _frames_off(setting: Setting, ms: int) -> int | None:
    """Frames from a time to the nearest shot change, where that is near but not there."""
    frames = _frames(setting, ms)
    return frames if frames and frames < (setting.spec.shot_change_frames or 0) else None


def _out_frames_off(setting: Setting, ms: int) -> int | None:
    """The same for an out, which may also leave the least gap before the shot change."""
    frames = _frames_off(setting, ms)
    if frames is None:
        return None
    gap = first_frame_from(least_gap_ms(setting.spec, setting.rate), setting.rate)
    shot = _nearest(setting.shots, ms) or 0
    return None if ms < shot and frames == gap else frames


def _check(setting: Setting) -> Check | None:
    limit = setting.spec.shot_change_frames
    if not limit or not setting.shots:
        return None

    def found(place: Place) -> Iterable[Broken]:
        result = []
        if frames := _frames_off(setting, place.caption.in_ms):
            result.append((frames, limit, message("findings.starts-off-shot", count=frames)))
        if frames := _out_frames_off(setting, place.caption.out_ms):
            result.append((frames, limit, message("findings.ends-off-shot", count=frames)))
        return result

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """The edges on the shot change; an out may leave the least gap before it."""
    caption = place.caption
    in_ms, out_ms = caption.in_ms, caption.out_ms
    in_shot, out_shot = _nearest(setting.shots, in_ms), _nearest(setting.shots, out_ms)
    if in_shot is not None and _frames_off(setting, in_ms):
        in_ms = in_shot
    outs = [out_ms]
    if out_shot is not None and _out_frames_off(setting, out_ms):
        gap = least_gap_ms(setting.spec, setting.rate)
        outs = [out_shot, frame_at_or_before(out_shot - gap, setting)]
    for out in outs:
        if in_ms < out and (in_ms, out) != (caption.in_ms, caption.out_ms):
            yield (caption.id,), (replace(caption, in_ms=in_ms, out_ms=out),)


RULE = Rule("shot-change", ("shot_change_frames",), "frames", _check, _mend)
