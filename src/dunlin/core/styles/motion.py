"""How captions come and go: what is otherwise about one, frame by frame.

Each frame in which something moves is an event of its own in the script, so what is drawn is a matter of frames, and
the same wherever it is drawn.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import regex

from dunlin.core.captions.look import Entrance, Look, said_by
from dunlin.core.captions.model import Caption, Span, joined, plain_text, sliced
from dunlin.core.styles.model import Style
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame

__all__ = ["STILL", "Pose", "is_faded_only", "poses", "unseen", "with_hidden_end"]

_CLUSTER = regex.compile(r"\X")
_UNSEEN = Look(opacity=0.0, outline_opacity=0.0, shadow_opacity=0.0, background_opacity=0.0)
_FROM_BELOW = 0.6
"""Of its line's height: from so far below a caption rises."""
_FROM_SIZE = 0.6
"""Of its size: so small a caption is when it begins to grow."""


@dataclass(frozen=True)
class Pose:
    """What is otherwise about a caption in some of its frames: parts of how it is in the others."""

    opacity: float = 1
    lowered: float = 0
    """How far below its place it is, in heights of its line."""
    size: float = 1
    uncovered: float = 1
    """The part of its lines that is uncovered, from where they begin."""
    typed: float = 1
    """The part of its characters that is there."""


STILL = Pose()


def is_faded_only(style: Style) -> bool:
    """Whether nothing but transparency changes, which the renderer does by itself."""
    return {style.comes, style.goes} <= {"cut", "fade"}


def poses(caption: Caption, style: Style, rate: FrameRate) -> Iterator[tuple[int, int, Pose]]:
    """From which time until which a caption is how, in milliseconds: frame by frame where it moves.

    Where it is shorter than its coming and going, each gets its share of the time.
    """
    first, end = first_frame_from(caption.in_ms, rate), first_frame_from(caption.out_ms, rate)
    coming, going = (
        _frames(style.comes, style.comes_ms, rate),
        _frames(style.goes, style.goes_ms, rate),
    )
    if coming + going > (room := max(end - first, 0)):
        coming = round(room * coming / (coming + going))
        going = room - coming
    for n in range(coming):
        yield (
            *_span(caption, first + n, first + n + 1, rate),
            _pose(style.comes, (n + 1) / (coming + 1)),
        )
    if first + coming < end - going:
        yield *_span(caption, first + coming, end - going, rate), STILL
    for n in reversed(range(going)):
        yield *_span(caption, end - n - 1, end - n, rate), _pose(style.goes, (n + 1) / (going + 1))


def _frames(how: Entrance, ms: int, rate: FrameRate) -> int:
    return 0 if how == "cut" else first_frame_from(ms, rate)


def _span(caption: Caption, start: int, end: int, rate: FrameRate) -> tuple[int, int]:
    """The times of frames, within those of the caption."""
    return (
        max(start_of_frame(start, rate), caption.in_ms),
        min(start_of_frame(end, rate), max(caption.out_ms, caption.in_ms)),
    )


def _pose(how: Entrance, part: float) -> Pose:
    """:param part: of the way, from 0, gone, to 1, there"""
    # Quick at first and slow at the end, as things that come to rest are.
    eased = 1 - (1 - part) ** 3
    if how == "fade":
        return Pose(opacity=part)
    if how == "rise":
        return Pose(opacity=part, lowered=(1 - eased) * _FROM_BELOW)
    if how == "grow":
        return Pose(opacity=part, size=_FROM_SIZE + (1 - _FROM_SIZE) * eased)
    if how == "wipe":
        return Pose(uncovered=part)
    return Pose(typed=part)


def with_hidden_end(spans: tuple[Span, ...], part: float) -> tuple[Span, ...]:
    """Styled text of which only a part of the characters is seen, in the place that it has as a whole."""
    clusters = [match.end() for match in _CLUSTER.finditer(plain_text(spans))]
    seen = round(len(clusters) * part)
    at = clusters[seen - 1] if seen else 0
    hidden = map(unseen, sliced(spans, at, clusters[-1] if clusters else 0))
    return joined(sliced(spans, 0, at), hidden)


def unseen(span: Span) -> Span:
    """Words that take their place and are not seen."""
    return replace(span, background=None, look=replace(span.look or Look(), **said_by(_UNSEEN)))
