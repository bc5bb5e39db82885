"""Shot changes put right by hand."""

from collections.abc import Sequence

from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import FrameRate, snap

__all__ = ["shot_toggled"]


def shot_toggled(shots: Sequence[int], at_ms: int, rate: FrameRate) -> list[int]:
    """Shot changes without the one on a time's frame, or with one there when there was none.

    :param shots: milliseconds of the first frame of each shot but the first
    :returns: in order
    :raises ValueError: for the film's first frame, before which there is no other shot
    """
    frame = snap(at_ms, rate)
    if not frame:
        raise BadInput(message("shots.first"))
    others = [shot for shot in shots if snap(shot, rate) != frame]
    there = len(others) < len(shots)
    return others if there else sorted([*others, frame])
