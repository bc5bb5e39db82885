"""Edges near a shot change: they are on it, or far enough from it."""

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from dunlin.core.messages import message
from dunlin.core.specs.measures import least_gap_ms
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting
from dunlin.core.specs.rules.reshaping import frame_at_or_before
from dunlin.core.timecode import first_frame_from

__all__ = ["ACROSS", "RULE", "frames_to_shot"]


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
    return frames if frames and frames < _least(setting, ms) else None


def _least(setting: Setting, ms: int) -> int:
    """The frames that an edge is to be away, on its side of the nearest shot change."""
    spec, shot = setting.spec, _nearest(setting.shots, ms) or 0
    side = spec.shot_change_before_frames if ms < shot else spec.shot_change_after_frames
    return (spec.shot_change_frames if side is None else side) or 0


def _out_frames_off(setting: Setting, ms: int) -> int | None:
    """The same for an out, which may also leave the least gap before the shot change."""
    frames = _frames_off(setting, ms)
    if frames is None:
        return None
    gap = first_frame_from(least_gap_ms(setting.spec, setting.rate), setting.rate)
    shot = _nearest(setting.shots, ms) or 0
    return None if ms < shot and frames == gap else frames


def _check(setting: Setting) -> Check | None:
    if not any(getattr(setting.spec, name) for name in _LIMITS) or not setting.shots:
        return None

    def found(place: Place) -> Iterable[Broken]:
        result = []
        if frames := _frames_off(setting, place.caption.in_ms):
            limit = _least(setting, place.caption.in_ms)
            result.append((frames, limit, message("findings.starts-off-shot", count=frames)))
        if frames := _out_frames_off(setting, place.caption.out_ms):
            limit = _least(setting, place.caption.out_ms)
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


def _across(setting: Setting) -> Check | None:
    if not setting.spec.no_caption_across_shots or not setting.shots:
        return None

    def found(place: Place) -> Iterable[Broken]:
        inside = _shots_inside(place, setting)
        return ((len(inside), 0, message("findings.across-shot", at=inside[0])),) if inside else ()

    return found


def _shots_inside(place: Place, setting: Setting) -> Sequence[int]:
    """Shot changes while a caption is shown, but for one at its in."""
    first = bisect_left(setting.shots, place.caption.in_ms + 1)
    return setting.shots[first : bisect_left(setting.shots, place.caption.out_ms)]


def _on_one_side(place: Place, setting: Setting) -> Iterator[Candidate]:
    """It goes out with the shot it begins in, or comes in with the one it ends in."""
    caption, inside = place.caption, _shots_inside(place, setting)
    ends = (replace(caption, out_ms=inside[0]), replace(caption, in_ms=inside[-1]))
    # What stays longer on the screen is tried first.
    for one in sorted(ends, key=lambda c: c.in_ms - c.out_ms):
        if one.in_ms < one.out_ms:
            yield (caption.id,), (one,)


_LIMITS = ("shot_change_frames", "shot_change_before_frames", "shot_change_after_frames")
RULE = Rule("shot-change", _LIMITS, "frames", _check, _mend)
ACROSS = Rule("across-shot", ("no_caption_across_shots",), "places", _across, _on_one_side)
