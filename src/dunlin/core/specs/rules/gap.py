"""Least gap, counted in frames without a caption before this one."""

from collections.abc import Iterator

from dunlin.core.specs.measures import gap_frames
from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    if place.before is None:
        return
    frames = gap_frames(place.before, place.caption, place.rate)
    # Below zero is an overlap, which has a rule of its own.
    if 0 <= frames < spec.least_gap_frames:
        message = f"gap of {frames} frames before it, the spec's least is {spec.least_gap_frames}"
        yield place.finding("gap", frames, spec.least_gap_frames, "frames", message)
