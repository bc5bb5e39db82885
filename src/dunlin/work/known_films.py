"""What was worked out of a film when it was brought in before: into another project, or into this one."""

import os
import shutil
from collections.abc import Iterator, Sequence
from pathlib import Path

from dunlin.media.drafts import whole_file
from dunlin.media.fingerprint import film_hash
from dunlin.store.films import Film
from dunlin.work.folder import DataFolder

__all__ = ["take_what_is_known"]


def take_what_is_known(folder: DataFolder, film: Film, files: Sequence[str]) -> bool:
    """Puts files that were made of a film of the same content beside this one; False where none has them.

    :param files: their names; the last of them is there only where all are
    """
    there = folder.film_folder(film)
    for known in _folders_of_same(folder, film):
        if not (known / files[-1]).is_file():
            continue
        try:
            for name in files:
                with whole_file(there / name) as draft:
                    _link_or_copy(known / name, draft)
        except FileNotFoundError:
            continue
        return True
    return False


def _folders_of_same(folder: DataFolder, film: Film) -> Iterator[Path]:
    """Where other films of the same content are, the newest first."""
    for other in folder.films.of_size(film.size_bytes):
        if other.id == film.id:
            continue
        try:
            is_same = film_hash(folder.film_file(other)) == film_hash(folder.film_file(film))
        except FileNotFoundError:
            # Its project was removed in between.
            continue
        if is_same:
            yield folder.film_folder(other)


def _link_or_copy(known: Path, there: Path) -> None:
    """What is kept beside a film is never written to, only replaced: two may have one file."""
    try:
        os.link(known, there)
    except FileNotFoundError:
        raise
    except OSError:
        # Not every kind of disk knows links.
        shutil.copyfile(known, there)
