"""What an edit gives back, and how it says no."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from dunlin.core.captions.model import Caption, Track
from dunlin.core.messages import Told, message

if TYPE_CHECKING:
    from dunlin.core.captions.edits import Operation

__all__ = ["Applied", "Conflict", "held", "timed"]


class Conflict(Told, ValueError):
    """The track is not as the operation expects it."""


@dataclass(frozen=True)
class Applied:
    """The new track, the operation that undoes the edit, and the ids of what changed.

    `done` is the operation as it was carried out, where that says more than what was asked for: the
    spans that other words came to stand in, or only the captions that were not locked.
    """

    track: Track
    inverse: "Operation"
    touched: frozenset[str]
    done: "Operation | None" = None


def held(track: Track, id_: str) -> Caption:
    """The caption of an id. :raises Conflict: when it is gone"""
    if id_ not in track:
        raise Conflict(message("edits.no-such-caption", caption=id_))
    return track[id_]


def timed(caption: Caption) -> Caption:
    """The caption, if it ends after it starts and starts in the film. :raises Conflict:"""
    if caption.in_ms < 0 or caption.out_ms <= caption.in_ms:
        raise Conflict(
            message(
                "edits.impossible-times",
                caption=caption.id,
                in_ms=caption.in_ms,
                out_ms=caption.out_ms,
            )
        )
    return caption
