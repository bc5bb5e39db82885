"""Where a timeline, whichever its form, cuts from one clip of the film to the next."""

from dunlin.core.messages import message
from dunlin.core.timecode import FrameRate
from dunlin.core.timeline.edl import read_edl
from dunlin.core.timeline.model import TimelineError

__all__ = ["cuts_in"]


def cuts_in(data: bytes, rate: FrameRate) -> tuple[int, ...]:
    """Milliseconds of the cuts of a file, OpenTimelineIO or an edit list, from the film's beginning, in order.

    :param rate: that an edit list counts frames at
    :raises TimelineError: when it is neither, or has no cuts
    """
    if data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith(b"{"):
        # The package takes a tenth of a second to be loaded.
        from dunlin.core.timeline.otio import read_otio

        cuts = read_otio(data).cuts_ms
    else:
        cuts = read_edl(data.decode("utf-8", "replace").replace("\r\n", "\n"), rate).cuts_ms
    if not cuts:
        raise TimelineError(message("timeline.no-cuts"))
    return cuts
