"""Folders with models of CTranslate2: of which kind each is."""

from collections.abc import Iterable, Iterator
from pathlib import Path

__all__ = ["TRANSLATION_SPEC", "folders_with_models", "is_of_kind"]

TRANSLATION_SPEC = "TransformerSpec"
"""CTranslate2's name of models that translate."""


def folders_with_models(folders: Iterable[Path]) -> Iterator[Path]:
    """Folders that hold a model file, inside of folders of such, by their names."""
    for folder in folders:
        if folder.is_dir():
            for path in sorted(folder.iterdir()):
                if (path / "model.bin").is_file() and not path.name.startswith("."):
                    yield path


def is_of_kind(folder: Path, spec: str) -> bool:
    """Whether a model file says in its head that it is of a kind: the file's version stands there, then the name of what it
    is a model of.

    :param spec: CTranslate2's name of the kind, as `WhisperSpec`
    """
    with (folder / "model.bin").open("rb") as file:
        return spec.encode() in file.read(64)
