"""Captions written as one page of text: words move across captions and lines, and keep their times."""

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from dunlin.core.captions.model import Caption, Span, joined, rewritten, sliced
from dunlin.core.speech.transcript import Written, timed
from dunlin.core.speech.words import Word
from dunlin.core.timecode import FrameRate, next_frame, snap

__all__ = ["captions_of_page", "paragraph"]

# A new caption that nothing follows ends once it is read: with room for the slowest of usual limits.
_MS_PER_CHARACTER, _LEAST_MS = 80, 1000


def captions_of_page(
    old: Sequence[Caption],
    texts: Sequence[str],
    words: Sequence[Word],
    room: tuple[int, int],
    rate: FrameRate,
    *,
    gap_ms: int = 0,
) -> list[Caption]:
    """Captions that say these texts, in the place of those that stood there.

    Each word keeps the time it was spoken at; words that are new get theirs from their neighbours
    (`dunlin.core.speech.transcript.timed`). A caption that still begins with the words it began with
    keeps its in, and one that ends with them its out; else it comes in with its first word, on a
    frame, and goes out with its last, or as early as the gap asks for. It keeps its id, and all that
    is not text, where most of its words are. One that is locked keeps its times.

    :param old: captions in order
    :param texts: one for each caption that shall be, in order, none without a word
    :param words: those that are spoken while the old captions are shown, in order, each heard
    :param room: the out of the caption before, and the in of the one after, in milliseconds
    :returns: one caption for each text, in order; a new one's id is `page-` and its number
    """
    middles = [(word.start_ms + word.end_ms) // 2 for word in words]
    spoken = [
        _spoken(c, words[bisect_left(middles, c.in_ms) : bisect_left(middles, c.out_ms)])
        for c in old
    ]
    said = _said(texts, [word for own in spoken for word in own], room)
    owners = _owners(said, spoken)
    last_of = {owner: i for i, owner in enumerate(owners)}
    first_of = {owner: i for i, owner in reversed([*enumerate(owners)])}
    pieces = list(pairwise(_edges(texts)))
    heirs = _heirs(pieces, owners)
    styled = _styled(old, texts)
    captions: list[Caption] = []
    for number, ((first, after), text, spans) in enumerate(zip(pieces, texts, styled, strict=True)):
        own = [(i, owner) for i in range(first, after) if (owner := owners[i]) is not None]
        in_ms, out_ms = snap(said[first].start_ms, rate), snap(said[after - 1].end_ms, rate)
        if own:
            (begins, begun), (ends, ended) = own[0], own[-1]
            in_ms = old[begun].in_ms if begins == first_of[begun] else in_ms
            out_ms = old[ended].out_ms if ends == last_of[ended] else out_ms
        else:
            read = max(len(text) * _MS_PER_CHARACTER, _LEAST_MS)
            out_ms = min(out_ms, snap(in_ms + read, rate))
        heir = heirs[number]
        if heir.is_it:
            caption = replace(old[heir.of], spans=spans)
            if not caption.locked:
                caption = replace(caption, in_ms=in_ms, out_ms=out_ms)
        else:
            like = old[heir.of] if old else Caption("", 0, 0)
            caption = replace(
                like, id=f"page-{number}", in_ms=in_ms, out_ms=out_ms, spans=spans, extras=(),
                locked=False, made=None,
            )  # fmt: skip
        captions.append(caption)
    return _parted(captions, {c.id: c for c in old}, room, gap_ms, rate) if captions else []


def paragraph(text: str) -> str:
    """The text of one caption as it is stored: no blank line, nothing around a line."""
    return "\n".join(line.strip() for line in text.split("\n") if line.strip())


def _spoken(caption: Caption, own: Sequence[Word]) -> list[Word]:
    """The words of a caption with their times, by those that are spoken while it is shown."""
    left = min([caption.in_ms, *(word.start_ms for word in own)])
    right = max([caption.out_ms, *(word.end_ms for word in own)])
    return timed([Written(text) for text in caption.text.split()], own, left, right)


def _said(texts: Sequence[str], was: Sequence[Word], room: tuple[int, int]) -> list[Word]:
    left = min([room[0], *(word.start_ms for word in was)])
    right = max([room[1], *(word.end_ms for word in was)])
    return timed([Written(word) for text in texts for word in text.split()], was, left, right)


def _edges(texts: Sequence[str]) -> list[int]:
    """The number of the first word of each text, and of the one after the last."""
    edges = [0]
    for text in texts:
        edges.append(edges[-1] + len(text.split()))
    return edges


def _owners(said: Sequence[Word], spoken: Sequence[Sequence[Word]]) -> list[int | None]:
    """The old caption in whose words' time each word is said; None for what stands between."""
    voiced = [(own[0].start_ms, own[-1].end_ms, i) for i, own in enumerate(spoken) if own]
    starts = [start for start, _, _ in voiced]
    found: list[int | None] = []
    for word in said:
        middle = (word.start_ms + word.end_ms) / 2
        at = bisect_right(starts, middle) - 1
        found.append(voiced[at][2] if at >= 0 and middle <= voiced[at][1] else None)
    return found


@dataclass(frozen=True)
class _Heir:
    """The old caption that a new one takes after, and whether it is that one still."""

    of: int
    is_it: bool


def _heirs(pieces: Sequence[tuple[int, int]], owners: Sequence[int | None]) -> list[_Heir]:
    shares = [
        Counter(owner for owner in owners[first:after] if owner is not None)
        for first, after in pieces
    ]
    heir_of: dict[int, int] = {}
    taken: set[int] = set()
    ranked = sorted(
        ((count, -number, owner) for number, share in enumerate(shares)
         for owner, count in share.items()),
        reverse=True,
    )  # fmt: skip
    for _, negative, owner in ranked:
        if owner not in taken and -negative not in heir_of:
            heir_of[-negative] = owner
            taken.add(owner)
    heirs: list[_Heir] = []
    like = 0
    for number, share in enumerate(shares):
        like = share.most_common(1)[0][0] if share else like
        heirs.append(_Heir(heir_of.get(number, like), number in heir_of))
    return heirs


def _styled(old: Sequence[Caption], texts: Sequence[str]) -> list[tuple[Span, ...]]:
    """The texts in the styles that their words had."""
    whole = joined(*(part for caption in old for part in (caption.spans, (Span("\n"),))))
    page = rewritten(whole, "".join(f"{text}\n" for text in texts))
    styled, at = [], 0
    for text in texts:
        styled.append(sliced(page, at, at + len(text)))
        at += len(text) + 1
    return styled


def _parted(
    captions: Sequence[Caption],
    old: Mapping[str, Caption],
    room: tuple[int, int],
    gap_ms: int,
    rate: FrameRate,
) -> list[Caption]:
    """The captions, each after the one before; times that are new leave the gap, those kept give way last."""
    times = [[c.in_ms, c.out_ms] for c in captions]
    is_new = [
        (c.id not in old or c.in_ms != old[c.id].in_ms, c.id not in old or c.out_ms != old[c.id].out_ms)
        for c in captions
    ]  # fmt: skip
    if is_new[0][0]:
        times[0][0] = max(times[0][0], room[0])
    if is_new[-1][1]:
        times[-1][1] = min(times[-1][1], room[1])
    for (this, that), (this_new, that_new) in zip(pairwise(times), pairwise(is_new), strict=True):
        if this_new[1]:
            this[1] = min(this[1], that[0] - gap_ms)
        elif that_new[0]:
            that[0] = max(that[0], this[1] + gap_ms)
        if this[1] <= this[0]:
            this[1] = next_frame(this[0], rate)
            that[0] = max(that[0], this[1])
    last = times[-1]
    last[1] = max(last[1], next_frame(last[0], rate))
    return [
        caption if caption.locked else replace(caption, in_ms=in_ms, out_ms=out_ms)
        for caption, (in_ms, out_ms) in zip(captions, times, strict=True)
    ]
