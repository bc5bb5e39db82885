"""The hash of a film: taken while it is brought in, and kept beside it."""

from functools import lru_cache
from hashlib import file_digest
from pathlib import Path

__all__ = ["film_hash", "keep_film_hash"]

_FILE = "original.sha256"


def keep_film_hash(film: Path, digest: str) -> None:
    """Keeps a film's SHA-256, in hexadecimal digits, beside it."""
    film.with_name(_FILE).write_text(digest, "ascii")


def film_hash(film: Path) -> str:
    """SHA-256 of a film, in hexadecimal digits. A film that was brought in never changes."""
    kept = film.with_name(_FILE)
    return kept.read_text("ascii") if kept.is_file() else _hashed(film)


@lru_cache(64)
def _hashed(film: Path) -> str:
    """Of a film that came without being hashed: asked for by who only looks, so nothing is written."""
    with film.open("rb") as file:
        return file_digest(file, "sha256").hexdigest()
