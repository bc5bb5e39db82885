"""Where the words of a caption stand while they are told one by one, and what is filled behind them."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

import regex

from dunlin.core.captions.look import WordLook
from dunlin.core.captions.model import Span, joined, plain_text
from dunlin.core.styles.layout import Layout, Line
from dunlin.core.styles.model import Style
from dunlin.core.styles.motion import unseen
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.telling import Beat, has_other_face, in_state, word_numbers
from dunlin.core.styles.wrapping import spans_width
from dunlin.core.text.direction import base_direction, first_strong

__all__ = ["Apart", "Ground", "Telling", "Told", "placed_words"]

_BOTH_WAYS = regex.compile(
    r"\p{Bidi_Class=L}.*[\p{Bidi_Class=R}\p{Bidi_Class=AL}]|[\p{Bidi_Class=R}\p{Bidi_Class=AL}].*\p{Bidi_Class=L}"
)
_INSET = 0.07
"""Of a line's height: by so much the ground of words is lower than the line, above and below."""
_LINE_AT, _LINE_HEIGHT = 0.9, 0.09
"""Where a line beneath words lies, and how thick it is, as parts of their line's height."""
_CLUSTER = regex.compile(r"\X")
_MOVING = ("wash", "rise", "grow", "type")
_BESIDE = 0.2
"""Of its line's height: what slanted letters and edges reach out of a word."""
_FROM_BELOW, _FROM_SIZE = 0.5, 0.5
"""Of its line's height: from where a word rises. Of its size: from which it grows."""


@dataclass(frozen=True)
class Apart:
    """A word that is drawn by itself: about the middle of its place, so many pixels lower, and only from `seen[0]` to
    `seen[1]` across where that is said."""

    span: Span
    across: float
    bottom: float
    scale: float = 1.0
    opacity: float = 1.0
    seen: tuple[float, float] | None = None


@dataclass(frozen=True)
class Ground:
    """A box that is filled behind words, in pixels of the picture before it is turned."""

    left: float
    top: float
    right: float
    bottom: float
    colour: str
    opacity: float


@dataclass(frozen=True)
class Told:
    """A caption's words while one of them is spoken: those in line, those apart, and the grounds behind them."""

    spans: tuple[Span, ...]
    apart: tuple[Apart, ...]
    grounds: tuple[Ground, ...]


@dataclass(frozen=True)
class _Placed:
    """A word where it stands at rest, in pixels of the picture before it is turned, or what stands between two."""

    span: Span
    number: int
    """Of its word among those that have times; what stands between two counts with the one before."""
    left: float
    width: float
    line: Line
    fixed: bool
    """Whether it stands in a line that runs both ways: it is told in its place, and nothing moves."""

    @property
    def is_alone(self) -> bool:
        """Whether it can be drawn by itself."""
        return self.span.spoken is not None and not self.fixed


def placed_words(layout: Layout, style: Style, picture: Script) -> list[_Placed]:
    """Where the words of a caption stand at rest, line by line.

    :param layout: of its words, each with its time
    """
    numbers = iter(word_numbers([span for line in layout.lines for span in line.spans]))
    found = []
    for line in layout.lines:
        text = plain_text(line.spans)
        fixed = _BOTH_WAYS.search(text) is not None
        direction = first_strong(text) or base_direction("", style.language)
        left, right = line.left, line.left + line.width
        for span in line.spans:
            width = spans_width([span], style, picture)
            at = right - width if direction == "rtl" else left
            found.append(_Placed(span, next(numbers), at, width, line, fixed))
            left, right = left + width, right - width
    return found


class Telling:
    """A caption whose words are told one after the other, as its style has it.

    Words stand where they do at rest, however large the spoken one is.

    :param layout: of its words, each with its time
    """

    def __init__(self, layout: Layout, style: Style, picture: Script) -> None:
        self.layout, self.style, self.picture = layout, style, picture
        self.words = placed_words(layout, style, picture)
        self._alone = [word for word in self.words if word.is_alone]
        self._inline: dict[tuple[int, bool], tuple[Span, ...]] = {}
        self._faces: dict[tuple[int, str], Span] = {}

    def at(self, beat: Beat) -> Told:
        """Its words while one of them is spoken."""
        moves = beat.part < 1 and self.style.spoken_by in _MOVING
        # While a word moves, the others stand still: they are looked at once.
        key = (beat.word, moves)
        if key not in self._inline:
            self._inline[key] = self._in_line(beat, moves)
        apart = []
        for at, word in enumerate(self._alone):
            state = beat.state_of(word.number)
            look = getattr(self.style, state)
            on_its_way = moves and state == "spoken"
            if on_its_way or has_other_face(look):
                key_of_face = (at, state)
                if key_of_face not in self._faces:
                    self._faces[key_of_face] = _face(word.span, look, self.style)
                face = self._faces[key_of_face]
                apart.append(_apart(word, face, look, self.style, self.picture, beat, on_its_way))
        grounds = _grounds(self._alone, self.style, self.picture, beat)
        return Told(self._inline[key], tuple(apart), tuple(grounds))

    def _in_line(self, beat: Beat, moves: bool) -> tuple[Span, ...]:
        style = self.style
        inline: list[Span] = []
        line = self.words[0].line if self.words else None
        for word in self.words:
            if word.line is not line:
                inline.append(Span("\n"))
                line = word.line
            state = beat.state_of(word.number)
            look = getattr(style, state)
            if moves and state == "spoken" and word.is_alone:
                if style.spoken_by == "wash":
                    inline.append(_shown(word.span, style.to_come, style))
                else:
                    inline.append(unseen(word.span))
            elif word.is_alone and has_other_face(look):
                inline.append(unseen(word.span))
            else:
                inline.append(_shown(word.span, look, style, ground=word.fixed))
        return joined(inline)


def _shown(span: Span, look: WordLook | None, style: Style, *, ground: bool = False) -> Span:
    """Words in the look of their state, in line; grounds are filled apart where they can be."""
    if look is None:
        return span
    face = replace(look, font=None, weight=None, italic=None, case=None, scale=None)
    if not ground:
        face = replace(face, background=None, background_opacity=None)
    return in_state(span, face, style.size)


def _face(span: Span, look: WordLook | None, style: Style) -> Span:
    """A word in the look of its state, but for its size and what is filled behind it."""
    bare = replace(look or WordLook(), background=None, background_opacity=None, scale=None)
    return in_state(span, bare, style.size)


def _apart(
    word: _Placed,
    face: Span,
    look: WordLook | None,
    style: Style,
    picture: Script,
    at: Beat,
    moves: bool,
) -> Apart:
    """A word that is not drawn with the others: wider or narrower than at rest, or on its way."""
    height = style.size * base_size(picture)
    scale = look.scale or 1.0 if look else 1.0
    eased = 1 - (1 - at.part) ** 3
    bottom, opacity, seen = word.line.top + word.line.height, 1.0, None
    if moves and style.spoken_by == "rise":
        bottom, opacity = bottom + (1 - eased) * _FROM_BELOW * height, eased
    elif moves and style.spoken_by == "grow":
        scale, opacity = scale * (_FROM_SIZE + (1 - _FROM_SIZE) * eased), min(2 * eased, 1)
    elif moves and style.spoken_by == "type":
        seen = _typed(word, style, picture, at.part)
    elif moves:
        seen = _washed(word, style, at.part)
    own = word.span.look.size if word.span.look and word.span.look.size else style.size
    bottom += (scale - 1) * own * base_size(picture) / 2
    return Apart(face, word.left + word.width / 2, bottom, scale, opacity, seen)


def _washed(word: _Placed, style: Style, part: float) -> tuple[float, float]:
    room = style.outline + style.outline_softness
    left, right = word.left - room, word.left + word.width + room
    if first_strong(word.span.text) == "rtl":
        return right - (right - left) * part, right
    return left, left + (right - left) * part


def _typed(word: _Placed, style: Style, picture: Script, part: float) -> tuple[float, float]:
    """From where to where a word is seen of which a part is typed, in whole characters; the first is there at once."""
    clusters = [match.end() for match in _CLUSTER.finditer(word.span.text)]
    typed = clusters[max(round(len(clusters) * part), 1) - 1]
    width = spans_width([word.span.with_text(word.span.text[:typed])], style, picture)
    room = style.size * base_size(picture) * _BESIDE
    if first_strong(word.span.text) == "rtl":
        return word.left + word.width - width, word.left + word.width + room
    return word.left - room, word.left + width


def _grounds(words: Sequence[_Placed], style: Style, picture: Script, at: Beat) -> Iterator[Ground]:
    """What is filled behind words: as one behind those that follow each other in a line in the same colour."""
    padding = style.background_padding * base_size(picture)
    now = [word for word in words if word.number == at.word]
    earlier = [word for word in words if word.number < at.word]
    as_one = _is_one_ground(style)
    if style.said and style.said.background:
        for run in _runs(earlier):
            if not (as_one and any(word.line is run[0].line for word in now)):
                yield _behind(run, style.said, style, padding)
    if not (look := style.spoken) or not look.background:
        return
    for run in _runs(now):
        ground = _behind(run, look, style, padding)
        if style.spoken_by == "draw":
            before = [word for word in earlier if as_one and word.line is run[0].line]
            ground = _drawn(ground, run, before, at.part)
        elif style.spoken_by == "slide" and at.part < 1:
            left = next(_runs(word for word in words if word.number == at.word - 1), None)
            if left:
                ground = _between(_behind(left, look, style, padding), ground, at.part)
        yield ground


def _is_one_ground(style: Style) -> bool:
    """Whether what is drawn behind a word goes on from what was drawn behind those before it."""
    said, spoken = style.said, style.spoken
    return bool(
        style.spoken_by == "draw" and said and spoken
        and (said.background, said.background_opacity) == (spoken.background, spoken.background_opacity)
    )  # fmt: skip


def _runs(words: Iterable[_Placed]) -> Iterator[list[_Placed]]:
    """Words by the line they stand in."""
    run: list[_Placed] = []
    for word in words:
        if run and run[-1].line is not word.line:
            yield run
            run = []
        run.append(word)
    if run:
        yield run


def _behind(run: Sequence[_Placed], look: WordLook, style: Style, padding: float) -> Ground:
    line, opacity = run[0].line, look.background_opacity
    left = min(word.left for word in run)
    right = max(word.left + word.width for word in run)
    top, bottom = line.top + _INSET * line.height, line.top + (1 - _INSET) * line.height
    if style.spoken_ground == "line":
        top = line.top + _LINE_AT * line.height
        bottom, padding = top + _LINE_HEIGHT * line.height, 0.0
    colour = look.background or style.colour
    return Ground(
        left - padding, top, right + padding, bottom, colour, 1.0 if opacity is None else opacity
    )


def _drawn(
    ground: Ground, run: Sequence[_Placed], before: Sequence[_Placed], part: float
) -> Ground:
    """The ground of a spoken word as far as it is drawn, with what was drawn of its line before."""
    left, right = ground.left, ground.right
    if first_strong(run[0].span.text) == "rtl":
        left = right - (right - left) * part
    else:
        right = left + (right - left) * part
    return replace(
        ground,
        left=min([left, *(word.left for word in before)]),
        right=max([right, *(word.left + word.width for word in before)]),
    )


def _between(before: Ground, after: Ground, part: float) -> Ground:
    eased = part * part * (3 - 2 * part)
    edges = {
        name: getattr(before, name) + (getattr(after, name) - getattr(before, name)) * eased
        for name in ("left", "top", "right", "bottom")
    }
    return replace(after, **edges)
