"""Links after an edit on either side: captions split, joined, retimed and deleted."""

from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import replace
from itertools import islice

from dunlin.core.captions import Caption, Track
from dunlin.core.captions.lineage import Lineage
from dunlin.core.language.links.model import Link, Progress, said_by_sources

__all__ = ["links_by_time", "links_with_source", "links_with_target", "times_with_source"]

Links = Mapping[str, Link]
"""By the ids of the captions of the translation."""


def links_by_time(captions: Iterable[Caption], source: Track) -> dict[str, Link]:
    """Captions linked to those of the source with which they share half of the time of either, or more."""
    listed = list(source)
    found: dict[str, Link] = {}
    first = 0
    longest = max((caption.out_ms - caption.in_ms for caption in listed), default=0)
    for caption in sorted(captions, key=lambda one: one.in_ms):
        while first < len(listed) and listed[first].in_ms + longest <= caption.in_ms:
            first += 1
        sources = []
        for one in islice(listed, first, None):
            if one.in_ms >= caption.out_ms:
                break
            if 2 * _shared(caption, one) >= min(_length(caption), _length(one)) > 0:
                sources.append(one.id)
        found[caption.id] = Link(tuple(sources))
    return found


def links_with_target(
    links: Links, came: Lineage, after: Track, source: Track
) -> dict[str, Link | None]:
    """The links that are others after an edit of the translation.

    What came of captions translates what they did, of that what is said in its own time. What came of none, as a
    caption in a gap, goes by its time.

    :param after: the translation as it is now
    :returns: None for those that are gone
    """
    changed: dict[str, Link | None] = dict.fromkeys(id_ for id_ in came.heirs if id_ in links)
    # A file that is brought in puts thousands: they are looked for in one go.
    alone = [
        after[id_]
        for id_, parents in came.parents.items()
        if not any(one in links for one in parents)
    ]
    if alone:
        changed |= links_by_time(alone, source)
    for id_, parents in came.parents.items():
        known = [links[one] for one in parents if one in links]
        if not known:
            continue
        changed[id_] = _in_time(_joined(known, source), after[id_], source)
        # What it was parted from keeps what is said in the time that is left to it.
        for one in parents:
            if one in links and one in after:
                changed[one] = _in_time(links[one], after[one], source)
    for gone, heirs in came.heirs.items():
        for heir in heirs:
            if gone in links and heir in links and heir not in came.parents:
                own = changed.get(heir) or links[heir]
                changed[heir] = _joined([own, links[gone]], source)
    return {id_: link for id_, link in changed.items() if link != links.get(id_)}


def links_with_source(
    links: Links, came: Lineage, before: Track, after: Track, target: Track
) -> dict[str, Link]:
    """The links that are others after an edit of the source.

    Where captions were only parted or joined, what they said is still translated; where words became others, the
    link tells by what it was translated.

    :param links: those of captions whose sources the edit touched, and those without sources in its time
    :param before: the source before the edit
    :param after: the source as it is now
    :param target: the translation
    """
    parted: dict[str, list[str]] = {}
    for new, parents in came.parents.items():
        for one in parents:
            parted.setdefault(one, []).append(new)
    changed = {}
    for id_, link in links.items():
        if id_ not in target or not any(one in came.heirs or one in parted for one in link.sources):
            continue
        wider: set[str] = set()
        for one in link.sources:
            if one in after:
                wider.add(one)
            wider |= {*came.heirs.get(one, ()), *parted.get(one, ())}
        ordered = _in_order(wider, after)
        was_current = link.said == said_by_sources(before, link.sources)
        now = _in_time(replace(link, sources=ordered), target[id_], after)
        if was_current and _says_the_same(before, link.sources, after, ordered):
            now = replace(now, said=said_by_sources(after, now.sources))
        else:
            now = replace(now, said=link.said)
        if now != link:
            changed[id_] = now
    # What is put into a gap is what a caption there, which had no source, translates.
    put = Track.of(after[id_] for id_, parents in came.parents.items() if not parents)
    if len(put):
        free = (target[id_] for id_, link in links.items() if not link.sources and id_ in target)
        for id_, link in links_by_time(free, put).items():
            if link.sources:
                changed[id_] = replace(links[id_], sources=link.sources)
    return changed


def times_with_source(
    links: Links, touched: Collection[str], before: Track, after: Track, target: Track
) -> Iterator[tuple[str, int, int]]:
    """The times of captions whose source's became others: edges follow that stood where the source's did.

    :param touched: ids of captions of the source that the edit changed
    :returns: id, in and out, of those that are to have others
    """
    for id_, link in links.items():
        if id_ not in target or not any(one in touched for one in link.sources):
            continue
        were = [before[one] for one in link.sources if one in before]
        are = [after[one] for one in link.sources if one in after]
        if len(were) != len(link.sources) or len(are) != len(were) or not are:
            continue
        caption = target[id_]
        in_ms, out_ms = caption.in_ms, caption.out_ms
        if in_ms == min(one.in_ms for one in were):
            in_ms = min(one.in_ms for one in are)
        if out_ms == max(one.out_ms for one in were):
            out_ms = max(one.out_ms for one in are)
        if in_ms < out_ms and (in_ms, out_ms) != (caption.in_ms, caption.out_ms):
            yield id_, in_ms, out_ms


def _length(caption: Caption) -> int:
    return caption.out_ms - caption.in_ms


def _shared(one: Caption, other: Caption) -> int:
    """Milliseconds that two captions are shown at once."""
    return max(min(one.out_ms, other.out_ms) - max(one.in_ms, other.in_ms), 0)


def _in_order(ids: Iterable[str], track: Track) -> tuple[str, ...]:
    there = [id_ for id_ in ids if id_ in track]
    return tuple(sorted(there, key=lambda id_: (track[id_].in_ms, id_)))


def _in_time(link: Link, caption: Caption, source: Track) -> Link:
    """A link with those of its sources alone that are shown in its caption's time, if any is."""
    there = tuple(
        id_ for id_ in link.sources if id_ in source and _shared(caption, source[id_]) > 0
    )
    if not there or there == link.sources:
        return link
    is_current = link.said == said_by_sources(source, link.sources)
    return replace(
        link, sources=there, said=said_by_sources(source, there) if is_current else link.said
    )


def _joined(links: Iterable[Link], source: Track) -> Link:
    """What several captions translate, in one; it is as far as that is which is least far."""
    known = list(links)
    first = known[0]
    sources = _in_order({one for link in known for one in link.sources}, source)
    progress = first.progress if all(link.progress == first.progress for link in known) else None
    unsure: tuple[Progress, ...] = ("draft", "doubtful")
    progress = next((p for p in unsure if any(link.progress == p for link in known)), progress)
    are_current = all(link.said == said_by_sources(source, link.sources) for link in known)
    said = " ".join(dict.fromkeys(link.said for link in known if link.said)) or None
    return Link(
        sources,
        said_by_sources(source, sources) if are_current and said else said,
        progress,
        origin=first.origin if progress == "draft" else None,
    )


def _says_the_same(before: Track, were: Iterable[str], after: Track, are: Iterable[str]) -> bool:
    return said_by_sources(before, were) == said_by_sources(after, are)
