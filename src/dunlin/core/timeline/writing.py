"""Timelines in the form that is asked for."""

from typing import Literal

from dunlin.core.timeline.edl import written_edl
from dunlin.core.timeline.model import Timeline

__all__ = ["written_timeline"]


def written_timeline(timeline: Timeline, form: Literal["otio", "edl"]) -> bytes:
    """A timeline as a file: OpenTimelineIO, or a CMX 3600 list."""
    if form == "edl":
        return written_edl(timeline)
    # The package takes a tenth of a second to be loaded; who writes no timeline does not wait for it.
    from dunlin.core.timeline.otio import written_otio

    return written_otio(timeline)
