"""What was read from a file, held to what captions can be; nothing a file says gets further than this."""

from dataclasses import replace

from dunlin.core.captions.bounds import (
    FARTHEST,
    MOST_CHARACTERS,
    MOST_MS,
    is_colour,
    without_controls,
)
from dunlin.core.captions.model import Caption, Placement, Span, sliced
from dunlin.core.formats.model import Document, Oddity
from dunlin.core.messages import message

__all__ = ["in_bounds"]


def in_bounds(document: Document) -> tuple[Document, list[Oddity]]:
    """A document with times, places, colours and texts as captions have them, and what was changed."""
    oddities: list[Oddity] = []
    captions: list[Caption] = []
    for caption in document.captions:
        if _is_in_bounds(caption):
            captions.append(caption)
        else:
            captions += _parted(_bounded(caption, oddities), oddities)
    return replace(document, captions=tuple(captions)), oddities


def _is_in_bounds(caption: Caption) -> bool:
    # Nearly all are: this is asked of tens of thousands.
    if caption.out_ms > MOST_MS or (caption.placement and not _is_near(caption.placement)):
        return False
    if caption.speaker and without_controls(caption.speaker) is not caption.speaker:
        return False
    characters = 0
    for span in caption.spans:
        characters += len(span.text)
        if without_controls(span.text) is not span.text:
            return False
        if not span.is_plain and _plainer(span) != span:
            return False
    return characters <= MOST_CHARACTERS


def _bounded(caption: Caption, oddities: list[Oddity]) -> Caption:
    out_ms = min(caption.out_ms, MOST_MS)
    in_ms = min(caption.in_ms, MOST_MS - 1)
    if (in_ms, out_ms) != (caption.in_ms, caption.out_ms):
        oddities.append(Oddity(1, message("oddities.beyond-any-film", caption=caption.id)))
    return replace(
        caption,
        in_ms=in_ms,
        out_ms=out_ms,
        spans=tuple(map(_plainer, caption.spans)),
        speaker=caption.speaker and (without_controls(caption.speaker).strip() or None),
        placement=caption.placement and _near(caption.placement),
    )


def _parted(caption: Caption, oddities: list[Oddity]) -> list[Caption]:
    """A caption, or when it is longer than any can be, several that share its time."""
    count = -(-len(caption.text) // MOST_CHARACTERS)
    if count <= 1:
        return [caption]
    told = message("oddities.endless", caption=caption.id, most=MOST_CHARACTERS, parts=count)
    oddities.append(Oddity(1, told))
    # Each is shown, however short the whole is.
    each_ms = max(caption.duration_ms // count, 1)
    return [
        replace(
            caption,
            id=f"{caption.id}-{n + 1}",
            in_ms=caption.in_ms + n * each_ms,
            out_ms=caption.in_ms + (n + 1) * each_ms,
            spans=sliced(caption.spans, n * MOST_CHARACTERS, (n + 1) * MOST_CHARACTERS),
        )
        for n in range(count)
    ]


def _plainer(span: Span) -> Span:
    """A span without what no span can have."""
    return replace(
        span,
        text=without_controls(span.text),
        colour=span.colour if span.colour and is_colour(span.colour) else None,
        background=span.background if span.background and is_colour(span.background) else None,
        ruby=span.ruby and (without_controls(span.ruby) or None),
        voice=span.voice and (without_controls(span.voice).strip() or None),
    )


def _is_near(place: Placement) -> bool:
    # Not a number is not within anything, either.
    return all(p is None or -FARTHEST <= p <= FARTHEST for p in (place.x, place.y, place.width))


def _near(place: Placement) -> Placement | None:
    """A placement on the picture or not far from it; without what is nowhere."""
    if _is_near(place):
        return place
    nearer = replace(place, x=None, y=None, width=None)
    return None if nearer == Placement() else nearer
