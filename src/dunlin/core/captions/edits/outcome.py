"""What an edit gives back, and how it says no."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from dunlin.core.captions.model import Caption, Track

if TYPE_CHECKING:
    from dunlin.core.captions.edits import Operation

__all__ = ["Applied", "Conflict", "held", "timed"]


class Conflict(ValueError):
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
        raise Conflict(f"caption {id_} is not in this track")
    return track[id_]


def timed(caption: Caption) -> Caption:
    """The caption, if it ends after it starts and starts in the film. :raises Conflict:"""
    if caption.in_ms < 0 or caption.out_ms <= caption.in_ms:
        raise Conflict(
            f"caption {caption.id} would run from {caption.in_ms} to {caption.out_ms} ms"
        )
    return caption
