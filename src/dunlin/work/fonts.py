"""Fonts that were added for all projects: kept in the data folder, and there for whatever draws."""

from collections.abc import Mapping
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from typing import Any

from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.records import Record
from dunlin.core.project.targets import FONTS
from dunlin.core.styles.font_files import Face, faces_of_file
from dunlin.core.styles.shelf import ships, take_added
from dunlin.media.drafts import whole_file
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Step
from dunlin.work.apart import apart
from dunlin.work.folder import DataFolder

__all__ = ["AddedFont", "add_fonts", "added_fonts", "font_paths", "know_fonts", "remove_font"]


@dataclass(frozen=True)
class AddedFont:
    """A family that was added, and the files of its faces by what they are: `400`, `700 italic`."""

    family: str
    files: Mapping[str, str]


def added_fonts(folder: DataFolder) -> dict[str, AddedFont]:
    """The families that were added, by their names."""
    entries, _ = folder.log.record(HOUSE, FONTS)
    return {name: AddedFont(name, entry["files"]) for name, entry in sorted(entries.items())}


def know_fonts(folder: DataFolder) -> bool:
    """Has what draws and measures in this process know the fonts that were added, by whichever process.

    :returns: whether it knew others
    """
    entries, _ = folder.log.record(HOUSE, FONTS)
    return take_added(font_paths(folder.settings.fonts, entries))


def font_paths(fonts: Path, entries: Record) -> dict[str, dict[str, Path]]:
    """Where the files of families are, of the house's record of them; those that are not there any more are left out.

    :param fonts: the folder of their files
    """
    found = {
        name: {
            face: path for face, file in entry["files"].items() if (path := fonts / file).is_file()
        }
        for name, entry in entries.items()
    }
    return {name: files for name, files in found.items() if files}


def add_fonts(
    folder: DataFolder, data: bytes, author: Author, *, key: str | None = None
) -> list[str]:
    """Adds the faces of a font file for all projects, each in the place of one that is the same of its family.

    :returns: the names of its families
    :raises BadInput: when it cannot be read, or a family of that name ships
    """
    faces = apart(faces_of_file, data)
    if shipped := next((face.family for face in faces if ships(face.family)), None):
        raise BadInput(message("fonts.ships", family=shipped))
    folder.settings.fonts.mkdir(parents=True, exist_ok=True)
    entries, _ = folder.log.record(HOUSE, FONTS)
    wanted: dict[str, Any] = {}
    for face in faces:
        name = _known_name(face.family, {**entries, **wanted})
        was = wanted.get(name) or entries.get(name) or {"files": {}}
        files = {**was["files"], face.name: _kept(folder.settings.fonts, face)}
        wanted[name] = {**was, "files": files}
    changed = {name: entry for name, entry in wanted.items() if entries.get(name) != entry}
    if changed:
        folder.log.edit(HOUSE, [Step(FONTS, SetEntries(changed))], author, key=key)
    know_fonts(folder)
    return list(wanted)


def _known_name(family: str, entries: Mapping[str, Any]) -> str:
    """As it is written already: the renderer finds families however their names are written."""
    return next((name for name in entries if name.casefold() == family.casefold()), family)


def _kept(fonts: Path, face: Face) -> str:
    """The name of a face's file, which is that of what it holds."""
    name = sha256(face.data).hexdigest() + face.suffix
    if not (fonts / name).is_file():
        with whole_file(fonts / name) as draft:
            draft.write_bytes(face.data)
    return name


def remove_font(folder: DataFolder, family: str, author: Author) -> bool:
    """Takes a family away; what is set in it is drawn in the Latin one. False when it was not added.

    Its files stay, so that it can be taken back.
    """
    if family not in added_fonts(folder):
        return False
    folder.log.edit(HOUSE, [Step(FONTS, SetEntries({family: None}))], author)
    know_fonts(folder)
    return True
