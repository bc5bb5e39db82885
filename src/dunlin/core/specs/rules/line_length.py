"""Characters per line."""

from collections.abc import Iterator

from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules.place import Finding, Place


def check(place: Place, spec: Spec) -> Iterator[Finding]:
    longest, limit = place.measures.longest_line, spec.characters_per_line
    if longest > limit:
        message = f"longest line {longest} characters, the spec allows {limit}"
        yield place.finding("line-length", longest, limit, "characters", message)
