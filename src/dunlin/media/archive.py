"""Archives of what is handed over together (ZIP, with 64-bit sizes where they are needed)."""

import io
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path

from dunlin.media.drafts import whole_file

__all__ = ["archived", "write_archive", "write_folder_archive"]

_PIECE_BYTES = 1 << 20
# The earliest that a ZIP can say: what is made of the same is the same file.
_NO_TIME = (1980, 1, 1, 0, 0, 0)


def write_archive(files: Mapping[str, bytes], output: Path) -> None:
    """Writes files, by their names, as an archive; it stands there only when it is whole."""
    with whole_file(output) as draft, zipfile.ZipFile(draft, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(_entry(name, zipfile.ZIP_DEFLATED), data)


def write_folder_archive(folder: Path, output: Path) -> None:
    """Writes the files of a folder, in the order of their names, as an archive that packs nothing: they are packed already."""
    with whole_file(output) as draft, draft.open("wb") as file:
        for piece in archived((path.name, path) for path in sorted(folder.iterdir())):
            file.write(piece)


def archived(files: Iterable[tuple[str, Path]]) -> Iterator[bytes]:
    """An archive of files as they are, in pieces, however large they are: no more than a piece is held."""
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_STORED) as archive:
        for name, path in files:
            entry = _entry(name, zipfile.ZIP_STORED)
            entry.file_size = path.stat().st_size
            with path.open("rb") as file, archive.open(entry, "w", force_zip64=True) as into:
                while piece := file.read(_PIECE_BYTES):
                    into.write(piece)
                    yield sink.taken()
    yield sink.taken()


def _entry(name: str, packing: int) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, _NO_TIME)
    entry.compress_type = packing
    entry.external_attr = 0o644 << 16
    return entry


class _Sink(io.RawIOBase):
    """Takes what is written, to be taken from it; it cannot be gone back in."""

    def __init__(self) -> None:
        self._held = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: object) -> int:
        piece = bytes(data)  # type: ignore[call-overload]
        self._held += piece
        return len(piece)

    def taken(self) -> bytes:
        """What was written since the last time."""
        held, self._held = bytes(self._held), bytearray()
        return held
