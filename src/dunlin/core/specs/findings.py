"""What breaks a spec: every rule asked about every caption."""

from collections.abc import Iterator

from dunlin.core.captions.model import Track
from dunlin.core.specs.measures import measures
from dunlin.core.specs.model import Spec
from dunlin.core.specs.rules import RULES, Finding, Place
from dunlin.core.timecode import FrameRate

__all__ = ["Finding", "findings", "findings_of"]


def findings_of(track: Track, index: int, spec: Spec, rate: FrameRate) -> list[Finding]:
    """Findings about the caption at a place in the track's order."""
    caption = track.at(index)
    if caption is None:
        raise IndexError(index)
    place = Place(caption, track.at(index - 1), track.at(index + 1), measures(track, index), rate)
    return [finding for rule in RULES for finding in rule(place, spec)]


def findings(track: Track, spec: Spec, rate: FrameRate) -> Iterator[Finding]:
    """Findings about all captions, in the track's order."""
    for index in range(len(track)):
        yield from findings_of(track, index, spec, rate)
