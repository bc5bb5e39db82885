"""What a host remembers, as tables."""

from typing import Any

from sqlalchemy import JSON, BigInteger, ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

__all__ = ["Base", "CollectionRow", "FilmRow", "TokenRow", "TrackRow", "UploadRow", "WritingRow"]


class Base(DeclarativeBase):
    """Tables of a host. Times are milliseconds since 1970."""


class CollectionRow(Base):
    __tablename__ = "collections"
    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(String(200), unique=True)


class FilmRow(Base):
    __tablename__ = "films"
    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    collection: Mapped[str] = mapped_column(ForeignKey("collections.id"))
    title: Mapped[str] = mapped_column(String(300))
    about: Mapped[str] = mapped_column(default="")
    language: Mapped[str] = mapped_column(String(35))
    name: Mapped[str] = mapped_column(String(300))
    size_bytes: Mapped[int] = mapped_column(BigInteger)
    sha256: Mapped[str] = mapped_column(String(64))
    duration_ms: Mapped[int]
    came_ms: Mapped[int] = mapped_column(BigInteger)
    machine: Mapped[str] = mapped_column(String(10), default="none")
    """How its machine-made captions stand: none, making, made or failed."""

    __table_args__ = (Index("films_by_time", "came_ms", "id"),)


class TrackRow(Base):
    """A language of a film, as it is now."""

    __tablename__ = "tracks"
    film: Mapped[str] = mapped_column(ForeignKey("films.id", ondelete="CASCADE"), primary_key=True)
    key: Mapped[str] = mapped_column(String(35), primary_key=True)
    """The language in small letters: `pt-br` and `pt-BR` are one."""
    language: Mapped[str] = mapped_column(String(35))
    is_open: Mapped[bool]
    by_machine: Mapped[bool]
    version: Mapped[int]
    """Of its writing; never used twice, also when a track is taken away and comes back."""
    proof: Mapped[str] = mapped_column(String(43))
    """What opens it to whoever knows it, while it is a draft."""


class WritingRow(Base):
    """What a track said once: its history."""

    __tablename__ = "writings"
    version: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    film: Mapped[str] = mapped_column(ForeignKey("films.id", ondelete="CASCADE"))
    key: Mapped[str] = mapped_column(String(35))
    words: Mapped[str]
    """WebVTT."""
    cues: Mapped[int]
    by: Mapped[str] = mapped_column(String(200))
    came_ms: Mapped[int] = mapped_column(BigInteger)

    __table_args__ = (Index("writings_of_tracks", "film", "key"), {"sqlite_autoincrement": True})


class UploadRow(Base):
    """A film that is on its way in."""

    __tablename__ = "uploads"
    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    told: Mapped[dict[str, Any]] = mapped_column(JSON)
    """What was said of it when it began."""
    film: Mapped[str | None] = mapped_column(String(32))
    """What became of it."""
    began_ms: Mapped[int] = mapped_column(BigInteger)


class TokenRow(Base):
    __tablename__ = "tokens"
    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(String(200))
    digest: Mapped[str] = mapped_column(String(64))
    """SHA-256 of the token, which itself is kept nowhere."""
    scopes: Mapped[list[str]] = mapped_column(JSON)
    expires_ms: Mapped[int] = mapped_column(BigInteger)
    made_ms: Mapped[int] = mapped_column(BigInteger)

    __table_args__ = (UniqueConstraint("digest"),)
