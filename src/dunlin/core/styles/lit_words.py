"""Where the words of a caption stand while they are told one by one, and what is filled behind them."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

import regex

from dunlin.core.captions.look import Look, WordLook, said_by
from dunlin.core.captions.model import Span, plain_text
from dunlin.core.styles.layout import Layout, Line
from dunlin.core.styles.model import Style
from dunlin.core.styles.motion import UNSEEN
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.telling import Beat, State, has_other_face, in_state, state_at
from dunlin.core.styles.wrapping import joined_lines, spans_width
from dunlin.core.text.direction import base_direction, first_strong

__all__ = ["Apart", "Ground", "Told", "told"]

_BOTH_WAYS = regex.compile(
    r"\p{Bidi_Class=L}.*[\p{Bidi_Class=R}\p{Bidi_Class=AL}]|[\p{Bidi_Class=R}\p{Bidi_Class=AL}].*\p{Bidi_Class=L}"
)
_INSET = 0.07
"""Of a line's height: by so much the ground of words is lower than the line, above and below."""
_LINE_AT, _LINE_HEIGHT = 0.9, 0.09
"""Where a line beneath words lies, and how thick it is, as parts of their line's height."""
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
class _Word:
    span: Span
    number: int
    state: State
    left: float
    width: float
    line: Line


def told(layout: Layout, style: Style, picture: Script, at: Beat) -> Told:
    """A caption's words as a style tells which is spoken.

    Words stand where they do at rest, however large the spoken one is. In a line that runs both ways the word is told in its
    place, and nothing moves.

    :param layout: of the caption's words at rest, each with its time
    """
    lines: list[tuple[Span, ...]] = []
    apart: list[Apart] = []
    placed: list[_Word] = []
    spoken_in = list(state_at([span for line in layout.lines for span in line.spans], at))
    told_by = iter(spoken_in)
    for line in layout.lines:
        own = [next(told_by) for _ in line.spans]
        words = list(_placed(line, own, style, picture))
        fixed = _BOTH_WAYS.search(plain_text(line.spans)) is not None
        placed += [] if fixed else [word for word in words if word.span.spoken]
        inline = []
        for word in words:
            look = getattr(style, word.state)
            drawn = (
                None if fixed or not word.span.spoken else _apart(word, look, style, picture, at)
            )
            if drawn is None:
                inline.append(_shown(word.span, look, style, ground=fixed))
            else:
                before = style.to_come if at.part < 1 and style.spoken_by == "wash" else None
                hidden = style.spoken_by != "wash" or at.part == 1 or word.state != "spoken"
                inline.append(_unseen(word.span) if hidden else _shown(word.span, before, style))
                apart.append(drawn)
        lines.append(tuple(inline))
    return Told(joined_lines(lines), tuple(apart), tuple(_grounds(placed, style, picture, at)))


def _placed(
    line: Line, own: Sequence[tuple[Span, int, State]], style: Style, picture: Script
) -> Iterator[_Word]:
    direction = first_strong(plain_text(line.spans)) or base_direction("", style.language)
    left, right = line.left, line.left + line.width
    for span, number, state in own:
        width = spans_width([span], style, picture)
        if direction == "rtl":
            right -= width
            yield _Word(span, number, state, right, width, line)
        else:
            yield _Word(span, number, state, left, width, line)
            left += width


def _shown(span: Span, look: WordLook | None, style: Style, *, ground: bool = False) -> Span:
    """Words in the look of their state, in line; grounds are filled apart where they can be."""
    if look is None:
        return span
    face = replace(look, font=None, weight=None, italic=None, case=None, scale=None)
    if not ground:
        face = replace(face, background=None, background_opacity=None)
    return in_state(span, face, style.size)


def _unseen(span: Span) -> Span:
    return replace(span, background=None, look=replace(span.look or Look(), **said_by(UNSEEN)))


def _apart(
    word: _Word, look: WordLook | None, style: Style, picture: Script, at: Beat
) -> Apart | None:
    """A word that cannot be drawn with the others: wider or narrower than at rest, or on its way."""
    moves = word.state == "spoken" and at.part < 1 and style.spoken_by in ("wash", "rise", "grow")
    if not (moves or has_other_face(look)):
        return None
    look = look or WordLook()
    height = style.size * base_size(picture)
    bare = replace(look, background=None, background_opacity=None, scale=None)
    scale = look.scale or 1.0
    eased = 1 - (1 - at.part) ** 3
    bottom, opacity, seen = word.line.top + word.line.height, 1.0, None
    if moves and style.spoken_by == "rise":
        bottom, opacity = bottom + (1 - eased) * _FROM_BELOW * height, eased
    elif moves and style.spoken_by == "grow":
        scale, opacity = scale * (_FROM_SIZE + (1 - _FROM_SIZE) * eased), min(2 * eased, 1)
    elif moves:
        seen = _washed(word, style, at.part)
    own = word.span.look.size if word.span.look and word.span.look.size else style.size
    bottom += (scale - 1) * own * base_size(picture) / 2
    return Apart(
        in_state(word.span, bare, style.size), word.left + word.width / 2, bottom, scale, opacity, seen
    )  # fmt: skip


def _washed(word: _Word, style: Style, part: float) -> tuple[float, float]:
    room = style.outline + style.outline_softness
    left, right = word.left - room, word.left + word.width + room
    if first_strong(word.span.text) == "rtl":
        return right - (right - left) * part, right
    return left, left + (right - left) * part


def _grounds(words: Sequence[_Word], style: Style, picture: Script, at: Beat) -> Iterator[Ground]:
    """What is filled behind words: as one behind those that follow each other in a line in the same colour."""
    padding = style.background_padding * base_size(picture)
    now = [word for word in words if word.state == "spoken"]
    as_one = _is_one_ground(style)
    if style.said and style.said.background:
        for run in _runs(word for word in words if word.state == "said"):
            if not (as_one and any(word.line is run[0].line for word in now)):
                yield _behind(run, style.said, style, padding)
    if not (look := style.spoken) or not look.background:
        return
    for run in _runs(now):
        ground = _behind(run, look, style, padding)
        if style.spoken_by == "draw":
            before = [w for w in words if as_one and w.state == "said" and w.line is run[0].line]
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


def _runs(words: Iterable[_Word]) -> Iterator[list[_Word]]:
    """Words by the line they stand in."""
    run: list[_Word] = []
    for word in words:
        if run and run[-1].line is not word.line:
            yield run
            run = []
        run.append(word)
    if run:
        yield run


def _behind(run: Sequence[_Word], look: WordLook, style: Style, padding: float) -> Ground:
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


def _drawn(ground: Ground, run: Sequence[_Word], before: Sequence[_Word], part: float) -> Ground:
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
