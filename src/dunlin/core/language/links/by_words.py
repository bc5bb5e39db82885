"""Captions linked to those of another track by what they say, as when both come in files."""

from collections.abc import Sequence

from dunlin.core.captions import Caption, Track
from dunlin.core.language.links.following import links_by_time
from dunlin.core.language.links.model import Link, Progress
from dunlin.core.language.pairing import Paired, Passage, paired

__all__ = ["agree_in_time", "links_by_words", "paired_captions"]


def paired_captions(
    sources: Sequence[Caption], targets: Sequence[Caption], language: str, target_language: str
) -> list[Paired]:
    """Captions of two tracks paired by order, length, numbers, names, words, and times where these are of one film."""
    timed = agree_in_time(sources, targets)
    return paired(_passages(sources, timed), _passages(targets, timed), language, target_language)


def agree_in_time(sources: Sequence[Caption], targets: Sequence[Caption]) -> bool:
    """Whether nearly all captions of a translation share their time with some of the source."""
    links = links_by_time(targets, Track.of(sources))
    return sum(bool(link.sources) for link in links.values()) >= _AGREE * len(targets)


def links_by_words(
    sources: Sequence[Caption], targets: Sequence[Caption], language: str, target_language: str
) -> dict[str, Link]:
    """The captions that each one of a translation is of, by its id; none for those that stand alone. Where it is not sure
    that they say the same, the link says so."""
    found: dict[str, Link] = {}
    for pair in paired_captions(sources, targets, language, target_language):
        doubtful: Progress | None = "doubtful" if pair.sources and pair.is_doubtful else None
        link = Link(tuple(sources[at].id for at in pair.sources), progress=doubtful)
        found |= {targets[at].id: link for at in pair.targets}
    return found


_AGREE = 0.8


def _passages(captions: Sequence[Caption], timed: bool) -> list[Passage]:
    if not timed:
        return [Passage(one.text) for one in captions]
    return [Passage(one.text, one.in_ms, one.out_ms) for one in captions]
