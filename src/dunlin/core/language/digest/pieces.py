"""Words about a film in pieces, each of which is written otherwise by hand, or made longer, shorter, or another one.

A piece that was made stands in the talk, or is made of its phrases; where it was said goes with it.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal, TypeAlias, get_args

from pydantic import Field, TypeAdapter

from dunlin.core.language.digest.strength import StrongPassage
from dunlin.core.language.digest.talk import Part, Talk
from dunlin.core.language.digest.words_about import KEYWORDS, LENGTHS, PASSAGES, Chapter, WordsAbout

__all__ = [
    "KINDS",
    "PIECE",
    "Piece",
    "PieceKind",
    "SaidAt",
    "about_of",
    "another",
    "begun",
    "resized",
]

PieceKind: TypeAlias = Literal["title", "short", "middle", "long", "keywords", "chapter", "passage"]
KINDS: tuple[PieceKind, ...] = get_args(PieceKind)
_DESCRIPTIONS: tuple[PieceKind, ...] = ("short", "middle", "long")
_TITLES = 3
_MOST_SEEN = 60
_BETWEEN = ", "
"""Key words."""


@dataclass(frozen=True)
class SaidAt:
    """From when to when something is said, in milliseconds of the film."""

    from_ms: int
    to_ms: int


@dataclass(frozen=True)
class Piece:
    """A title, a description, key words, a chapter or a passage. Times are milliseconds of the film."""

    kind: PieceKind
    text: Annotated[str, Field(max_length=20_000)]
    said: Annotated[tuple[SaidAt, ...], Field(max_length=200)] = ()
    """From when to when it was said, of each of its sentences or phrases; of a chapter, where it goes on to."""
    place: float = 0.0
    """Where it stands among those of its kind."""
    why: tuple[Annotated[str, Field(max_length=20)], ...] = ()
    """What a passage is strong by."""
    seen: Annotated[
        tuple[Annotated[str, Field(max_length=20_000)], ...], Field(max_length=200)
    ] = ()
    """What was there before another was asked for."""


PIECE: TypeAdapter[Piece] = TypeAdapter(Piece)


def begun(talk: Talk, describing: Sequence[int] | None = None) -> list[Piece]:
    """The pieces to begin with, in their order; none where nothing is said.

    :param describing: places of the sentences that describe, the best first, where something else has chosen them
    """
    if not talk.sentences:
        return []
    by_worth = tuple(describing) if describing else talk.by_worth
    titles = [
        Piece("title", one.text, (SaidAt(one.start_ms, one.end_ms),))
        for one in talk.titles[:_TITLES]
    ]
    descriptions = [_described(talk, kind, by_worth[: LENGTHS[kind]]) for kind in _DESCRIPTIONS]
    words = [Piece("keywords", _BETWEEN.join(talk.keywords[:KEYWORDS]))] if talk.keywords else []
    chapters = [_chapter(talk, part) for part in talk.parts]
    passages = [_passage(one) for one in talk.passages[:PASSAGES]]
    pieces = [*titles, *descriptions, *words, *chapters, *passages]
    return [replace(piece, place=float(n)) for n, piece in enumerate(pieces, 1)]


def another(talk: Talk, piece: Piece, others: Iterable[Piece] = ()) -> Piece | None:
    """Another piece in the place of one, which was not there before; None when there is none.

    :param others: the pieces beside it
    """
    seen = {piece.text, *piece.seen, *(one.text for one in others if one.kind == piece.kind)}
    found = next((one for one in _candidates(talk, piece, others) if one.text not in seen), None)
    if found is None:
        return None
    before = tuple(dict.fromkeys([*piece.seen, piece.text]))[-_MOST_SEEN:]
    return replace(found, place=piece.place, seen=before)


def _candidates(talk: Talk, piece: Piece, others: Iterable[Piece]) -> Iterable[Piece]:
    if piece.kind == "chapter" and not piece.said:
        return
    match piece.kind:
        case "title":
            yield from (
                Piece("title", one.text, (SaidAt(one.start_ms, one.end_ms),)) for one in talk.titles
            )
        case "chapter":
            for title in _part_of(talk, piece).titles:
                yield Piece("chapter", title.text, piece.said)
        case "keywords":
            now = piece.text.split(_BETWEEN)
            for first in range(1, len(talk.keywords)):
                yield Piece("keywords", _BETWEEN.join(talk.keywords[first : first + len(now)]))
        case "passage":
            taken = [span for one in others if one.kind == "passage" for span in one.said]
            for one in talk.passages:
                if all(one.to_ms <= span.from_ms or one.from_ms >= span.to_ms for span in taken):
                    yield _passage(one)
        case _:
            # The sentences that come after those it has, and after these again.
            count = max(len(piece.said), 1)
            for first in range(1, len(talk.by_worth) - count + 1):
                yield _described(talk, piece.kind, talk.by_worth[first : first + count])


def resized(talk: Talk, piece: Piece, by: int) -> Piece | None:
    """A piece that is longer by one sentence, word or phrase, or shorter; None when it cannot be.

    :param by: 1 or -1
    """
    if piece.kind in ("chapter", "passage") and not piece.said:
        return None
    match piece.kind:
        case "keywords":
            now = [word for word in piece.text.split(_BETWEEN) if word]
            more = next((word for word in talk.keywords if word not in now), None)
            words = now[:-1] if by < 0 else [*now, more] if more else []
            return replace(piece, text=_BETWEEN.join(words)) if words else None
        case "passage":
            return _longer_passage(talk, piece, by)
        case "title" | "chapter":
            return _longer_title(talk, piece, by)
        case _:
            return _longer_description(talk, piece, by)


def _longer_description(talk: Talk, piece: Piece, by: int) -> Piece | None:
    starts = {one.from_ms for one in piece.said}
    there = [n for n in talk.by_worth if talk.sentences[n].start_ms in starts]
    # What comes next after those that are there, so that shorter takes back what longer brought.
    last = talk.by_worth.index(there[-1]) + 1 if there else 0
    rest = [n for n in (*talk.by_worth[last:], *talk.by_worth[:last]) if n not in there]
    if (by < 0 and len(there) < 2) or (by > 0 and not rest):
        return None
    made = _described(talk, piece.kind, there[:-1] if by < 0 else [*there, rest[0]])
    return replace(piece, text=made.text, said=made.said)


def _longer_passage(talk: Talk, piece: Piece, by: int) -> Piece | None:
    first, last = talk.place_at(piece.said[0].from_ms), talk.place_at(piece.said[-1].to_ms - 1)
    last += by
    if last < first or last >= len(talk.sentences):
        return None
    own = talk.sentences[first : last + 1]
    return replace(
        piece,
        text=talk.text_of(range(first, last + 1)),
        said=(SaidAt(own[0].start_ms, own[-1].end_ms),),
    )


def _longer_title(talk: Talk, piece: Piece, by: int) -> Piece | None:
    """The best phrase that is longer, or shorter, and is nearest to it."""
    titles = talk.titles if piece.kind == "title" else _part_of(talk, piece).titles
    able = [one for one in titles if (len(one.text) - len(piece.text)) * by > 0]
    if not able:
        return None
    best = min(able, key=lambda one: abs(len(one.text) - len(piece.text)))
    said = (SaidAt(best.start_ms, best.end_ms),) if piece.kind == "title" else piece.said
    return replace(piece, text=best.text, said=said)


def _described(talk: Talk, kind: PieceKind, places: Sequence[int]) -> Piece:
    own = [talk.sentences[n] for n in sorted(places)]
    said = tuple(SaidAt(one.start_ms, one.end_ms) for one in own)
    return Piece(kind, talk.text_of(places), said)


def _chapter(talk: Talk, part: Part) -> Piece:
    ends_ms = talk.sentences[part.after - 1].end_ms
    return Piece("chapter", talk.title_of(part), (SaidAt(talk.begins_ms(part), ends_ms),))


def _part_of(talk: Talk, piece: Piece) -> Part:
    """The part of the talk that a chapter is, also where its time was set by hand."""
    first = talk.place_at(piece.said[0].from_ms)
    after = max(talk.place_at(piece.said[0].to_ms - 1) + 1, first + 1)
    return talk.part(first, after)


def _passage(one: StrongPassage) -> Piece:
    return Piece("passage", one.text, (SaidAt(one.from_ms, one.to_ms),), why=one.why)


def about_of(pieces: Iterable[Piece]) -> WordsAbout:
    """Pieces as what is written to files, each kind in its order; chapters in that of the film."""
    ordered = sorted(pieces, key=lambda one: one.place)
    of = {kind: [one for one in ordered if one.kind == kind] for kind in KINDS}
    chapters = sorted(of["chapter"], key=lambda one: one.said[0].from_ms if one.said else 0)

    def text(kind: PieceKind) -> str:
        return "\n".join(one.text for one in of[kind])

    return WordsAbout(
        titles=tuple(one.text for one in of["title"]),
        short=text("short"), middle=text("middle"), long=text("long"),
        keywords=tuple(word.strip() for one in of["keywords"] for word in one.text.split(",") if word.strip()),
        chapters=tuple(Chapter(one.said[0].from_ms if one.said else 0, one.text) for one in chapters),
        passages=tuple(
            StrongPassage(one.said[0].from_ms, one.said[-1].to_ms, one.text, one.why, 0.0)
            for one in of["passage"] if one.said
        ),
    )  # fmt: skip
