"""Reading speed."""

from collections.abc import Iterator

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    speed, limit = place.measures.reading_speed, spec.reading_speed
    if speed > limit:
        message = f"{speed:.1f} characters a second, the spec allows {limit:g}"
        yield place.finding("reading-speed", round(speed, 2), limit, "cps", message)
