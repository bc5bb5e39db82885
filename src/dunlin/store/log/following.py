"""What follows from an edit of captions for all that goes by them: it belongs to the same gesture, and is undone with it."""

from collections.abc import Callable, Iterator
from typing import Any

from dunlin.core.captions import Track
from dunlin.core.captions.edits import Applied
from dunlin.core.captions.lineage import lineage
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import apart_in, versions_of
from dunlin.core.versions.captions import apart_inherited
from dunlin.store.log.model import Operation

__all__ = ["what_follows"]


def what_follows(
    track_id: str, before: Track, applied: Applied, read: Callable[[str], Any]
) -> Iterator[tuple[str, Operation]]:
    """Edits of other targets, with their addresses.

    :param read: gives a target's state as it is now, by its address
    """
    came = lineage(before, applied.track, applied.touched)
    if came.parents:
        for version in read(versions_of(track_id)):
            address = apart_in(track_id, version)
            if inherited := apart_inherited(read(address), came):
                yield address, SetEntries(inherited)
