"""Versions of a track: listed, changed, and its captions as they are in one."""

import itertools
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from pydantic import TypeAdapter

from dunlin.core.captions import Track
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import apart_in, versions_of
from dunlin.core.specs import Setting
from dunlin.core.styles import Script, StyleSheet
from dunlin.core.versions.captions import captions_in_version
from dunlin.core.versions.model import Apart, Version
from dunlin.core.versions.window import needs_shape, picture_of
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.styles import sheet_of

__all__ = [
    "InVersion",
    "UnknownVersion",
    "change_version",
    "in_version",
    "picture_of_track",
    "remove_version",
    "set_apart",
    "setting_in",
    "version_of",
    "versions_by_id",
]

_VERSION = TypeAdapter(Version)
_APART = TypeAdapter(Apart)


class UnknownVersion(Told, LookupError):
    """There is no version of that id."""

    def __init__(self) -> None:
        super().__init__(message("versions.gone"))


@dataclass(frozen=True)
class InVersion:
    """A track as it is drawn in a version of it."""

    version: Version
    captions: Track
    sheet: StyleSheet
    picture: Script
    apart: Mapping[str, Apart]
    """What differs, by the captions' ids."""
    apart_revision: int
    """The project's, when that was last changed."""


def versions_by_id(folder: DataFolder, project: Project, track_id: str) -> dict[str, Version]:
    """The versions of a track in the order of their names."""
    entries, _ = folder.log.record(project.id, versions_of(track_id))
    found = {id_: _VERSION.validate_python(entry) for id_, entry in entries.items()}
    ordered = sorted(found.items(), key=lambda item: (item[1].name.casefold(), item[0]))
    return dict(ordered)


def version_of(folder: DataFolder, project: Project, track_id: str, id_: str) -> Version:
    """:raises UnknownVersion: when the track has none of that id"""
    entries, _ = folder.log.record(project.id, versions_of(track_id))
    if id_ not in entries:
        raise UnknownVersion
    return _VERSION.validate_python(entries[id_])


def picture_of_track(
    folder: DataFolder, project: Project, track_id: str, id_: str | None
) -> Script:
    """The picture that captions are laid out on: a version's, or the film's where there is no such version."""
    film = script_size(probe_from(project.film.facts))
    entries, _ = folder.log.record(project.id, versions_of(track_id))
    if id_ is None or id_ not in entries:
        return film
    return picture_of(_VERSION.validate_python(entries[id_]), film)


def in_version(folder: DataFolder, project: Project, track_id: str, id_: str) -> InVersion:
    """A track as it is drawn in a version of it. :raises UnknownVersion: when it has none of that id"""
    version = version_of(folder, project, track_id, id_)
    track, _ = folder.log.track(track_id)
    entries, revision = folder.log.record(project.id, apart_in(track_id, id_))
    apart = {key: _APART.validate_python(entry) for key, entry in entries.items()}
    sheet = sheet_of(project, track_id, default=version.style)
    film = script_size(probe_from(project.film.facts))
    captions = captions_in_version(track, apart)
    return InVersion(version, captions, sheet, picture_of(version, film), apart, revision or 0)


def setting_in(setting: Setting, there: InVersion) -> Setting:
    """What captions are drawn by in a version, of what they are judged by."""
    return replace(setting, sheet=there.sheet, picture=there.picture)


def change_version(
    folder: DataFolder,
    project: Project,
    track_id: str,
    id_: str,
    version: Version,
    author: Author,
    *,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Makes the version of that id this one, or a new one.

    :param base: the revision at which the versions were read that it was made of
    :returns: None when it is so already
    :raises BadInput: when no picture has its shape, its moments are out of order, or another has its name
    :raises Outdated: when another window changed it since
    """
    needs_shape(version)
    times = [moment.at_ms for moment in version.moments]
    if any(later <= earlier for earlier, later in itertools.pairwise(times)):
        raise BadInput(message("versions.not-in-order"))
    entries, _ = folder.log.record(project.id, versions_of(track_id))
    others = {entry["name"].casefold() for other, entry in entries.items() if other != id_}
    if version.name.casefold() in others:
        raise BadInput(message("versions.same-name", name=version.name))
    entry = _VERSION.dump_python(version, mode="json")
    if entries.get(id_) == entry:
        return None
    step = Step(versions_of(track_id), SetEntries({id_: entry}), base)
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key)


def remove_version(
    folder: DataFolder,
    project: Project,
    track_id: str,
    id_: str,
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Takes a version away; what differed in it comes back with it. :raises UnknownVersion: when there is none"""
    # Asked for again after a lost answer, it is gone because of that.
    if key is None or not folder.log.stored(project.id, key):
        version_of(folder, project, track_id, id_)
    step = Step(versions_of(track_id), SetEntries({id_: None}))
    return folder.log.edit(project.id, [step], author, key=key)


def set_apart(
    folder: DataFolder,
    project: Project,
    track_id: str,
    id_: str,
    differing: Mapping[str, Apart | None],
    author: Author,
    *,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Says what differs in a version about captions; None has them as they are in the track.

    :param base: the revision at which what differs was read
    :returns: None when it is so already
    :raises UnknownVersion: when there is no such version
    :raises Outdated: when another window said something else of one of them since
    """
    version_of(folder, project, track_id, id_)
    entries, _ = folder.log.record(project.id, apart_in(track_id, id_))
    wanted: dict[str, Any] = {
        caption: None if apart in (None, Apart()) else _APART.dump_python(apart, mode="json")
        for caption, apart in differing.items()
    }
    changed = {caption: entry for caption, entry in wanted.items() if entries.get(caption) != entry}
    if not changed:
        return None
    step = Step(apart_in(track_id, id_), SetEntries(changed), base)
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key)
