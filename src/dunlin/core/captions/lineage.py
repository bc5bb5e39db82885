"""Which captions came of which in an edit, whatever edit it was: told by when they are shown."""

from bisect import bisect_left
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field

from dunlin.core.captions.model import Caption, Track

__all__ = ["Lineage", "lineage"]


@dataclass(frozen=True)
class Lineage:
    """What became of captions; those that share the most time come first."""

    parents: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    """Of captions that are new: those that are gone, or changed, and were shown in their time."""
    heirs: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    """Of captions that are gone: those that are new, or changed, and are shown in theirs; none when they were deleted."""


def lineage(before: Track, after: Track, touched: Collection[str]) -> Lineage:
    """What an edit made of captions: the second half of a split came of the first, a merged one went on in another.

    :param touched: ids of all captions that the edit added, changed or removed
    """
    new = [after[id_] for id_ in touched if id_ in after and id_ not in before]
    gone = [before[id_] for id_ in touched if id_ in before and id_ not in after]
    if not new and not gone:
        return Lineage()
    as_they_were = [before[id_] for id_ in touched if id_ in before]
    as_they_are = [after[id_] for id_ in touched if id_ in after]
    return Lineage(_sharing(new, as_they_were), _sharing(gone, as_they_are))


def _sharing(captions: Iterable[Caption], others: Iterable[Caption]) -> dict[str, tuple[str, ...]]:
    """For each caption the others that are shown in its time."""
    ordered = sorted(others, key=lambda caption: caption.in_ms)
    begins = [caption.in_ms for caption in ordered]
    longest = max((caption.out_ms - caption.in_ms for caption in ordered), default=0)
    found = {}
    for caption in captions:
        first = bisect_left(begins, caption.in_ms - longest)
        there = ordered[first : bisect_left(begins, caption.out_ms)]
        shared = sorted(
            (max(caption.in_ms, one.in_ms) - min(caption.out_ms, one.out_ms), one.in_ms, one.id)
            for one in there
            if one.out_ms > caption.in_ms
        )
        found[caption.id] = tuple(id_ for *_, id_ in shared)
    return found
