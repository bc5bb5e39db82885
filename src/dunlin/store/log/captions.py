"""Captions of a track, read from the database and written to it."""

from collections.abc import Iterable, Sequence
from contextlib import suppress
from dataclasses import asdict
from typing import Any

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert as upsert

from dunlin.core.captions import Caption, Extras, Placement, Span, Spoken, Track
from dunlin.core.captions.edits import Applied
from dunlin.core.captions.look import look_of_stored, said_by, stored_look
from dunlin.core.styles.stacking import on_screen_with
from dunlin.store.faults import DamagedProject, told_as_damage
from dunlin.store.tables import CaptionRow

__all__ = ["beside", "read_track", "read_what_can_be", "write_captions"]

_COLUMNS = (
    CaptionRow.id,
    CaptionRow.in_ms,
    CaptionRow.out_ms,
    CaptionRow.speaker,
    CaptionRow.spans,
    CaptionRow.placement,
    CaptionRow.style,
    CaptionRow.extras,
    CaptionRow.locked,
    CaptionRow.letter_case,
    CaptionRow.made,
    CaptionRow.look,
)
# A statement takes a limited number of values.
_AT_ONCE = 500


def read_track(connection: Connection, track_id: str) -> Track:
    """All captions of a track. :raises DamagedProject: when one of them cannot be read"""
    with told_as_damage():
        rows = connection.execute(select(*_COLUMNS).where(CaptionRow.track_id == track_id))
        return Track.of(_caption(row) for row in rows)


def _caption(row: Sequence[Any]) -> Caption:
    id_, in_ms, out_ms, speaker, spans, placement, style, extras, locked, case, made, look = row
    place = Placement(**placement) if placement else None
    return Caption(
        id_, in_ms, out_ms, tuple(map(_span, spans)), speaker, place, style, _extras(extras),
        locked, case, made, look_of_stored(look) if look else None,
    )  # fmt: skip


def read_what_can_be(connection: Connection, track_id: str) -> tuple[Caption, ...]:
    """The captions of a track that can be read, in order; those that cannot are left out."""
    found = []
    ids = connection.scalars(select(CaptionRow.id).where(CaptionRow.track_id == track_id))
    for id_ in ids.all():
        one = select(*_COLUMNS).where(CaptionRow.track_id == track_id, CaptionRow.id == id_)
        with suppress(DamagedProject), told_as_damage():
            found.append(_caption(connection.execute(one).one()))
    return tuple(sorted(found, key=lambda caption: (caption.in_ms, caption.id)))


def _span(stored: dict[str, Any]) -> Span:
    look, spoken = stored.get("look"), stored.get("spoken")
    parts = {
        "extras": _extras(stored.get("extras", ())),
        "look": look_of_stored(look) if look else None,
        "spoken": Spoken(**spoken) if spoken else None,
    }
    return Span(**(stored | parts))


def _extras(stored: Iterable[Sequence[str]]) -> Extras:
    return tuple((name, value) for name, value in stored)


_INTO = upsert(CaptionRow)
_PUT = _INTO.on_conflict_do_update(
    set_={
        column.name: _INTO.excluded[column.name]
        for column in CaptionRow.__table__.columns
        if not column.primary_key
    }
)


def write_captions(
    connection: Connection, track_id: str, track: Track, touched: Iterable[str]
) -> None:
    """Makes the rows of the touched captions what the track says."""
    touched = list(touched)
    gone = [id_ for id_ in touched if id_ not in track]
    rows = [_row(track_id, track[id_]) for id_ in touched if id_ in track]
    for at in range(0, len(gone), _AT_ONCE):
        connection.execute(
            delete(CaptionRow).where(
                CaptionRow.track_id == track_id, CaptionRow.id.in_(gone[at : at + _AT_ONCE])
            )
        )
    if rows:
        connection.execute(_PUT, rows)


def _row(track_id: str, caption: Caption) -> dict[str, Any]:
    return {
        "track_id": track_id,
        "id": caption.id,
        "in_ms": caption.in_ms,
        "out_ms": caption.out_ms,
        "speaker": caption.speaker,
        "spans": [_stored(span) for span in caption.spans],
        "placement": asdict(caption.placement) if caption.placement else None,
        "style": caption.style,
        "extras": caption.extras,
        "locked": caption.locked,
        "letter_case": caption.case,
        "made": caption.made,
        "look": stored_look(caption.look) if caption.look else None,
    }


def _stored(span: Span) -> dict[str, Any]:
    """A span as plain data, without what it does not say."""
    said = {name: value for name, value in vars(span).items() if value or name == "text"}
    if span.look:
        said["look"] = stored_look(span.look)
    if span.spoken:
        said["spoken"] = said_by(span.spoken)
    return said


def beside(before: Track, applied: Applied) -> frozenset[str]:
    """Ids of what stood or stands next to what was touched, or is on the screen with it: its gap, or its place on the
    picture, may be another now."""
    found = set()
    for track in (before, applied.track):
        for id_ in applied.touched:
            if id_ in track:
                place = track.index(id_)
                found |= {c.id for c in (track.at(place - 1), track.at(place + 1)) if c}
                found |= {track.order[other][1] for other in on_screen_with(track, place)}
    return frozenset(found) - applied.touched
