"""Files that are there whole or not at all."""

import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

__all__ = ["whole_file"]


@contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """A draft to be written, which takes a file's place once it is; where that fails, nothing of it stays.

    Each has a name of its own: two may make the same file at once, and the last one stays.
    """
    draft = path.with_name(f"{path.name}.{uuid.uuid4().hex}.draft")
    try:
        yield draft
        draft.replace(path)
    finally:
        draft.unlink(missing_ok=True)
