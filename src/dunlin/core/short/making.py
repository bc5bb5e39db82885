"""Captions of a few words at a time, made of words that were heard, or anew of captions that are there.

What was done to words by hand stays with them: how they are written and styled, which weigh, what stands by them, where a
caption shall begin. What was done to a caption stays with its first word.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import accumulate, pairwise

from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Span, Spoken, joined
from dunlin.core.short.fit import Fitted, Widths, fitted, halved
from dunlin.core.short.model import ALL_SEEN, AMOUNTS, Fit, Rhythm, Seen, ShortLook
from dunlin.core.short.rhythm import Heard, parted
from dunlin.core.short.sight import covers, is_surely_seen, within_sight
from dunlin.core.short.words import ShortWord
from dunlin.core.specs.model import Spec
from dunlin.core.styles.model import Style
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.telling import in_state, shown_words
from dunlin.core.styles.wrapping import room_of, spans_width
from dunlin.core.text.joints import joint_cost
from dunlin.core.text.words import between
from dunlin.core.timecode import FrameRate, first_frame_from, frame_at, start_of_frame

__all__ = [
    "Setting",
    "captions_in_two_lines",
    "captions_of_groups",
    "examples",
    "groups_that_fit",
    "short_captions",
    "tightness",
]

_HOLD_MS = 350
"""How long a caption stays after its last word where nothing follows."""
_UNSEEN = 0.002
"""Of the room there is: less than that nobody misses."""
_BRIDGED_MS = 700
"""A pause in which a caption stays until the next one comes: shorter ones would flicker."""


@dataclass(frozen=True)
class Setting:
    """What captions are made by.

    :param style: the whole style of the look
    :param seen: what a viewer sees of the picture
    :param ends_ms: where the film ends, if there is one
    """

    look: ShortLook
    style: Style
    picture: Script
    spec: Spec
    rate: FrameRate
    language: str
    seen: Seen = ALL_SEEN
    ends_ms: int | None = None

    @property
    def lines(self) -> int:
        """How many lines are wanted at the most."""
        rhythm = self.look.rhythm
        return AMOUNTS[rhythm.amount - 1].lines if rhythm.by == "amount" else 2

    @property
    def room(self) -> float:
        """Pixels that the words of a line may take, without their edges."""
        style = self.style
        padding = style.background_padding * bool(style.background)
        edges = 2 * (style.outline + style.outline_softness + padding) * base_size(self.picture)
        return min(room_of(style), self.seen.right - self.seen.left) * self.picture.width - edges


def short_captions(words: Sequence[ShortWord], by: Setting) -> tuple[Caption, ...]:
    """Captions of words in a look's rhythm, each within what a viewer sees of the picture.

    A caption that begins with the word that one began with before is that one still: it keeps its id, and its place and look
    by hand.

    :param words: in order of their times
    :returns: in order; a new one's id is `short-` and a number
    """
    if not words:
        return ()
    widths = _widths(words, by)
    heard = [
        Heard(w.text, w.start_ms, w.end_ms, width, w.spoken.boundary, w.speaker)
        for w, width in zip(words, widths.words, strict=True)
    ]
    spec = (by.spec, by.rate)
    groups = parted(heard, by.look.rhythm, widths.room, widths.space, by.language, spec)
    return _built(words, _parts(words, groups, widths, by.look.fit, by), widths, by)


def captions_of_groups(groups: Sequence[Sequence[ShortWord]], by: Setting) -> tuple[Caption, ...]:
    """Captions of just these words each, broken and made smaller as they have to be, but never parted."""
    words = [word for group in groups for word in group]
    if not words:
        return ()
    ends = [*accumulate(map(len, groups), initial=0)]
    whole = replace(by.look.fit, order=tuple(m for m in by.look.fit.order if m != "fewer-words"))
    widths = _widths(words, by)
    return _built(words, _parts(words, [*pairwise(ends)], widths, whole, by), widths, by)


def captions_in_two_lines(words: Sequence[ShortWord], by: Setting) -> tuple[Caption, ...]:
    """The caption of these words, in two lines whether or not one is enough; a single word stays in one."""
    widths = _widths(words, by)
    return _built(words, [halved(widths, _joints(words, by), 0, len(words))], widths, by)


def groups_that_fit(words: Sequence[ShortWord], by: Setting) -> list[Sequence[ShortWord]]:
    """The words of a caption in two groups, or in as many as it takes for each to fit."""
    widths, joints = _widths(words, by), _joints(words, by)
    fit = replace(by.look.fit, order=("fewer-words",))
    parts = fitted(widths, joints, fit, 0, len(words), by.lines)
    if len(parts) == 1 and len(words) > 1:
        middle = halved(widths, joints, 0, len(words)).breaks[0]
        return [words[:middle], words[middle:]]
    return [words[part.first : part.after] for part in parts]


def examples(words: Sequence[ShortWord], by: Setting, near_ms: int) -> list[str]:
    """What is shown at once near a time, for each amount there is."""
    found = []
    for amount in range(1, len(AMOUNTS) + 1):
        look = replace(by.look, rhythm=Rhythm("amount", amount))
        captions = short_captions(words, replace(by, look=look))
        nearest = min(captions, key=lambda caption: abs(caption.in_ms - near_ms), default=None)
        found.append(nearest.text if nearest else "")
    return found


def tightness(captions: Iterable[Caption], by: Setting) -> Iterator[tuple[Caption, float]]:
    """Captions that a viewer does not see all of, and by what part of the room they have they are too wide or too high."""
    across = (by.seen.left * by.picture.width, by.seen.right * by.picture.width)
    down = (by.seen.top * by.picture.height, by.seen.bottom * by.picture.height)
    for caption in captions:
        if caption.is_shape or not caption.text.strip():
            continue
        left, top, right, bottom = covers(caption, by.style, by.picture)
        over = max(
            max(across[0] - left, right - across[1]) / (across[1] - across[0]),
            max(down[0] - top, bottom - down[1]) / (down[1] - down[0]),
        )
        if over > _UNSEEN:
            yield caption, over


def _widths(words: Sequence[ShortWord], by: Setting) -> Widths:
    # A talk says the same words over and over.
    known: dict[tuple[Span, ...], float] = {}
    taken = tuple(_known_width(word, by, known) for word in words)
    space = spans_width([Span(" ")], by.style, by.picture)
    return Widths(taken, space, by.room, by.style.second_line)


def _joints(words: Sequence[ShortWord], by: Setting) -> list[float]:
    return [joint_cost(a.text, b.text, by.language) for a, b in pairwise(words)]


def _parts(
    words: Sequence[ShortWord],
    groups: Sequence[tuple[int, int]],
    widths: Widths,
    fit: Fit,
    by: Setting,
) -> list[Fitted]:
    joints = _joints(words, by)
    return [
        part
        for first, after in groups
        for part in fitted(widths, joints, fit, first, after, by.lines)
    ]


def _built(
    words: Sequence[ShortWord], parts: Sequence[Fitted], widths: Widths, by: Setting
) -> tuple[Caption, ...]:
    captions: list[Caption] = []
    for n, part in enumerate(parts):
        own = words[part.first : part.after]
        following = words[parts[n + 1].first].start_ms if n + 1 < len(parts) else None
        # Words that begin in one frame come in one after the other.
        least = frame_at(captions[-1].in_ms, by.rate) + 1 if captions else 0
        in_ms, out_ms = _times(own, following, least, by.rate, by.ends_ms)
        if captions and captions[-1].out_ms > in_ms:
            captions[-1] = replace(captions[-1], out_ms=in_ms)
        made = _caption(part, own, f"short-{n}", in_ms, out_ms, by.style)
        if made.look or made.placement or not _is_surely_seen(part, widths, by):
            made = within_sight(made, by.style, by.picture, by.seen)
        captions.append(made)
    return tuple(captions)


def _is_surely_seen(part: Fitted, widths: Widths, by: Setting) -> bool:
    edges = [part.first, *part.breaks, part.after]
    lines = [
        widths.line(first, after, widths.below if n else 1.0)
        for n, (first, after) in enumerate(pairwise(edges))
    ]
    return is_surely_seen(max(lines), len(lines), by.style, by.picture, by.seen)


def _known_width(word: ShortWord, by: Setting, known: dict[tuple[Span, ...], float]) -> float:
    weight = Spoken(emphasis=word.spoken.emphasis) if word.spoken.emphasis else None
    spans = tuple(_with_weight_alone(span, weight) for span in word.spans)
    if spans not in known:
        known[spans] = _width(spans, by.style, by.picture)
    return known[spans]


def _with_weight_alone(span: Span, weight: Spoken | None) -> Span:
    other = span.with_text(span.text)
    other.__dict__["spoken"] = weight
    return other


def _width(spans: tuple[Span, ...], style: Style, picture: Script) -> float:
    """Pixels that a word takes at its widest: at rest, or in any of its states."""
    rest = shown_words(spans, style)
    widths = [spans_width(rest, style, picture)]
    for look in (style.spoken, style.said, style.to_come):
        if look:
            told = [in_state(span, look, style.size) for span in rest]
            widths.append(spans_width(told, style, picture))
    return max(widths)


def _times(
    own: Sequence[ShortWord],
    following_ms: int | None,
    least: int,
    rate: FrameRate,
    ends_ms: int | None,
) -> tuple[int, int]:
    """From the frame in which the first word begins, or from the least there is, until the next caption comes, or until the
    last word has been read."""
    first = max(frame_at(own[0].start_ms, rate), least)
    ends = max(word.end_ms for word in own)
    after = first_frame_from(ends + _HOLD_MS, rate)
    if following_ms is not None:
        following = frame_at(following_ms, rate)
        after = following if following_ms - ends < _BRIDGED_MS else min(after, following)
    if ends_ms is not None:
        after = min(after, first_frame_from(ends_ms, rate))
    return start_of_frame(first, rate), start_of_frame(max(after, first + 1), rate)


def _caption(
    part: Fitted, own: Sequence[ShortWord], id_: str, in_ms: int, out_ms: int, style: Style
) -> Caption:
    pieces: list[tuple[Span, ...]] = []
    for n, word in enumerate(own, part.first):
        if pieces:
            gap = "\n" if n in part.breaks else between(own[n - part.first - 1].text, word.text)
            pieces.append((Span(gap),) if gap else ())
        pieces.append(word.spans)
    was = own[0].caption
    look = was.look if was else None
    # Letters that were made smaller to fit are fitted anew; a size that somebody gave stays.
    own_size = look.size if look and was and not was.is_untouched else None
    size = own_size or (round(style.size * part.size, 5) if part.size < 1 else None)
    if size or (look and look.size):
        look = replace(look or Look(), size=size)
        look = look if said_by(look) else None
    if was:
        place = None if was.is_untouched else was.placement
        spans = joined(*pieces)
        return replace(was, in_ms=in_ms, out_ms=out_ms, spans=spans, look=look, placement=place)
    return Caption(id_, in_ms, out_ms, joined(*pieces), own[0].speaker, look=look)
