"""What things are made of, and what of that has changed since they were made."""

import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from hashlib import sha256
from typing import Any

from dunlin.core.delivery.model import (
    ITEM,
    BurnedFilm,
    CaptionsAlone,
    FilmWithTracks,
    Item,
    Report,
    Thing,
    Timeline,
    Transcript,
    WordsAbout,
    tracks_in,
)
from dunlin.core.project import Target, captions_of, shots_in, waivers_of
from dunlin.core.project.targets import (
    ABOUT,
    SPEAKERS,
    STYLES,
    TRACKS,
    TRANSCRIPT,
    apart_in,
    versions_of,
)
from dunlin.store.made import Ingredient, Made
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = ["Change", "changes_since", "ingredients_of"]


@dataclass(frozen=True)
class Change:
    """Something that is otherwise than when a thing was made."""

    what: str
    track: str | None
    """Id of the track it is of, where it is of one."""
    count: int
    """How many captions, of `captions`; else 1."""


@dataclass(frozen=True)
class _Part:
    """Something that goes into a thing: a target, or what a function of it gives."""

    what: str
    track: str | None
    address: str
    value: Any


def ingredients_of(
    folder: DataFolder, project: Project, item: Item, files: Sequence[str] = ()
) -> tuple[Ingredient, ...]:
    """What a thing is made of, as it is now.

    :param files: hashes of what is made before it, of which a report tells
    """
    return tuple(
        Ingredient(
            part.what,
            part.track,
            part.address,
            _revision(folder, project, part),
            _digest(folder, project, part),
        )
        for part in _parts(folder, project, item, files)
    )


def changes_since(
    folder: DataFolder, project: Project, item: Item, made: Made, files: Sequence[str] = ()
) -> list[Change]:
    """What is otherwise than when a thing was made; empty where it would come out the same."""
    before = {(one.what, one.track, one.address): one for one in made.made_of}
    changes = []
    for part in _parts(folder, project, item, files):
        then = before.pop((part.what, part.track, part.address), None)
        revision = _revision(folder, project, part)
        if then and then.revision == revision and part.address:
            continue
        if then and then.digest == _digest(folder, project, part):
            continue
        count = 1
        if part.what == "captions" and then:
            count = len(folder.log.since(project.id, part.address, then.revision).touched)
        changes.append(Change(part.what, part.track, max(count, 1)))
    return [*changes, *(Change(one.what, one.track, 1) for one in before.values())]


def _parts(
    folder: DataFolder, project: Project, item: Item, files: Sequence[str]
) -> Iterator[_Part]:
    thing = item.thing
    yield _Part("settings", None, "", ITEM.dump_python(Item(thing), mode="json"))
    yield _Part("title", None, "", project.title)
    for track in dict.fromkeys(tracks_in(thing)):
        yield from _parts_of_track(project, track)
        if isinstance(thing, Report | Timeline):
            yield _Part("waivers", track, waivers_of(track), None)
    if tracks := list(tracks_in(thing)):
        yield _Part("styles", None, "", project.records[STYLES])
        yield _Part("speakers", None, "", project.records[SPEAKERS])
        if version := _version_of(thing):
            versions, _ = folder.log.record(project.id, versions_of(tracks[0]))
            yield _Part("version", tracks[0], "", versions.get(version))
            yield _Part("version", tracks[0], apart_in(tracks[0], version), None)
    if isinstance(thing, BurnedFilm | CaptionsAlone | FilmWithTracks | Timeline | Report):
        yield _Part("film", None, "", [project.film.id, str(project.film.rate.fraction)])
    if isinstance(thing, Report) and project.film.id:
        yield _Part("shots", None, shots_in(project.film.id), None)
    if isinstance(thing, Transcript | WordsAbout):
        yield _Part("words", None, TRANSCRIPT, project.words_run)
    if isinstance(thing, WordsAbout):
        yield _Part("about", None, ABOUT, None)
    if isinstance(thing, WordsAbout) and not project.words_run:
        yield from _parts_of_track(project, project.tracks[0].id)
    if isinstance(thing, Report):
        yield _Part("files", None, "", list(files))


def _parts_of_track(project: Project, track: str) -> Iterator[_Part]:
    yield _Part("captions", track, captions_of(track), None)
    entry = project.records[TRACKS].get(track, {})
    yield _Part("track", track, "", {key: value for key, value in entry.items() if key != "at"})
    if track in project.records[TRACKS]:
        yield _Part("spec", track, "", repr(project.spec_of(track)))


def _version_of(thing: Thing) -> str | None:
    return thing.version if isinstance(thing, BurnedFilm | CaptionsAlone) else None


def _revision(folder: DataFolder, project: Project, part: _Part) -> int:
    return folder.log.revision(project.id, part.address) or 0 if part.address else 0


def _digest(folder: DataFolder, project: Project, part: _Part) -> str:
    value = part.value
    if value is None and part.address:
        target = Target.at(part.address)
        if target.kind == "captions" and target.track in project.records[TRACKS]:
            track, _ = folder.log.track_of(project.id, str(target.track))
            # In the order in which they are shown; what they say is told whole by how they are written in Python.
            return sha256("\n".join(map(repr, track)).encode()).hexdigest()
        value, _ = folder.log.record(project.id, part.address)
    if part.what == "words":
        # The words are a run and its edits, and their revision tells of both.
        value = [value, _revision(folder, project, part)]
    return sha256(json.dumps(value, sort_keys=True, default=str).encode()).hexdigest()
