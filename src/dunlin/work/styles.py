"""The styles of a project: one list, used by its captions and speakers; and those that are kept for all projects."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from dunlin.core.captions import Caption, Change, ChangeCaptions, Look
from dunlin.core.captions.look import look_of_stored, stored_look
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.records import Record
from dunlin.core.project.targets import SPEAKERS, STYLES, TRACKS, apart_in, versions_of
from dunlin.core.styles import StyleSheet, sheet_with
from dunlin.store.house import HOUSE
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.replacing import track_entry
from dunlin.work.speaking import new_speakers

__all__ = [
    "KeptStyle",
    "change_style",
    "font_specimens_of",
    "give_speaker_style",
    "keep_style",
    "keep_styles",
    "kept_styles",
    "let_go_of_style",
    "make_default",
    "remove_style",
    "rename_style",
    "sheet_of",
    "specimens_of",
    "style_step",
    "styles_of_file",
    "styles_of_speakers",
    "take_style",
]

_Entry = Mapping[str, Any]

_SPECIMEN_WORDS = 4
"""Words that tell a style."""


@dataclass(frozen=True)
class KeptStyle:
    """A style that is kept for all projects."""

    name: str
    look: Look
    default: bool
    """Whether new projects begin with it."""


def sheet_of(
    project: Project,
    track_id: str,
    instead: Mapping[str, Look] | None = None,
    default: str | None = None,
) -> StyleSheet:
    """The styles of a project by name, and what the styles of its speakers say, for words in the language of a
    track.

    :param instead: styles that are taken to be others, or there, for this once
    :param default: name of the style of captions that name none, where that is not the track's
    """
    track = project.track(track_id)
    styles = {**project.styles, **(instead or {})}
    sheet = sheet_with(styles, default if default in styles else track.style)
    speakers = {
        name: styles[style]
        for name, style in styles_of_speakers(project).items()
        if style in styles
    }
    return replace(sheet, speakers=speakers).in_language(track.language)


def styles_of_speakers(project: Project) -> dict[str, str]:
    """The name of the style that each speaker has, of those that have one."""
    entries = project.records[SPEAKERS]
    return {name: entry["style"] for name, entry in entries.items() if entry.get("style")}


def give_speaker_style(
    folder: DataFolder,
    project: Project,
    speaker: str,
    name: str | None,
    author: Author,
    *,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Sets all that a speaker says in a style, or takes it away again.

    :returns: None when it is so already
    :raises BadInput: when there is no such style
    """
    if name is not None:
        _needs(project.records[STYLES], name)
    entries = {**project.records[SPEAKERS], **new_speakers(project, [speaker])}
    entry = entries[speaker]
    if entry.get("style") == name:
        return None
    step = Step(SPEAKERS, SetEntries({speaker: {**entry, "style": name}}))
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key)


def change_style(
    folder: DataFolder,
    project: Project,
    name: str,
    look: Look,
    author: Author,
    *,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Makes a style of this look: a new one at the end of the list, or the one of that name.

    :param base: the project's revision that it was made of
    :returns: None when it looks so already
    :raises Outdated: when another window changed the style since
    """
    step = style_step(project, name, look, base)
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key) if step else None


def style_step(project: Project, name: str, look: Look, base: int | None = None) -> Step | None:
    """The step that makes a style of this look, or the one of that name look so; None when it does already."""
    entries = project.records[STYLES]
    was = entries.get(name)
    at = was["at"] if was else _next(entries)
    entry = {**(was or {}), "at": at, "look": stored_look(look)}
    return None if entry == was else Step(STYLES, SetEntries({name: entry}), base)


def styles_of_file(project: Project, styles: Mapping[str, Look]) -> Step | None:
    """The step that makes the styles of a file the project's, in the place of those of their names."""
    entries = project.records[STYLES]
    first = _next(entries)
    wanted = {
        name: {
            "at": entries[name]["at"] if name in entries else first + n,
            "look": stored_look(look),
        }
        for n, (name, look) in enumerate(styles.items())
    }
    changed = {name: entry for name, entry in wanted.items() if entries.get(name) != entry}
    return Step(STYLES, SetEntries(changed)) if changed else None


def _next(entries: Mapping[str, _Entry]) -> int:
    return 1 + max((entry["at"] for entry in entries.values()), default=-1)


def rename_style(
    folder: DataFolder,
    project: Project,
    name: str,
    new: str,
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Gives a style another name, wherever it is used.

    :raises BadInput: when there is no such style, or another has that name
    """
    entries = project.records[STYLES]
    _needs(entries, name)
    if new in entries:
        raise BadInput(message("styles.same-name", name=new))
    renamed = Step(STYLES, SetEntries({name: None, new: entries[name]}))
    steps = [renamed, *_exchanged(folder, project, name, new)]
    return folder.log.edit(project.id, steps, author, key=key)


def remove_style(
    folder: DataFolder,
    project: Project,
    name: str,
    instead: str | None,
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Takes a style away; what uses it gets another, or none.

    :raises BadInput: when one of the two is not there
    """
    _needs(project.records[STYLES], name)
    if instead is not None:
        _needs(project.records[STYLES], instead)
    steps = [Step(STYLES, SetEntries({name: None})), *_exchanged(folder, project, name, instead)]
    return folder.log.edit(project.id, steps, author, key=key)


def _needs(entries: Mapping[str, _Entry], name: str) -> None:
    if name not in entries:
        raise BadInput(message("styles.unknown", name=name))


def _exchanged(folder: DataFolder, project: Project, name: str, new: str | None) -> Iterable[Step]:
    """The steps that give all captions, speakers, tracks and versions that use a style another, or none."""
    for track in project.tracks:
        captions, _ = folder.log.track(track.id)
        using = tuple(Change(caption=c.id, style=new) for c in captions if c.style == name)
        if using:
            yield Step(captions_of(track.id), ChangeCaptions(using))
        if track.style == name:
            yield Step(
                TRACKS, SetEntries({track.id: track_entry(project, track.id) | {"style": new}})
            )
        versions, _ = folder.log.record(project.id, versions_of(track.id))
        for address in (versions_of(track.id), *(apart_in(track.id, id_) for id_ in versions)):
            yield from _exchanged_in(address, folder.log.record(project.id, address)[0], name, new)
    yield from _exchanged_in(SPEAKERS, project.records[SPEAKERS], name, new)


def _exchanged_in(address: str, entries: Record, name: str, new: str | None) -> Iterable[Step]:
    """The step that gives all entries that name a style another, or none; no step where none does."""
    using = {
        key: {**entry, "style": new} for key, entry in entries.items() if entry.get("style") == name
    }
    if using:
        yield Step(address, SetEntries(using))


def make_default(
    folder: DataFolder,
    project: Project,
    track_id: str,
    name: str | None,
    author: Author,
    *,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Makes a style that of all captions of a track that name none; None for the one that ships.

    :raises BadInput: when there is no such style
    """
    if name is not None:
        _needs(project.records[STYLES], name)
    before = track_entry(project, track_id)
    after = before | {"style": name}
    if before.get("style") == name:
        return None
    step = Step(TRACKS, SetEntries({track_id: after}))
    return folder.log.edit(project.id, [step], author, gesture=gesture, key=key)


def kept_styles(folder: DataFolder) -> dict[str, KeptStyle]:
    """The styles that are kept for all projects, by name."""
    entries, _ = folder.log.record(HOUSE, STYLES)
    return {
        name: KeptStyle(name, look_of_stored(entry["look"]), bool(entry.get("default")))
        for name, entry in sorted(entries.items())
    }


def keep_style(
    folder: DataFolder, name: str, look: Look, author: Author, *, default: bool | None = None
) -> Done | None:
    """Keeps a style for all projects, in the place of one of that name; one alone is that of new projects.

    :param default: whether it is the style of new projects; None leaves that as it is
    """
    entries, _ = folder.log.record(HOUSE, STYLES)
    was = entries.get(name, {})
    entry = {
        "look": stored_look(look),
        "default": was.get("default", False) if default is None else default,
    }
    wanted: dict[str, Any] = {name: entry}
    if default:
        wanted |= {
            other: {**kept, "default": False}
            for other, kept in entries.items()
            if other != name and kept.get("default")
        }
    wanted = {key: value for key, value in wanted.items() if entries.get(key) != value}
    return folder.log.edit(HOUSE, [Step(STYLES, SetEntries(wanted))], author) if wanted else None


def keep_styles(
    folder: DataFolder, styles: Mapping[str, Look], author: Author, *, key: str | None = None
) -> Done | None:
    """Keeps styles for all projects in one edit, in the place of those of their names; None when all are kept so."""
    entries, _ = folder.log.record(HOUSE, STYLES)
    wanted = {
        name: {"default": False, **entries.get(name, {}), "look": stored_look(look)}
        for name, look in styles.items()
    }
    wanted = {name: entry for name, entry in wanted.items() if entries.get(name) != entry}
    return (
        folder.log.edit(HOUSE, [Step(STYLES, SetEntries(wanted))], author, key=key)
        if wanted
        else None
    )


def let_go_of_style(folder: DataFolder, name: str, author: Author) -> bool:
    """Keeps a style no longer for all projects; those that took it have it still. False when it was not kept."""
    entries, _ = folder.log.record(HOUSE, STYLES)
    if name not in entries:
        return False
    folder.log.edit(HOUSE, [Step(STYLES, SetEntries({name: None}))], author)
    return True


def take_style(
    folder: DataFolder, project: Project, name: str, author: Author, *, key: str | None = None
) -> Done | None:
    """Copies a kept style into a project, in the place of one of that name.

    :raises BadInput: when none of that name is kept
    """
    kept = kept_styles(folder).get(name)
    if kept is None:
        raise BadInput(message("styles.unknown", name=name))
    return change_style(folder, project, name, kept.look, author, key=key)


def specimens_of(
    folder: DataFolder, project: Project, track_id: str
) -> tuple[StyleSheet, dict[str, str]]:
    """All styles that can be chosen for a track, those of the project first, and some words for each: of a caption
    that is set in it, or of any."""
    own = project.styles
    kept = {name: style.look for name, style in kept_styles(folder).items() if name not in own}
    captions, _ = folder.log.track(track_id)
    said = {
        caption.style or project.track(track_id).style: caption
        for caption in reversed(list(captions))
    }
    usual = next((caption for caption in captions if caption.text.strip()), None)
    words = {name: _first_words(said.get(name) or usual, name) for name in (*own, *kept)}
    return sheet_of(project, track_id, kept), words


def font_specimens_of(
    folder: DataFolder, project: Project, track_id: str, caption_id: str, families: Iterable[str]
) -> tuple[StyleSheet, dict[str, str]]:
    """The words of a caption in its own look, but each time in another family of fonts, by the families' names.

    :raises BadInput: when there is no such caption
    """
    captions, _ = folder.log.track(track_id)
    if caption_id not in captions:
        raise BadInput(message("edits.no-such-caption", caption=caption_id))
    caption = captions.by_id[caption_id]
    sheet = sheet_of(project, track_id)
    look = sheet.style_of(caption)
    styles = {name: replace(look, id=name, name=name, font=name) for name in families}
    return replace(sheet, styles=styles), dict.fromkeys(styles, _first_words(caption, ""))


def _first_words(caption: Caption | None, name: str) -> str:
    words = (caption.text if caption else "").split()[:_SPECIMEN_WORDS]
    return " ".join(words) or name
