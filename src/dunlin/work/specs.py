"""Delivery specs: kept by the house, and taken into a project as they are then."""

from collections.abc import Mapping
from typing import Any

from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import PROJECT, SPECS, TRACKS
from dunlin.core.specs import Spec, shipped_specs
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.replacing import track_entry

__all__ = [
    "change_project",
    "change_track",
    "is_newer_in_house",
    "keep_spec",
    "remove_spec",
    "taking_spec",
]


def keep_spec(folder: DataFolder, spec: Spec, author: Author, *, key: str | None = None) -> Spec:
    """Keeps a spec in the house; one with the id of a shipped one gets an id of its own.

    :returns: the spec as it is kept
    """
    if spec.id in shipped_specs():
        spec = spec.model_copy(update={"id": f"{spec.id}-own"})
    kept = spec.model_dump(mode="json")
    before, _ = folder.log.record(HOUSE, SPECS)
    if before.get(spec.id) != kept:
        folder.log.edit(HOUSE, [Step(SPECS, SetEntries({spec.id: kept}))], author, key=key)
    return spec


def remove_spec(folder: DataFolder, spec_id: str, author: Author) -> bool:
    """Takes a spec out of the house; False when it keeps none of that id. Projects that took it keep it."""
    before, _ = folder.log.record(HOUSE, SPECS)
    if spec_id not in before:
        return False
    folder.log.edit(HOUSE, [Step(SPECS, SetEntries({spec_id: None}))], author)
    return True


def is_newer_in_house(folder: DataFolder, project: Project, track_id: str | None = None) -> bool:
    """Whether the house has another spec by now than the one of that name that is judged by."""
    taken = project.spec_of(track_id)
    return folder.projects.specs().get(taken.id, taken) != taken


def change_project(
    folder: DataFolder,
    project: Project,
    values: Mapping[str, Any],
    author: Author,
    *,
    key: str | None = None,
) -> Done | None:
    """Changes a project's `title`, `rate` or `spec`, which is taken as the house has it now.

    :raises LookupError: when there is no spec of that id
    """
    wanted = {k: v for k, v in values.items() if project.records[PROJECT].get(k) != v}
    steps = [Step(PROJECT, SetEntries(wanted))] if wanted else []
    steps += taking_spec(folder, project, values.get("spec"))
    return folder.log.edit(project.id, steps, author, key=key) if steps else None


def change_track(
    folder: DataFolder,
    project: Project,
    track_id: str,
    values: Mapping[str, Any],
    author: Author,
    *,
    key: str | None = None,
) -> Done | None:
    """Changes a track's `name`, `language` or `spec`; None there is the project's.

    :raises LookupError: when there is no spec of that id
    """
    before = track_entry(project, track_id)
    after = before | dict(values)
    steps = [Step(TRACKS, SetEntries({track_id: after}))] if before != after else []
    steps += taking_spec(folder, project, values.get("spec"))
    return folder.log.edit(project.id, steps, author, key=key) if steps else None


def taking_spec(folder: DataFolder, project: Project, spec_id: str | None) -> list[Step]:
    """The step that copies a spec into a project, where it has none or an older one of that id."""
    if spec_id is None:
        return []
    taken = project.records[SPECS].get(spec_id)
    there = folder.projects.specs().get(spec_id)
    if there is None and taken is None:
        raise BadInput(message("specs.unknown", name=spec_id))
    if there is None or (copy := there.model_dump(mode="json")) == taken:
        return []
    return [Step(SPECS, SetEntries({spec_id: copy}))]
