"""The tables. Times of day are milliseconds since 1970, times in a film milliseconds from its start."""

from typing import Any, ClassVar

from sqlalchemy import JSON, BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

__all__ = [
    "Base",
    "CaptionRow",
    "FilmRow",
    "GestureRow",
    "JobRow",
    "LogRow",
    "MadeRow",
    "ProjectRow",
    "RecordRow",
    "TargetRow",
    "TrackRow",
    "WordRow",
]


class Base(DeclarativeBase):
    type_annotation_map: ClassVar[dict[Any, Any]] = {dict[str, Any]: JSON, list[Any]: JSON}


class ProjectRow(Base):
    """A project; and the house, which is what all projects share: it has no film."""

    __tablename__ = "projects"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    created_ms: Mapped[int]
    opened_ms: Mapped[int]
    revision: Mapped[int] = mapped_column(default=0)
    """Grows with each entry of its log."""
    words_run: Mapped[str | None]
    """The recognition whose words are the transcript."""


class FilmRow(Base):
    """A film that is or was in a project: changing it can be undone."""

    __tablename__ = "films"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    """Also the name of the folder it is in."""
    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), index=True
    )
    came_ms: Mapped[int] = mapped_column(BigInteger)
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


class TrackRow(Base):
    """A track that is or was in a project: it keeps its captions, so that removing it can be undone."""

    __tablename__ = "tracks"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), index=True
    )


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
    look: Mapped[dict[str, Any] | None]
    """What it says of its look, beside its place and case."""


class TargetRow(Base):
    """When a target of edits was last changed."""

    __tablename__ = "targets"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    address: Mapped[str] = mapped_column(primary_key=True)
    revision: Mapped[int]
    """The project's, after the newest entry of the log that is about this target."""


class RecordRow(Base):
    """A value of one of a project's records."""

    __tablename__ = "records"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    address: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    value: Mapped[Any] = mapped_column(JSON)


class GestureRow(Base):
    """What a person did in one go, and undoes in one go: one or more edits, of one or more targets."""

    __tablename__ = "gestures"

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"))
    key: Mapped[str]
    actor: Mapped[str]
    """The person; empty is whoever asks, for what was done before Dunlin knew persons."""
    state: Mapped[str]
    """`done`, `undone`, or `dropped`: undone, and then something else was done instead."""

    __table_args__ = (Index("gestures_by_state", "project_id", "actor", "state", "id"),)


class LogRow(Base):
    """The log of a project. A running gesture has one row for each target, which moves forward."""

    __tablename__ = "log"

    seq: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[str] = mapped_column(ForeignKey("projects.id", ondelete="CASCADE"))
    revision: Mapped[int]
    gesture_id: Mapped[int] = mapped_column(
        ForeignKey("gestures.id", ondelete="CASCADE"), index=True
    )
    kind: Mapped[str]
    """`edit`, `undo` or `redo`."""
    target: Mapped[str]
    actor: Mapped[str]
    window: Mapped[str]
    """The window it was done in."""
    edit_key: Mapped[str | None]
    """What the window calls this edit, so that it is not done again when the answer was lost."""
    made_ms: Mapped[int] = mapped_column(BigInteger)
    schema: Mapped[int]
    """The form that operation and inverse are written down in."""
    operation: Mapped[dict[str, Any]]
    inverse: Mapped[dict[str, Any]]
    touched: Mapped[list[Any]]
    """Ids of captions, keys of a record, or positions of words."""
    near: Mapped[list[Any]]
    """Ids of the captions that stood or stand next to the touched ones."""

    __table_args__ = (
        Index("log_by_revision", "project_id", "revision", unique=True),
        Index("log_by_target", "project_id", "target", "revision"),
        Index("log_by_key", "project_id", "edit_key"),
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
    left_out: Mapped[bool] = mapped_column(default=False)


class JobRow(Base):
    __tablename__ = "jobs"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), index=True
    )
    film_id: Mapped[str | None] = mapped_column(String(32))
    """The film it is about."""
    kind: Mapped[str]
    state: Mapped[str] = mapped_column(index=True)
    """`waiting`, `running`, `done`, `failed` or `cancelled`."""
    progress: Mapped[float] = mapped_column(default=0.0)
    step: Mapped[str] = mapped_column(default="")
    parameters: Mapped[dict[str, Any]]
    result: Mapped[dict[str, Any] | None] = mapped_column(JSON)
    error: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    attempts: Mapped[int] = mapped_column(default=0)
    cancel_asked: Mapped[bool] = mapped_column(default=False)
    created_ms: Mapped[int]
    started_ms: Mapped[int | None]
    ended_ms: Mapped[int | None]
    beat_ms: Mapped[int | None]
    """When its worker last said that it lives."""
    version: Mapped[int] = mapped_column(BigInteger, index=True)
    """Greater than that of every job changed before."""


class MadeRow(Base):
    """A thing of a packing list as it was made last: the file, and what it was made of."""

    __tablename__ = "made"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    delivery_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    item_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    job_id: Mapped[str] = mapped_column(String(32))
    """Of the job that made it."""
    file: Mapped[str]
    """Its name in the folder of results."""
    name: Mapped[str]
    """What it was called when it was made."""
    size_bytes: Mapped[int] = mapped_column(BigInteger)
    sha256: Mapped[str] = mapped_column(String(64))
    made_ms: Mapped[int] = mapped_column(BigInteger)
    made_of: Mapped[list[Any]]
    """What went into it, as it was then."""


class SentRow(Base):
    """A thing of a packing list as it was sent last to a host of films, or is being sent."""

    __tablename__ = "sent"

    project_id: Mapped[str] = mapped_column(
        ForeignKey("projects.id", ondelete="CASCADE"), primary_key=True
    )
    delivery_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    item_id: Mapped[str] = mapped_column(String(64), primary_key=True)
    connection: Mapped[str] = mapped_column(String(64))
    """Id of the connection it went by."""
    sha256: Mapped[str] = mapped_column(String(64))
    """Of what was sent."""
    film: Mapped[str | None]
    """Its film on the host."""
    language: Mapped[str | None]
    """The language it is there, of captions."""
    version: Mapped[str | None]
    """What the host called it when it was sent."""
    is_open: Mapped[bool]
    page: Mapped[str]
    """Where it is looked at there."""
    begun: Mapped[str | None]
    """What names a sending that has not come through."""
    sent_ms: Mapped[int | None] = mapped_column(BigInteger)
