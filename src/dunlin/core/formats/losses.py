"""What a format cannot hold: told before writing, and taken out for it."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cache

from dunlin.core.captions.flatten import flattened, overlapping
from dunlin.core.captions.letter_case import as_shown
from dunlin.core.captions.look import Look, said_by
from dunlin.core.captions.model import Caption, Extras, Placement, Span, joined
from dunlin.core.formats.model import Document, Feature, Format, Holds
from dunlin.core.formats.told_by_words import looks_said, told_by_words
from dunlin.core.styles.model import STYLES
from dunlin.core.timecode import FrameRate, first_frame_from, start_of_frame

__all__ = ["Loss", "losses", "reduced"]


@dataclass(frozen=True)
class Loss:
    """What is lost, the ids of the captions that have it, and what writing does about it.

    `what` is a feature, a part of the look (`fonts`, `letters`, `edges`, `grounds`, `margins`, `turns`, `windows`, `motion`,
    `layers`, `telling`), or `times`, `milliseconds`, `exact-colours`, `spellings` or `characters` where these are rounded, brought to the nearest, written with others, or replaced; `grid` where
    lines and styles are brought to a grid of letters (`fit`), and `sending` where it takes too long to send them (`shift`). `done` is `drop`, `flatten` where overlapping captions are
    stacked, `join` where lines become one, `write` where letters are written as they are shown, `round`, `nearest` or `replace`.
    """

    what: str
    captions: tuple[str, ...]
    done: str


def _any_span(has: Callable[[Span], object]) -> Callable[[Caption], bool]:
    return lambda caption: any(has(span) for span in caption.spans)


def _placed(has: Callable[[Placement], object]) -> Callable[[Caption], bool]:
    return lambda caption: caption.placement is not None and bool(has(caption.placement))


_HAS: dict[Feature, Callable[[Caption], bool]] = {
    "italic": _any_span(lambda span: span.italic),
    "bold": _any_span(lambda span: span.bold),
    "underline": _any_span(lambda span: span.underline),
    "colours": _any_span(lambda span: span.colour),
    "boxes": _any_span(lambda span: span.background),
    "ruby": _any_span(lambda span: span.ruby),
    "languages": _any_span(lambda span: span.language),
    "voices": _any_span(lambda span: span.voice),
    "speakers": lambda caption: caption.speaker is not None,
    "alignment": _placed(lambda place: (place.anchor, place.align) != ("bottom", "center")),
    "heights": _placed(lambda place: place.y is not None),
    "sides": _placed(lambda place: place.x is not None),
    "widths": _placed(lambda place: place.width is not None),
    "vertical": _placed(lambda place: place.vertical is not None),
    "styles": lambda caption: caption.style is not None,
    "lines": lambda caption: "\n" in caption.text,
    "case": lambda caption: caption.case not in (None, "written"),
    "shapes": lambda caption: caption.is_shape,
    "words": _any_span(lambda span: span.spoken),
}
_LOOKS: dict[str, frozenset[str]] = {
    "fonts": frozenset({"font", "size"}),
    "letters": frozenset({"stretch", "letter_spacing", "line_spacing", "second_line", "strike"}),
    "edges": frozenset({
        "outline", "outline_colour", "outline_opacity", "outline_softness", "shadow", "shadow_colour", "shadow_opacity",
        "shadow_direction", "shadow_softness", "depth",
    }),
    "grounds": frozenset({
        "opacity", "background_opacity", "background_shape", "background_padding", "background_corners",
    }),
    "margins": frozenset({"margin", "side_margin"}),
    "turns": frozenset({"turn", "tilt_x", "tilt_y"}),
    "windows": frozenset({"window"}),
    "motion": frozenset({"comes", "goes", "moments"}),
    "layers": frozenset({"layer"}),
    "telling": frozenset({"spoken", "said", "to_come"}),
}  # fmt: skip
"""What of a look no words can tell, by what people call it."""
_DONE = {"overlap": "flatten", "lines": "join", "case": "write", "milliseconds": "round",
         "exact-colours": "nearest", "characters": "replace",
         "spellings": "spell", "grid": "fit", "sending": "shift"}  # fmt: skip


def losses(document: Document, format_: Format, rate: FrameRate) -> list[Loss]:
    """What a document has and a format does not hold.

    :param rate: frame rate, for formats that count frames
    """
    holds = format_.HOLDS
    lost_looks = [] if "looks" in holds.features else _lost_looks(document, holds)
    document = _as_held(document, holds)
    captions = document.captions
    found: list[tuple[str, Iterable[str]]] = [
        (feature, [c.id for c in captions if has(c)])
        for feature, has in _HAS.items()
        if feature not in holds.features
    ]
    found += lost_looks
    captions = _without_lost_shapes(captions, holds)
    if "overlap" not in holds.features:
        found.append(("overlap", overlapping(captions)))
    if holds.precision == "none":
        found.append(("times", [c.id for c in captions]))
    elif holds.precision != "milliseconds":
        kept = _kept_time(holds, rate)
        changed = [c.id for c in captions if (kept(c.in_ms), kept(c.out_ms)) != (c.in_ms, c.out_ms)]
        found.append(("milliseconds", changed))
    if palette := holds.palette:
        coloured, boxed = "colours" in holds.features, "boxes" in holds.features
        off = _any_span(
            lambda s: {coloured and s.colour, boxed and s.background} - {None, False, *palette}
        )
        found.append(("exact-colours", [c.id for c in captions if off(c)]))
    if spelled := holds.spelled_characters(document):
        found.append(("spellings", [c.id for c in captions if spelled.keys() & set(c.text)]))
    if lost := holds.lost_characters(document):
        found.append(("characters", [c.id for c in captions if lost & set(c.text)]))
    found += _unfitted(document, format_, rate)
    return [Loss(what, tuple(ids), _DONE.get(what, "drop")) for what, ids in found if ids]


def _unfitted(document: Document, format_: Format, rate: FrameRate) -> list[tuple[str, list[str]]]:
    """Ids of captions whose words or places a format's grid has otherwise, and of those that cannot be sent in time."""
    if format_.HOLDS.fitted is Holds.fitted:
        return []
    before = _held_apart(document, format_, rate)
    after = {caption.id: caption for caption in format_.HOLDS.fitted(before, rate)}
    grid = [c.id for c in before if c.id not in after or after[c.id].spans != c.spans]
    late = [
        c.id
        for c in before
        if c.id in after and (after[c.id].in_ms, after[c.id].out_ms) != (c.in_ms, c.out_ms)
    ]
    return [("grid", grid), ("sending", late)]


def reduced(document: Document, format_: Format, rate: FrameRate) -> Document:
    """A document with nothing but what a format holds, so that reading it back gives the same."""
    holds = format_.HOLDS
    document = _as_held(document, holds)
    family = holds.family or format_.NAME
    captions = tuple(holds.fitted(_held_apart(document, format_, rate), rate))
    language = document.language if "language" in holds.features else None
    extras = _own(document.extras, family)
    if "looks" not in holds.features:
        return Document(captions, language, extras, document.styles if holds.styles else {})
    return replace(document, captions=captions, language=language, extras=extras)


def _held_apart(document: Document, format_: Format, rate: FrameRate) -> tuple[Caption, ...]:
    """Captions with nothing but what a format holds of each, whatever it does with them together."""
    holds = format_.HOLDS
    kept = _kept_time(holds, rate)
    captions: Iterable[Caption] = _without_lost_shapes(document.captions, holds)
    if holds.precision != "milliseconds":
        captions = [_rounded(caption, kept) for caption in captions]
    if "overlap" not in holds.features:
        captions = flattened(captions)
    lost = dict.fromkeys(map(ord, holds.lost_characters(document)), "?")
    lost |= {ord(c): other for c, other in holds.spelled_characters(document).items()}
    family = holds.family or format_.NAME
    return tuple(_reduced(caption, holds, lost, family) for caption in captions)


def _as_held(document: Document, holds: Holds) -> Document:
    return document if "looks" in holds.features else told_by_words(document, holds.styles)


def _lost_looks(document: Document, holds: Holds) -> list[tuple[str, Iterable[str]]]:
    """Ids of captions by what of their look neither words nor the styles of a format tell."""
    lost: dict[str, list[str]] = {group: [] for group in _LOOKS}
    said_by_all = looks_said(document)

    # A track has a few looks, and thousands of captions in them.
    @cache
    def unsaid(style: str | None, speaker: str | None, look: Look | None) -> frozenset[str]:
        """Names of what a whole look says, without what a style of the format does."""
        said = said_by_all(style, speaker, look)
        kept = holds.styles.kept(Look(**said)) if holds.styles else None
        there = _seen(said)
        return there - said_by(kept).keys() if kept else there

    for caption in document.captions:
        if caption.is_shape:
            continue
        said = unsaid(caption.style, caption.speaker, caption.look)
        said = said.union(*(_seen(said_by(span.look)) for span in caption.spans if span.look))
        for group, names in _LOOKS.items() if said else ():
            if said & names:
                lost[group].append(caption.id)
    return list(lost.items())


def _seen(said: Mapping[str, object]) -> frozenset[str]:
    """Names of what is said that looks otherwise than where nothing is said."""
    return frozenset(name for name, value in said.items() if _is_seen(name, value))


def _is_seen(name: str, value: object) -> bool:
    """Whether something looks otherwise than where nothing is said."""
    is_nothing = value in (0, "cut") and not name.endswith("opacity")
    return not is_nothing and value != getattr(STYLES["house"], name)


def _without_lost_shapes(captions: tuple[Caption, ...], holds: Holds) -> tuple[Caption, ...]:
    if "shapes" in holds.features:
        return captions
    return tuple(caption for caption in captions if not caption.is_shape)


def _own(extras: Extras, family: str) -> Extras:
    """What this format kept; Dunlin's own form keeps what every format did."""
    if not extras or family == "json":
        return extras
    return tuple(pair for pair in extras if pair[0].partition(":")[0] == family)


def _kept_time(holds: Holds, rate: FrameRate) -> Callable[[int], int]:
    if holds.precision == "hundredths":
        return lambda ms: (ms + 5) // 10 * 10
    if holds.precision == "frames":
        counted = holds.frame_rate(rate)
        return lambda ms: start_of_frame(first_frame_from(ms, counted), counted)
    return lambda ms: ms


def _rounded(caption: Caption, kept: Callable[[int], int]) -> Caption:
    in_ms, out_ms = kept(caption.in_ms), kept(caption.out_ms)
    if (in_ms, out_ms) == (caption.in_ms, caption.out_ms):
        return caption
    later = in_ms
    while out_ms <= in_ms:
        # Shorter than the format can tell: the shortest that it can.
        later += 5
        out_ms = kept(later)
    return replace(caption, in_ms=in_ms, out_ms=out_ms)


def _reduced(caption: Caption, holds: Holds, lost: dict[int, str], family: str) -> Caption:
    if family == "json":
        return caption
    features = holds.features
    if caption.case and "case" not in features:
        caption = as_shown(caption)
    spans = caption.spans
    plain = spans[0].is_plain if len(spans) == 1 else all(span.is_plain for span in spans)
    if (
        plain and not lost and not caption.extras
        and caption.placement is None and caption.style is None and caption.look is None
        and (caption.speaker is None or "speakers" in features)
        and ("lines" in features or "\n" not in caption.text)
    ):  # fmt: skip
        return caption
    if not plain:
        spans = joined(_reduced_span(span, holds, family) for span in spans)
    if lost:
        spans = tuple(replace(span, text=span.text.translate(lost)) for span in spans)
    if "lines" not in features and "\n" in caption.text:
        spans = tuple(replace(span, text=span.text.replace("\n", " ")) for span in spans)
    return Caption(
        caption.id,
        caption.in_ms,
        caption.out_ms,
        spans,
        caption.speaker if "speakers" in features else None,
        _reduced_placement(caption.placement, features),
        caption.style if "styles" in features else None,
        _own(caption.extras, family),
        look=caption.look if "looks" in features else None,
    )


_USUAL_STYLES: frozenset[Feature] = frozenset({"italic", "bold", "underline"})


def _reduced_span(span: Span, holds: Holds, family: str) -> Span:
    features = holds.features
    if (
        features >= _USUAL_STYLES and not span.extras and not span.colour and not span.background
        and not (span.language or span.ruby or span.voice or span.look or span.spoken)
    ):  # fmt: skip
        return span
    return Span(
        span.text,
        italic=span.italic and "italic" in features,
        bold=span.bold and "bold" in features,
        underline=span.underline and "underline" in features,
        colour=_text_colour(span.colour, holds.palette) if "colours" in features else None,
        background=_nearest(span.background, holds.palette) if "boxes" in features else None,
        language=span.language if "languages" in features else None,
        ruby=span.ruby if "ruby" in features else None,
        voice=span.voice if "voices" in features else None,
        extras=_own(span.extras, family),
        look=span.look if "looks" in features else None,
        spoken=span.spoken if "words" in features else None,
    )


def _text_colour(colour: str | None, palette: tuple[str, ...] | None) -> str | None:
    """Where there are only some colours, white is what text has when it says none."""
    found = _nearest(colour, palette)
    return None if palette and found == "#FFFFFF" else found


def _nearest(colour: str | None, palette: tuple[str, ...] | None) -> str | None:
    if colour is None or palette is None:
        return colour
    parts = _channels(colour)
    return min(
        palette,
        key=lambda c: sum((a - b) ** 2 for a, b in zip(parts, _channels(c), strict=True)),
    )


def _channels(colour: str) -> tuple[int, ...]:
    return tuple(int(colour[at : at + 2], 16) for at in (1, 3, 5))


def _reduced_placement(place: Placement | None, features: frozenset[Feature]) -> Placement | None:
    if place is None:
        return None
    if "heights" not in features:
        place = replace(place, y=None)
    if "sides" not in features:
        place = replace(place, x=None)
    if "widths" not in features:
        place = replace(place, width=None)
    if "alignment" not in features:
        place = replace(place, anchor="bottom", align="center")
    if "vertical" not in features:
        place = replace(place, vertical=None)
    return None if place == Placement() else place
