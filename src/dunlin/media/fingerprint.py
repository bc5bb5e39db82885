"""The hash of a film, worked out once and kept beside it."""

from hashlib import file_digest
from pathlib import Path

__all__ = ["film_hash"]

_FILE = "original.sha256"


def film_hash(film: Path) -> str:
    """SHA-256 of a film, in hexadecimal digits. A film that was brought in never changes."""
    kept = film.with_name(_FILE)
    if kept.is_file() and (known := kept.read_text("ascii").strip()):
        return known
    with film.open("rb") as file:
        found = file_digest(file, "sha256").hexdigest()
    draft = kept.with_name(f".{_FILE}.part")
    draft.write_text(found, "ascii")
    draft.replace(kept)
    return found
