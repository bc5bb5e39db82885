"""Least and greatest duration."""

from collections.abc import Iterator

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    duration = place.measures.duration_ms
    if duration < spec.least_duration_ms:
        message = f"shown for {duration} ms, the spec's least is {spec.least_duration_ms}"
        yield place.finding("least-duration", duration, spec.least_duration_ms, "ms", message)
    if duration > spec.greatest_duration_ms:
        message = f"shown for {duration} ms, the spec's greatest is {spec.greatest_duration_ms}"
        yield place.finding("greatest-duration", duration, spec.greatest_duration_ms, "ms", message)
