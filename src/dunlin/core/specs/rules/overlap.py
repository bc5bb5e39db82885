"""Captions shown at the same time."""

from collections.abc import Iterator

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    if spec.overlap_allowed or place.before is None:
        return
    overlap = place.before.out_ms - place.caption.in_ms
    if overlap > 0:
        message = f"starts {overlap} ms before the caption before it ends"
        yield place.finding("overlap", overlap, 0, "ms", message)
