"""Number of lines."""

from collections.abc import Iterator

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    lines = place.measures.lines
    if lines > spec.lines:
        message = f"{lines} lines, the spec allows {spec.lines}"
        yield place.finding("lines", lines, spec.lines, "lines", message)
