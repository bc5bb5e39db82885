"""Who speaks: names that stand in the list of speakers, at words and at captions, changed together."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from dunlin.core.captions import Change, ChangeCaptions
from dunlin.core.project import (
    PlacedWord,
    ReplaceWords,
    SetEntries,
    captions_of,
    entries_between,
)
from dunlin.core.project.targets import SPEAKERS, TRANSCRIPT
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = ["NEW_SPEAKER_COLOUR", "add_speakers", "new_speakers", "set_speakers"]

NEW_SPEAKER_COLOUR = "#396370"
"""Of speakers that a file names and that have no colour yet."""


def set_speakers(
    folder: DataFolder,
    project: Project,
    speakers: Iterable[Mapping[str, str]],
    renamed: Mapping[str, str],
    author: Author,
    *,
    base: int | None,
    key: str | None = None,
) -> Done | None:
    """Sets who speaks; those who are called otherwise now are so in the transcript and in all captions.

    All names change at once, so that two may take each other's.

    :param speakers: name and colour of each, in the order of their keys
    :param renamed: new names by old ones
    :param base: the project's revision that the list was made of
    :returns: None when nothing is another
    :raises Outdated: when somebody else changed the speakers since
    """
    after = {
        speaker["name"]: {
            **project.records[SPEAKERS].get(_was(speaker["name"], renamed), {}),
            "at": at,
            "colour": speaker["colour"],
        }
        for at, speaker in enumerate(speakers)
    }
    steps = [
        Step(SPEAKERS, SetEntries(entries), base, whole=True)
        if (entries := entries_between(project.records[SPEAKERS], after))
        else None,
        _in_transcript(folder, project, renamed),
        *(_in_captions(folder, track.id, renamed) for track in project.tracks),
    ]
    wanted = [step for step in steps if step]
    return folder.log.edit(project.id, wanted, author, key=key) if wanted else None


def _was(name: str, renamed: Mapping[str, str]) -> str:
    return next((old for old, new in renamed.items() if new == name), name)


def _in_transcript(folder: DataFolder, project: Project, renamed: Mapping[str, str]) -> Step | None:
    if not renamed or project.words_run is None:
        return None
    put = tuple(
        PlacedWord(placed.position, replace(placed.word, speaker=renamed[speaker]))
        for placed in folder.words.placed(project.id, project.words_run)
        if (speaker := placed.word.speaker) is not None and speaker in renamed
    )
    edit = ReplaceWords(tuple(placed.position for placed in put), put)
    return Step(TRANSCRIPT, edit) if put else None


def _in_captions(folder: DataFolder, track_id: str, renamed: Mapping[str, str]) -> Step | None:
    track, _ = folder.log.track(track_id)
    changes = []
    for caption in track:
        change = Change(caption=caption.id)
        if caption.speaker is not None and caption.speaker in renamed:
            change["speaker"] = renamed[caption.speaker]
        if any(span.voice in renamed for span in caption.spans):
            change["spans"] = tuple(
                replace(span, voice=renamed.get(span.voice, span.voice)) if span.voice else span
                for span in caption.spans
            )
        if len(change) > 1:
            changes.append(change)
    return Step(captions_of(track_id), ChangeCaptions(tuple(changes))) if changes else None


def add_speakers(project: Project, names: Iterable[str]) -> Step | None:
    """The step that adds speakers whom the project does not know yet; None when it knows all."""
    entries = new_speakers(project, names)
    return Step(SPEAKERS, SetEntries(entries)) if entries else None


def new_speakers(project: Project, names: Iterable[str]) -> dict[str, dict[str, Any]]:
    """What is put down of speakers whom the project does not know yet, by their names."""
    known = project.records[SPEAKERS]
    fresh = dict.fromkeys(name for name in names if name not in known)
    return {
        name: {"at": len(known) + n, "colour": NEW_SPEAKER_COLOUR} for n, name in enumerate(fresh)
    }
