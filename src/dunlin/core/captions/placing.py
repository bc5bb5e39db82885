"""The nine places on a picture, numbered as on a keypad, which SRT by custom and ASS by design use."""

from dunlin.core.captions.model import Placement

__all__ = ["keypad_number", "placement_at"]

_ANCHORS = ("bottom", "middle", "top")
_ALIGNS = ("left", "center", "right")


def placement_at(number: int) -> Placement | None:
    """The placement of a number from 1, lower left, to 9, upper right; None for 2, the usual one.

    :raises IndexError: beyond that
    """
    row, column = divmod(number - 1, 3)
    place = Placement(_ANCHORS[row], _ALIGNS[column])  # type: ignore[arg-type]
    return None if place == Placement() else place


def keypad_number(place: Placement | None) -> int:
    """The number of a placement, leaving aside its exact position."""
    if place is None:
        return 2
    return _ANCHORS.index(place.anchor) * 3 + _ALIGNS.index(place.align) + 1
