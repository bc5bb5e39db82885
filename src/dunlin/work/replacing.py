"""Captions from elsewhere put in the place of those a track has."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from dunlin.core.captions import Caption, InsertCaptions, ReplaceCaptions, Track
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import TRACKS
from dunlin.store.log import Author, Done, Step, new_caption_id
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = ["copied_track", "new_track", "put_in_place", "track_entry"]


def put_in_place(
    folder: DataFolder,
    project: Project,
    track_id: str,
    captions: Sequence[Caption],
    author: Author,
    *,
    base: int | None,
    gesture: str,
    key: str | None = None,
    kept: frozenset[str] = frozenset(),
    also: Mapping[str, Any] | None = None,
    before: Sequence[Step] = (),
) -> Done:
    """Makes a track's captions these, in one edit; each gets an id of its own.

    :param base: the revision that they were made of; None is the newest
    :param kept: ids of captions of the track that stay as they are, whether they are among these or not
    :param also: fields of the track that become others with it, such as what a file knew besides
    :param before: what is done first, in the same edit
    :raises Outdated: when the track has changed since its base
    """
    track, _ = folder.log.track(track_id)
    put = tuple(replace(c, id=new_caption_id()) for c in captions if c.id not in kept)
    gone = tuple(caption.id for caption in track if caption.id not in kept)
    steps = [*before, Step(captions_of(track_id), ReplaceCaptions(gone, put), base)]
    if also:
        entry = track_entry(project, track_id) | dict(also)
        steps.append(Step(TRACKS, SetEntries({track_id: entry})))
    return folder.log.edit(project.id, steps, author, gesture=gesture, key=key)


def copied_track(folder: DataFolder, project: Project, track_id: str, track: Track) -> list[Step]:
    """What adds a track that has these captions, in the language of another one."""
    _, steps = new_track(folder, project, tuple(track), **track_entry(project, track_id))
    return steps


def new_track(
    folder: DataFolder, project: Project, captions: tuple[Caption, ...], **fields: Any
) -> tuple[str, list[Step]]:
    """The id of a track that is added to a project with captions, and what adds it."""
    at = 1 + max(other["at"] for other in project.records[TRACKS].values())
    entry = {"name": "", "language": "en", "spec": None, "extras": []} | fields | {"at": at}
    new = folder.projects.make_room_for_track(project.id)
    steps = [Step(TRACKS, SetEntries({new: entry}))]
    return new, [*steps, Step(captions_of(new), InsertCaptions(captions))] if captions else steps


def track_entry(project: Project, track_id: str) -> dict[str, Any]:
    """What the record of a project's tracks says of one."""
    return dict(project.records[TRACKS][track_id])
