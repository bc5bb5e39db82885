"""The tables. Times of day are milliseconds since 1970, times in a film milliseconds from its start."""

from typing import Any, ClassVar

from sqlalchemy import JSON, BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

__all__ = [
    "Base",
    "CaptionRow",
    "EditRow",
    "FilmRow",
    "GestureRow",
    "JobRow",
    "ProjectRow",
    "SpecRow",
    "TrackRow",
    "WaiverRow",
    "WordRow",
]


class Base(DeclarativeBase):
    type_annotation_map: ClassVar[dict[Any, Any]] = {dict[str, Any]: JSON, list[Any]: JSON}


class ProjectRow(Base):
    __tablename__ = "projects"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    title: Mapped[str]
    created_ms: Mapped[int]
    opened_ms: Mapped[int]
    spec_id: Mapped[str]
    words_run: Mapped[str | None]
    """The recognition whose words are the transcript."""
    words_revision: Mapped[int] = mapped_column(default=0)
    """Grows with each edit of the transcript."""
    speakers: Mapped[list[Any]] = mapped_column(default=list)
    """Who speaks, with the colour of each, in the order of their keys."""
    terms: Mapped[list[Any]] = mapped_column(default=list)
    """Names and terms as they are spelled."""


class FilmRow(Base):
    __tablename__ = "films"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    label: Mapped[str]
    """The name it came with: shown, and never a path."""
    size_bytes: Mapped[int]
    facts: Mapped[dict[str, Any]]
    """Its probe."""
    has_copy: Mapped[bool] = mapped_column(default=False)
    """True when a playable copy stands beside it."""
    sound_ends_ms: Mapped[int | None]
    """Where decoding the sound came to its end."""
    picture_ends_ms: Mapped[int | None]
    """Where the last picture that can be read ends; 0 where there is none."""
    shots: Mapped[list[Any] | None]
    """Milliseconds of the shot changes; None until they were looked for."""


class TrackRow(Base):
    __tablename__ = "tracks"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), index=True
    )
    name: Mapped[str]
    language: Mapped[str]
    revision: Mapped[int] = mapped_column(default=0)
    spec_id: Mapped[str | None]
    """The spec it is judged by, where that is not the project's."""
    extras: Mapped[list[Any]] = mapped_column(default=list)
    """What the file it came from knew and Dunlin does not."""
    judged: Mapped[int] = mapped_column(BigInteger, default=0, index=True)
    """Changes, and grows, whenever captions are judged otherwise without an edit."""


class CaptionRow(Base):
    __tablename__ = "captions"

    track_id: Mapped[str] = mapped_column(
        ForeignKey("tracks.id", ondelete="CASCADE"), primary_key=True
    )
    id: Mapped[str] = mapped_column(primary_key=True)
    in_ms: Mapped[int]
    out_ms: Mapped[int]
    speaker: Mapped[str | None]
    spans: Mapped[list[Any]]
    placement: Mapped[dict[str, Any] | None]
    style: Mapped[str | None]
    extras: Mapped[list[Any]] = mapped_column(default=list)
    locked: Mapped[bool] = mapped_column(default=False)
    """Its times stay as they are."""
    letter_case: Mapped[str | None]
    made: Mapped[str | None]
    """What it was when it was made of the transcript."""


class WaiverRow(Base):
    """A finding that is accepted as it is, as long as the caption is what it was then."""

    __tablename__ = "waivers"

    track_id: Mapped[str] = mapped_column(
        ForeignKey("tracks.id", ondelete="CASCADE"), primary_key=True
    )
    caption_id: Mapped[str] = mapped_column(primary_key=True)
    rule: Mapped[str] = mapped_column(primary_key=True)
    reason: Mapped[str]
    in_ms: Mapped[int]
    out_ms: Mapped[int]
    text: Mapped[str]
    made_ms: Mapped[int]


class GestureRow(Base):
    """What a person did in one go, and undoes in one go: one or more edits."""

    __tablename__ = "gestures"

    id: Mapped[int] = mapped_column(primary_key=True)
    track_id: Mapped[str] = mapped_column(ForeignKey("tracks.id", ondelete="CASCADE"))
    key: Mapped[str]
    state: Mapped[str]
    """`done`, `undone`, or `dropped`: undone, and then something else was done instead."""

    __table_args__ = (Index("gestures_by_state", "track_id", "state", "id"),)


class EditRow(Base):
    """The log: rows are only ever added."""

    __tablename__ = "edits"

    seq: Mapped[int] = mapped_column(primary_key=True)
    track_id: Mapped[str] = mapped_column(ForeignKey("tracks.id", ondelete="CASCADE"))
    revision: Mapped[int]
    gesture_id: Mapped[int] = mapped_column(ForeignKey("gestures.id"), index=True)
    kind: Mapped[str]
    """`edit`, `undo` or `redo`."""
    actor: Mapped[str]
    made_ms: Mapped[int]
    operation: Mapped[dict[str, Any]]
    inverse: Mapped[dict[str, Any]]
    touched: Mapped[list[Any]]
    near: Mapped[list[Any]]
    """Ids of the captions that stood or stand next to the touched ones."""

    __table_args__ = (
        Index("edits_by_revision", "track_id", "revision", unique=True),
        # A number that was given is never given again, also when its project is removed.
        {"sqlite_autoincrement": True},
    )


class WordRow(Base):
    __tablename__ = "words"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    run: Mapped[str] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    """Orders them, with room between any two for words that are written there later."""
    text: Mapped[str]
    start_ms: Mapped[int]
    end_ms: Mapped[int]
    confidence: Mapped[float]
    speaker: Mapped[str | None]
    begins: Mapped[bool] = mapped_column(default=False)
    """Whether a paragraph begins with it."""
    guessed: Mapped[bool] = mapped_column(default=False)
    """Whether its time is shared out, and not heard."""
    italic: Mapped[bool] = mapped_column(default=False)
    bold: Mapped[bool] = mapped_column(default=False)
    underline: Mapped[bool] = mapped_column(default=False)


class JobRow(Base):
    __tablename__ = "jobs"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), index=True
    )
    kind: Mapped[str]
    state: Mapped[str] = mapped_column(index=True)
    """`waiting`, `running`, `done`, `failed` or `cancelled`."""
    progress: Mapped[float] = mapped_column(default=0.0)
    step: Mapped[str] = mapped_column(default="")
    parameters: Mapped[dict[str, Any]]
    result: Mapped[dict[str, Any] | None] = mapped_column(JSON)
    error: Mapped[str | None]
    attempts: Mapped[int] = mapped_column(default=0)
    cancel_asked: Mapped[bool] = mapped_column(default=False)
    created_ms: Mapped[int]
    started_ms: Mapped[int | None]
    ended_ms: Mapped[int | None]
    beat_ms: Mapped[int | None]
    """When its worker last said that it lives."""
    version: Mapped[int] = mapped_column(BigInteger, index=True)
    """Greater than that of every job changed before."""


class SpecRow(Base):
    __tablename__ = "specs"

    id: Mapped[str] = mapped_column(primary_key=True)
    document: Mapped[str]
