"""A translation: begun from a track or from words, linked to its source, confirmed caption by caption."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Literal, TypeAlias

from dunlin.core.captions import Caption, Conflict, Track
from dunlin.core.language.links.by_words import agree_in_time, links_by_words
from dunlin.core.language.links.following import links_by_time
from dunlin.core.language.links.model import (
    Link,
    Progress,
    link_of_stored,
    said_by_sources,
    stored_link,
)
from dunlin.core.language.memory.pairs import Pair, in_one_line
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import TRACKS, links_of
from dunlin.store.log import Author, Done, Step, UnknownTrack, new_caption_id
from dunlin.store.memory import Remembered
from dunlin.store.projects import Project
from dunlin.work.against import source_of
from dunlin.work.folder import DataFolder
from dunlin.work.making import make_captions
from dunlin.work.replacing import new_track, track_entry
from dunlin.work.specs import taking_spec

__all__ = [
    "Beginning",
    "begin_translation",
    "links_between",
    "links_in",
    "remember",
    "remembered_for",
    "set_progress",
    "translate_from",
]

Beginning: TypeAlias = Literal["captions", "words", "nothing"]
"""What a translation begins with: the captions of its source without their words, captions that are made of what is
spoken by its own spec, also without words, or none."""


def begin_translation(
    folder: DataFolder,
    project: Project,
    source_id: str | None,
    language: str,
    author: Author,
    *,
    name: str = "",
    spec_id: str | None = None,
    beginning: Beginning = "captions",
    key: str | None = None,
) -> Done:
    """Adds a track in another language, linked to the one that it translates.

    :param source_id: None to translate from listening alone
    :param spec_id: by which it is judged; None is the project's
    :raises UnknownTrack: when the project has no such source
    :raises NoWords: when it shall begin with captions of words, and there are none
    """
    source = Track()
    if source_id is not None:
        if source_id not in project.records[TRACKS]:
            raise UnknownTrack
        source, _ = folder.log.track(source_id)
    fields = {"name": name, "language": language, "spec": spec_id, "translates": source_id}
    links: dict[str, Link] = {}
    captions: tuple[Caption, ...] = ()
    if beginning == "captions":
        pairs = [(replace(one, id=new_caption_id()), one.id) for one in source if not one.is_shape]
        captions = tuple(_without_words(new) for new, _ in pairs)
        links = {new.id: Link((old,)) for new, old in pairs}
    elif beginning == "words":
        spec = folder.projects.specs().get(spec_id or "", project.spec_of())
        made, _ = make_captions(folder, project, project.tracks[0].id, Track(), spec=spec)
        captions = tuple(_without_words(replace(c, id=new_caption_id())) for c in made.captions)
        links = links_by_time(captions, source)
    track_id, steps = new_track(folder, project, captions, **fields)
    steps += taking_spec(folder, project, spec_id)
    if links:
        entries = {id_: stored_link(link) for id_, link in links.items()}
        steps.append(Step(links_of(track_id), SetEntries(entries)))
    return folder.log.edit(project.id, steps, author, key=key)


def _without_words(caption: Caption) -> Caption:
    return replace(caption, spans=(), extras=(), made=None)


def translate_from(
    folder: DataFolder,
    project: Project,
    track_id: str,
    source_id: str | None,
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Makes a track the translation of another one, or of none; its captions are linked by their times, or where these are
    other ones, by what they say.

    What was confirmed stays so where a caption is linked to the same captions as before.

    :raises UnknownTrack: when the project has no such source
    :raises Conflict: when that one is translated from this one itself
    """
    entry = track_entry(project, track_id)
    steps = [Step(TRACKS, SetEntries({track_id: entry | {"translates": source_id}}))]
    if source_id is not None:
        _refuse_circle(project, track_id, source_id)
        known = links_in(folder, project, track_id)
        track, _ = folder.log.track(track_id)
        source, _ = folder.log.track(source_id)
        languages = project.track(source_id).language, project.track(track_id).language
        found = links_between(source, track, *languages)
        entries = {
            id_: stored_link(link)
            for id_, link in found.items()
            if id_ not in known or known[id_].sources != link.sources
        }
        steps.append(Step(links_of(track_id), SetEntries(entries)))
    return folder.log.edit(project.id, steps, author, key=key)


def links_between(source: Track, track: Track, language: str, target: str) -> dict[str, Link]:
    """The captions of a track linked to those of another one by their times, or where these are other ones, by what they say."""
    captions, said = ([one for one in each if one.text.strip()] for each in (track, source))
    by_time = links_by_time((one for one in track if not one.is_shape), source)
    if agree_in_time(said, captions) or len(captions) + len(said) > _MOST_PAIRED:
        return by_time
    return by_time | links_by_words(said, captions, language, target)


_MOST_PAIRED = 4_000
"""So many captions are paired by what they say within seconds."""


def _refuse_circle(project: Project, track_id: str, source_id: str) -> None:
    if source_id not in project.records[TRACKS]:
        raise UnknownTrack
    seen: set[str] = set()
    at: str | None = source_id
    while at is not None and at not in seen:
        if at == track_id:
            raise Conflict(message("translating.circle"))
        seen.add(at)
        at = source_of(project, at)


def links_in(folder: DataFolder, project: Project, track_id: str) -> dict[str, Link]:
    """What the captions of a translation know of their source, by their ids."""
    entries, _ = folder.log.record(project.id, links_of(track_id))
    return {id_: link_of_stored(entry) for id_, entry in entries.items()}


def set_progress(
    folder: DataFolder,
    project: Project,
    track_id: str,
    progress: Mapping[str, Progress | None],
    author: Author,
    *,
    base: int | None = None,
    gesture: str | None = None,
    key: str | None = None,
) -> Done | None:
    """Says how far captions of a translation are; a confirmed one is of what its source says now.

    :param base: the revision at which the links were read
    :returns: None when it is so already
    :raises BadInput: when a caption is not in the track
    :raises Outdated: when another window changed one of the links since
    """
    track, _ = folder.log.track(track_id)
    if gone := [id_ for id_ in progress if id_ not in track]:
        raise BadInput(message("edits.no-such-caption", caption=gone[0]))
    source_id = source_of(project, track_id)
    source = folder.log.track(source_id)[0] if source_id else Track()
    entries, _ = folder.log.record(project.id, links_of(track_id))
    changed = {}
    for id_, wanted in progress.items():
        link = link_of_stored(entries[id_]) if id_ in entries else Link()
        now = _at(link, wanted, source)
        if id_ not in entries or now != link:
            changed[id_] = stored_link(now)
    done = None
    if changed:
        step = Step(links_of(track_id), SetEntries(changed), base)
        done = folder.log.edit(project.id, [step], author, gesture=gesture, key=key)
    remember(folder, project, track_id, progress)
    return done


def remember(folder: DataFolder, project: Project, track_id: str, captions: Iterable[str]) -> None:
    """Keeps captions that are confirmed in the memory of all projects, and takes out those that are confirmed no more."""
    source_id = source_of(project, track_id)
    if source_id is None:
        return
    track, source = folder.log.track(track_id)[0], folder.log.track(source_id)[0]
    touched = list(captions)
    languages = project.track(source_id).language, project.track(track_id).language
    entries, _ = folder.log.record(project.id, links_of(track_id))
    pairs = []
    for id_ in touched:
        if id_ not in entries or id_ not in track or entries[id_].get("progress") != "done":
            continue
        said = said_by_sources(source, entries[id_]["sources"])
        text = in_one_line(track[id_].text)
        if said and text:
            pairs.append((Pair(*languages, said, text, project.title), track_id, id_))
    kept = {id_ for _, _, id_ in pairs}
    folder.memory.forget(track_id, [id_ for id_ in touched if id_ not in kept])
    folder.memory.remember(pairs)


def remembered_for(
    folder: DataFolder, project: Project, track_id: str, caption_id: str
) -> list[Remembered]:
    """What was translated before that is like the source of a caption, the most alike first; not the caption itself."""
    source_id = source_of(project, track_id)
    entries, _ = folder.log.record(project.id, links_of(track_id))
    if source_id is None or caption_id not in entries:
        return []
    said = said_by_sources(folder.log.track(source_id)[0], entries[caption_id]["sources"])
    languages = project.track(source_id).language, project.track(track_id).language
    found = folder.memory.like(said, *languages)
    return [one for one in found if (one.track, one.caption) != (track_id, caption_id)]


def _at(link: Link, progress: Progress | None, source: Track) -> Link:
    if progress != "done":
        return replace(link, progress=progress)
    return Link(link.sources, said_by_sources(source, link.sources), "done")
