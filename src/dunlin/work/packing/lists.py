"""The packing lists of a project, and those of the house, which any project can take."""

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date
from typing import Annotated

from pydantic import Field, TypeAdapter

from dunlin.core.delivery.model import (
    DELIVERY,
    ITEM,
    PATTERN,
    BurnedFilm,
    CaptionFile,
    CaptionsAlone,
    Delivery,
    Item,
    Thing,
    tracks_in,
    with_tracks,
)
from dunlin.core.delivery.names import name_by_pattern, told_apart
from dunlin.core.delivery.naming import what_it_is
from dunlin.core.messages import Told, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import DELIVERIES, PACKING_LISTS, TRACKS, items_of
from dunlin.core.specs import for_language
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = [
    "HOUSE_LIST",
    "HouseList",
    "PackingList",
    "UnknownDelivery",
    "as_house_list",
    "delivery_of",
    "forget_house_list",
    "house_lists",
    "keep_house_list",
    "lists_of",
    "names_on",
    "put_delivery",
    "put_items",
    "take_house_list",
    "written_house_list",
]


class UnknownDelivery(Told, LookupError):
    """There is no packing list, or nothing on it, of that id."""

    def __init__(self) -> None:
        super().__init__(message("packing.gone"))


@dataclass(frozen=True)
class PackingList:
    """A packing list with what is on it, in its order."""

    delivery: Delivery
    items: Mapping[str, Item]
    revision: int
    """The project's, when the list or its items were last changed."""


def lists_of(folder: DataFolder, project_id: str) -> dict[str, PackingList]:
    """A project's packing lists by their ids, in their order."""
    entries, _ = folder.log.record(project_id, DELIVERIES)
    found = {id_: DELIVERY.validate_python(entry) for id_, entry in entries.items()}
    ordered = sorted(found.items(), key=lambda entry: (entry[1].place, entry[0]))
    return {id_: _with_items(folder, project_id, id_, delivery) for id_, delivery in ordered}


def delivery_of(folder: DataFolder, project_id: str, id_: str) -> PackingList:
    """:raises UnknownDelivery: when the project has none of that id"""
    entries, _ = folder.log.record(project_id, DELIVERIES)
    if id_ not in entries:
        raise UnknownDelivery
    return _with_items(folder, project_id, id_, DELIVERY.validate_python(entries[id_]))


def _with_items(folder: DataFolder, project_id: str, id_: str, delivery: Delivery) -> PackingList:
    entries, revision = folder.log.record(project_id, items_of(id_))
    items = {key: ITEM.validate_python(entry) for key, entry in entries.items()}
    ordered = sorted(items.items(), key=lambda entry: (entry[1].place, entry[0]))
    changed = max(revision or 0, folder.log.revision(project_id, DELIVERIES) or 0)
    return PackingList(delivery, dict(ordered), changed)


def put_delivery(
    folder: DataFolder,
    project_id: str,
    id_: str,
    delivery: Delivery | None,
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> Done:
    """Makes the list of that id this one, or a new one; None takes it away, and it comes back with what is on it.

    :raises Outdated: when another window changed it since
    """
    entry = None if delivery is None else DELIVERY.dump_python(delivery, mode="json")
    step = Step(DELIVERIES, SetEntries({id_: entry}), base)
    return folder.log.edit(project_id, [step], author, key=key)


def put_items(
    folder: DataFolder,
    project_id: str,
    delivery_id: str,
    items: Mapping[str, Item | None],
    author: Author,
    *,
    base: int | None = None,
    key: str | None = None,
) -> Done:
    """Makes what is on a list under these ids this; None takes it off.

    :raises Outdated: when another window changed one of them since
    """
    entries = {
        id_: None if item is None else ITEM.dump_python(item, mode="json")
        for id_, item in items.items()
    }
    step = Step(items_of(delivery_id), SetEntries(entries), base)
    return folder.log.edit(project_id, [step], author, key=key)


def names_on(project: Project, packing: PackingList) -> dict[str, str]:
    """What everything on a list is called today, by the ids; no two alike."""
    named = [_name(project, packing.delivery, item) for item in packing.items.values()]
    return dict(zip(packing.items, told_apart(named), strict=True))


def _name(project: Project, delivery: Delivery, item: Item) -> str:
    thing = item.thing
    there = [track for track in tracks_in(thing) if track in project.records[TRACKS]]
    first = there[0] if there else None
    spec = project.spec_of(first)
    if first:
        spec = for_language(spec, project.track(first).language)
    pattern = item.name or delivery.pattern
    if not item.name and isinstance(thing, CaptionFile) and delivery.pattern == PATTERN:
        # What the client asks caption files to be called.
        pattern = spec.file_name or pattern
    what, ending = what_it_is(thing)
    values = {
        "title": project.title,
        "language": "-".join(dict.fromkeys(project.track(track).language for track in there)),
        "what": what,
        "version": str(delivery.version),
        "date": date.today().isoformat(),
        "spec": spec.name,
        "list": delivery.name,
    }
    return name_by_pattern(pattern, values, ending)


@dataclass(frozen=True)
class HouseList:
    """A packing list for any project. In the place of a track it names the language of one, or `original` for the first.

    Versions of tracks are of one project, so it has none.
    """

    name: Annotated[str, Field(min_length=1, max_length=200)]
    items: Annotated[tuple[Item, ...], Field(max_length=500)]
    pattern: Annotated[str, Field(max_length=300)] = PATTERN


ORIGINAL = "original"
HOUSE_LIST: TypeAdapter[HouseList] = TypeAdapter(HouseList)


def house_lists(folder: DataFolder) -> dict[str, HouseList]:
    """The lists of the house by their ids, in the order of their names."""
    entries, _ = folder.log.record(HOUSE, PACKING_LISTS)
    found = {id_: HOUSE_LIST.validate_python(entry) for id_, entry in entries.items()}
    return dict(sorted(found.items(), key=lambda entry: (entry[1].name.casefold(), entry[0])))


def as_house_list(project: Project, packing: PackingList) -> HouseList:
    """A project's list for any project. What is made of tracks that are gone is left out."""
    first = project.tracks[0].id
    languages = {
        track.id: ORIGINAL if track.id == first else track.language for track in project.tracks
    }
    items = tuple(
        replace(item, thing=with_tracks(_without_version(item.thing), languages))
        for item in packing.items.values()
        if all(track in languages for track in tracks_in(item.thing))
    )
    return HouseList(packing.delivery.name, items, packing.delivery.pattern)


def _without_version(thing: Thing) -> Thing:
    if isinstance(thing, BurnedFilm | CaptionsAlone):
        return replace(thing, version=None)
    return thing


def written_house_list(list_: HouseList) -> bytes:
    """A list as the JSON that `dunlin deliver --list` reads."""
    return HOUSE_LIST.dump_json(list_, indent=2, exclude_defaults=True)


def keep_house_list(
    folder: DataFolder, id_: str, list_: HouseList, author: Author, *, key: str | None = None
) -> Done:
    """Keeps a list in the house, for every project."""
    entry = HOUSE_LIST.dump_python(list_, mode="json")
    step = Step(PACKING_LISTS, SetEntries({id_: entry}))
    return folder.log.edit(HOUSE, [step], author, key=key)


def forget_house_list(
    folder: DataFolder, id_: str, author: Author, *, key: str | None = None
) -> Done:
    """Takes a list out of the house; projects keep what they took of it."""
    step = Step(PACKING_LISTS, SetEntries({id_: None}))
    return folder.log.edit(HOUSE, [step], author, key=key)


def take_house_list(
    folder: DataFolder,
    project: Project,
    id_: str,
    author: Author,
    *,
    delivery_id: str | None = None,
    key: str | None = None,
) -> str:
    """Puts a list of the house into a project, in one edit. What is made of tracks in languages that the project has not
    stays on it, and says so.

    :returns: id of the project's list
    :raises UnknownDelivery: when the house has none of that id
    """
    lists = house_lists(folder)
    if id_ not in lists:
        raise UnknownDelivery
    kept = lists[id_]
    new = delivery_id or uuid.uuid4().hex[:12]
    there, _ = folder.log.record(project.id, DELIVERIES)
    place = max((entry["place"] for entry in there.values()), default=0.0) + 1
    delivery = Delivery(kept.name, place, kept.pattern, taken_from=id_)
    items = {
        f"{new}-{number}": replace(
            item, place=float(number), thing=for_project(project, item.thing)
        )
        for number, item in enumerate(kept.items, 1)
    }
    steps = [
        Step(DELIVERIES, SetEntries({new: DELIVERY.dump_python(delivery, mode="json")})),
        Step(
            items_of(new),
            SetEntries({key: ITEM.dump_python(item, mode="json") for key, item in items.items()}),
        ),
    ]
    folder.log.edit(project.id, steps, author, key=key)
    return new


def for_project(project: Project, thing: Thing) -> Thing:
    """A thing of a list of the house, made of the tracks of a project; a language that no track is in stays in its place."""
    named = {name: _track_in(project, name) for name in tracks_in(thing)}
    return with_tracks(thing, named)


def _track_in(project: Project, name: str) -> str:
    if name == ORIGINAL:
        return project.tracks[0].id
    exact = (track.id for track in project.tracks if track.language.lower() == name.lower())
    alike = (
        track.id
        for track in project.tracks
        if track.language.split("-")[0].lower() == name.split("-")[0].lower()
    )
    return next(exact, None) or next(alike, None) or name
