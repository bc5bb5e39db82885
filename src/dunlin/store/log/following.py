"""What follows from an edit of captions for all that goes by them: it belongs to the same gesture, and is undone with it.

Versions keep what differs in them, translations which captions they are of, and their times where these are the source's.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

from dunlin.core.captions import ChangeCaptions, Track
from dunlin.core.captions.edits import Applied, Change
from dunlin.core.captions.lineage import Lineage, lineage
from dunlin.core.language.links.following import (
    links_with_source,
    links_with_target,
    times_with_source,
)
from dunlin.core.language.links.model import Link, link_of_stored, stored_link
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import TRACKS, apart_in, links_of, versions_of
from dunlin.core.versions.captions import apart_inherited
from dunlin.store.log.model import Operation

__all__ = ["what_follows"]

Following = tuple[str, Operation]
"""The address of a target, and an edit of it."""


def what_follows(
    track_id: str, before: Track, applied: Applied, read: Callable[[str], Any]
) -> Iterator[Following]:
    """Edits of other targets.

    :param track_id: of the track whose captions were edited
    :param read: gives a target's state as it is now, by its address
    """
    after, touched = applied.track, applied.touched
    came = lineage(before, after, touched)
    tracks: Mapping[str, Mapping[str, Any]] = read(TRACKS)
    if came.parents:
        yield from _in_versions(track_id, came, read)
    source = tracks.get(track_id, {}).get("translates")
    if source is not None and source in tracks and (came.parents or came.heirs):
        ids = {*came.heirs, *(one for parents in came.parents.values() for one in parents)}
        ids |= {heir for heirs in came.heirs.values() for heir in heirs}
        entries = read(links_of(track_id))
        links = {id_: link_of_stored(entries[id_]) for id_ in ids if id_ in entries}
        yield from _put(track_id, links_with_target(links, came, after, read(captions_of(source))))
    for other, entry in tracks.items():
        if entry.get("translates") == track_id:
            yield from _in_translation(other, came, before, applied, read)


def _in_versions(track_id: str, came: Lineage, read: Callable[[str], Any]) -> Iterator[Following]:
    for version in read(versions_of(track_id)):
        address = apart_in(track_id, version)
        if inherited := apart_inherited(read(address), came):
            yield address, SetEntries(inherited)


def _in_translation(
    track_id: str, came: Lineage, before: Track, applied: Applied, read: Callable[[str], Any]
) -> Iterator[Following]:
    """What an edit of its source makes otherwise in a translation."""
    after, touched = applied.track, applied.touched
    if not (came.parents or came.heirs or _retimed(before, after, touched)):
        return
    target: Track = read(captions_of(track_id))
    # One edit is about few: of ten thousand links only those are looked at that it is about.
    entries = read(links_of(track_id))
    links = {
        id_: link_of_stored(entry)
        for id_, entry in entries.items()
        if not touched.isdisjoint(entry["sources"])
    }
    if any(not parents for parents in came.parents.values()):
        free = (id_ for id_ in target.by_id if not entries.get(id_, {}).get("sources"))
        links |= {id_: link_of_stored(entries[id_]) if id_ in entries else Link() for id_ in free}
    changes = tuple(
        Change(caption=id_, in_ms=in_ms, out_ms=out_ms)
        for id_, in_ms, out_ms in times_with_source(links, touched, before, after, target)
        if not target[id_].locked
    )
    yield from _put(track_id, links_with_source(links, came, before, after, target))
    if changes:
        yield captions_of(track_id), ChangeCaptions(changes)


def _put(track_id: str, changed: Mapping[str, Link | None]) -> Iterator[Following]:
    if changed:
        entries = {id_: link and stored_link(link) for id_, link in changed.items()}
        yield links_of(track_id), SetEntries(entries)


def _retimed(before: Track, after: Track, touched: Iterable[str]) -> bool:
    return any(
        (before[id_].in_ms, before[id_].out_ms) != (after[id_].in_ms, after[id_].out_ms)
        for id_ in touched
        if id_ in before and id_ in after
    )
