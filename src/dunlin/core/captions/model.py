"""What a caption is: styled text from an in to an out."""

import re
from bisect import bisect_left
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from difflib import SequenceMatcher
from hashlib import blake2b
from re import Pattern
from typing import Annotated, Literal, TypeAlias

from pydantic import Field, WithJsonSchema

from dunlin.core.captions.bounds import Colour, Milliseconds, PictureShare, Text
from dunlin.core.captions.look import Case, Look, said_by, stored_look

__all__ = [
    "Caption",
    "Case",
    "Extras",
    "Placement",
    "Span",
    "Spoken",
    "Track",
    "extra",
    "joined",
    "plain_text",
    "rewritten",
    "sliced",
    "spans_of",
    "substituted",
    "with_extra",
    "with_put",
]

# As many changes are made one by one in a track.
_FEW = 64

_PIECES = re.compile(r"\s+|\S+")

# Told as a list of strings: the page's types know no lists of a fixed length.
_PAIR = WithJsonSchema({"type": "array", "items": {"type": "string"}})
Extras: TypeAlias = tuple[Annotated[tuple[str, str], _PAIR], ...]
"""What a file format knows and Dunlin does not, kept to be given back: `webvtt:id` and its value."""


def extra(extras: Extras, name: str) -> str | None:
    """The value kept under a name, or None."""
    for key, value in extras:
        if key == name:
            return value
    return None


def with_extra(extras: Extras, name: str, value: str | None) -> Extras:
    """Extras with this value under a name; without the name when the value is None."""
    rest = tuple(pair for pair in extras if pair[0] != name)
    return rest if value is None else (*rest, (name, value))


@dataclass(frozen=True)
class Spoken:
    """What is known of a word beside how it is written."""

    start_ms: Milliseconds | None = None
    """When it begins to be spoken, in the film's time, whatever the caption's times are."""
    end_ms: Milliseconds | None = None
    emphasis: Literal[0, 1, 2] | None = None
    """Of which kind of weight it is; 0 is none, whatever a measure says."""
    measured: Literal[True] | None = None
    """That its weight was told by a measure, which may be asked again; else somebody set it."""
    boundary: Literal["break", "join"] | None = None
    """Whether a caption shall begin with it, or none, however much is shown at once; None leaves that open."""
    emoji: Annotated[str, Field(min_length=1, max_length=40)] | None = None
    """A picture that stands by it from when it is spoken, or over its whole caption for as long as that is shown."""
    emoji_place: Literal["above", "beside", "caption"] | None = None
    """None is above; "caption" is over the middle of all lines."""
    emoji_motion: Literal["pop", "sway", "turn"] | None = None
    """None stands still."""


@dataclass(frozen=True)
class Span:
    """A run of text in one style. Line breaks are newlines in the text."""

    text: Text
    italic: bool = False
    bold: bool = False
    underline: bool = False
    colour: Colour | None = None
    """The style's own colour where it says none."""
    background: Colour | None = None
    """Of a box behind the text."""
    language: str | None = None
    """BCP 47 tag, where it is not the track's."""
    ruby: Text | None = None
    """A reading that stands beside the text, as with East Asian names."""
    voice: Text | None = None
    """Who speaks these words, where it is not the caption's speaker."""
    extras: Extras = ()
    look: Look | None = None
    """What else these words look like; where it says the same as a field beside it, it is what counts."""
    spoken: Spoken | None = None

    @property
    def is_plain(self) -> bool:
        """Whether it is in no style of its own, with nothing kept beside it."""
        return not (
            self.italic or self.bold or self.underline or self.colour or self.background
            or self.language or self.ruby or self.voice or self.extras or self.look or self.spoken
        )  # fmt: skip

    def with_text(self, text: str) -> "Span":
        """Other words in the same style."""
        # A file has tens of thousands: setting all fields one by one takes four times as long.
        span = object.__new__(Span)
        own = span.__dict__
        own.update(self.__dict__)
        own["text"] = text
        return span

    def in_style(self, style: Literal["italic", "bold", "underline"], on: bool) -> "Span":
        """The same words with a style, or without it."""
        span = self.with_text(self.text)
        span.__dict__[style] = on
        return span


@dataclass(frozen=True)
class Placement:
    """Where a caption stands on the picture.

    `x` and `y` are parts of the picture's width and height from its upper left corner; they say where
    the text's point named by `anchor` and `align` comes to lie. None leaves that to the style's
    margins. `width` is the part of the picture's width that lines may take.
    """

    anchor: Literal["top", "middle", "bottom"] = "bottom"
    align: Literal["left", "center", "right"] = "center"
    x: PictureShare | None = None
    y: PictureShare | None = None
    width: PictureShare | None = None
    vertical: Literal["rl", "lr"] | None = None
    """Lines run from top to bottom, and follow each other to the left or to the right."""


@dataclass(frozen=True, init=False)
class Caption:
    """Text shown from `in_ms` until, but not including, `out_ms`."""

    id: str
    in_ms: Milliseconds
    out_ms: Milliseconds
    spans: tuple[Span, ...] = ()
    speaker: Text | None = None
    placement: Placement | None = None
    """None stands where the style puts it."""
    style: str | None = None
    """Name of a style the file it came from has."""
    extras: Extras = ()
    locked: bool = False
    """Its times stay as they are until it is unlocked."""
    case: Case | None = None
    """None shows letters as they are written."""
    made: str | None = None
    """What it was when it was made of the transcript, as `fingerprint` tells; None if it was not."""
    look: Look | None = None
    """What it says of its look itself, beside its place and case."""

    def __init__(
        self,
        id: str,
        in_ms: Milliseconds,
        out_ms: Milliseconds,
        spans: tuple[Span, ...] = (),
        speaker: Text | None = None,
        placement: Placement | None = None,
        style: str | None = None,
        extras: Extras = (),
        locked: bool = False,
        case: Case | None = None,
        made: str | None = None,
        look: Look | None = None,
    ) -> None:
        # A file has tens of thousands: what a frozen class does for each field takes three times as long.
        own = self.__dict__
        own["id"], own["in_ms"], own["out_ms"], own["spans"] = id, in_ms, out_ms, spans
        own["speaker"], own["placement"], own["style"] = speaker, placement, style
        own["extras"], own["locked"], own["case"], own["made"] = extras, locked, case, made
        own["look"] = look

    @property
    def is_shape(self) -> bool:
        """Whether it is an outline that is drawn, with times and a place as words have them."""
        return self.look is not None and self.look.shape is not None and not self.text.strip()

    @property
    def text(self) -> str:
        # Most captions are in one style throughout.
        return self.spans[0].text if len(self.spans) == 1 else plain_text(self.spans)

    @property
    def lines(self) -> list[str]:
        return self.text.split("\n")

    @property
    def duration_ms(self) -> int:
        return self.out_ms - self.in_ms

    @property
    def fingerprint(self) -> str:
        """Another one once anything is that a person sets: words and their styles, times, speaker,
        place, style, case or look."""
        said = [_said_of(span) for span in self.spans]
        place = _said_of(self.placement) if self.placement else []
        content: tuple[object, ...] = (
            self.in_ms, self.out_ms, said, self.speaker, place, self.style, self.case,
        )  # fmt: skip
        if self.look:
            # Without one, it is what it was before there were any.
            content += (stored_look(self.look),)
        return blake2b(repr(content).encode(), digest_size=8).hexdigest()

    @property
    def is_untouched(self) -> bool:
        """Whether it is as it was made of the transcript."""
        return self.made is not None and self.made == self.fingerprint


def _said_of(part: Span | Placement) -> list[tuple[str, object]]:
    # Without what is not said, so that a field which is new to Dunlin changes no fingerprint.
    return [
        (name, _plain(value))
        for name, value in vars(part).items()
        if value not in (None, False, ())
    ]


def _plain(value: object) -> object:
    if isinstance(value, Look):
        return stored_look(value)
    return said_by(value) if isinstance(value, Spoken) else value


def plain_text(spans: Iterable[Span]) -> str:
    """The words alone."""
    return "".join(span.text for span in spans)


def spans_of(text: str) -> tuple[Span, ...]:
    """Unstyled text as spans."""
    return (Span(text),) if text else ()


def sliced(spans: Iterable[Span], start: int, end: int) -> tuple[Span, ...]:
    """The part of styled text from character `start` to `end`, keeping its styles."""
    taken, at = [], 0
    for span in spans:
        part = span.text[max(start - at, 0) : max(end - at, 0)]
        if part:
            taken.append(span.with_text(part))
        at += len(span.text)
    return tuple(taken)


def joined(*parts: Iterable[Span]) -> tuple[Span, ...]:
    """Styled texts one after the other; neighbours of one style become one span."""
    result: list[Span] = []
    for part in parts:
        for span in part:
            if not span.text:
                continue
            if result and result[-1].with_text(span.text) == span:
                result[-1] = span.with_text(result[-1].text + span.text)
            else:
                result.append(span)
    return tuple(result)


def rewritten(spans: Iterable[Span], text: str) -> tuple[Span, ...]:
    """Styled text with new words: those that stayed keep their style; what stands in the place of others
    takes theirs, and what was put in that of the character before it."""
    listed = joined(spans)
    if len(listed) < 2:
        return joined([(listed or (Span(""),))[0].with_text(text)])
    old = plain_text(listed)
    shortest = min(len(old), len(text))
    head = next((i for i in range(shortest) if old[i] != text[i]), shortest)
    tail = next((i for i in range(shortest - head) if old[-1 - i] != text[-1 - i]), shortest - head)
    was = _PIECES.findall(old[head : len(old) - tail])
    now = _PIECES.findall(text[head : len(text) - tail])
    parts = [sliced(listed, 0, head)]
    at = head
    for change, a, b, c, d in SequenceMatcher(str.isspace, was, now, autojunk=False).get_opcodes():
        end = at + len("".join(was[a:b]))
        if change == "equal":
            parts.append(sliced(listed, at, end))
        elif put := "".join(now[c:d]):
            beside = max(at if b > a else at - 1, 0)
            near = sliced(listed, beside, beside + 1) or (Span(""),)
            parts.append((near[0].with_text(put),))
        at = end
    return joined(*parts, sliced(listed, len(old) - tail, len(old)))


def substituted(
    spans: Iterable[Span], pattern: Pattern[str], replacement: Callable[[re.Match[str]], str]
) -> tuple[Span, ...]:
    """Styled text with every match of a pattern replaced."""
    listed = tuple(spans)
    matches = pattern.finditer(plain_text(listed))
    return with_put(listed, ((*match.span(), replacement(match)) for match in matches))


def with_put(spans: Iterable[Span], places: Iterable[tuple[int, int, str]]) -> tuple[Span, ...]:
    """Styled text with other words in places of it; what is put in has the style of the character it
    begins at, or at the end that of the one before.

    :param places: from which character to which, and what is put there; in order, none over another
    """
    listed = tuple(spans)
    parts: list[tuple[Span, ...]] = []
    at = 0
    for start, end, put in places:
        parts.append(sliced(listed, at, start))
        if put:
            style = sliced(listed, start, start + 1) or sliced(listed, start - 1, start)
            parts.append((style[0].with_text(put) if style else Span(put),))
        at = end
    parts.append(sliced(listed, at, len(plain_text(listed))))
    return joined(*parts)


@dataclass(frozen=True)
class Track:
    """Captions in order of their in; those that start together stand in order of id.

    Made with `Track.of`; a change makes a new track, and costs no more than copying two lists of
    references, so that a track of thousands of captions can be edited at typing speed.
    """

    by_id: Mapping[str, Caption] = field(default_factory=dict)
    order: tuple[tuple[int, str], ...] = ()

    @classmethod
    def of(cls, captions: Iterable[Caption]) -> "Track":
        """:raises ValueError: when two captions have one id"""
        listed = list(captions)
        by_id = {caption.id: caption for caption in listed}
        if len(by_id) != len(listed):
            raise ValueError("two captions have the same id")
        return cls(by_id, tuple(sorted((c.in_ms, c.id) for c in listed)))

    def __iter__(self) -> Iterator[Caption]:
        return (self.by_id[id_] for _, id_ in self.order)

    def __len__(self) -> int:
        return len(self.order)

    def __contains__(self, id_: object) -> bool:
        return id_ in self.by_id

    def __getitem__(self, id_: str) -> Caption:
        return self.by_id[id_]

    def index(self, id_: str) -> int:
        """Place of a caption in the order. :raises KeyError: when there is none of that id"""
        return bisect_left(self.order, (self.by_id[id_].in_ms, id_))

    def at(self, index: int) -> Caption | None:
        """The caption at a place in the order, or None beyond either end."""
        return self.by_id[self.order[index][1]] if 0 <= index < len(self.order) else None

    def still_shown(self, index: int, reach: int) -> list[Caption]:
        """The captions before one that go on beyond its in, the nearest first.

        :param reach: how many places before it are looked at
        """
        in_ms, by_id = self.order[index][0], self.by_id
        before = (by_id[id_] for _, id_ in reversed(self.order[max(index - reach, 0) : index]))
        return [caption for caption in before if caption.out_ms > in_ms]

    def changed(self, removed: Iterable[str], put: Iterable[Caption]) -> "Track":
        """A track without the captions `removed`, and with those in `put` added or replaced."""
        removed, put = list(removed), list(put)
        if len(removed) + len(put) > _FEW:
            return self._rebuilt(removed, put)
        by_id, order = dict(self.by_id), list(self.order)
        for id_ in removed:
            del order[bisect_left(order, (by_id[id_].in_ms, id_))]
            del by_id[id_]
        for caption in put:
            if (old := by_id.get(caption.id)) is not None:
                del order[bisect_left(order, (old.in_ms, old.id))]
            by_id[caption.id] = caption
            key = (caption.in_ms, caption.id)
            order.insert(bisect_left(order, key), key)
        return Track(by_id, tuple(order))

    def _rebuilt(self, removed: list[str], put: list[Caption]) -> "Track":
        """As `changed`, sorted anew: putting thousands in one by one would move the rest each time."""
        by_id = dict(self.by_id)
        for id_ in removed:
            del by_id[id_]
        for caption in put:
            by_id[caption.id] = caption
        return Track(by_id, tuple(sorted((c.in_ms, c.id) for c in by_id.values())))
