"""Translations that go to somebody elsewhere and come back, and those that begin from a file."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from dunlin.core.captions import Caption, Change, ChangeCaptions, Track
from dunlin.core.formats import Context, read_file
from dunlin.core.formats.model import FormatError
from dunlin.core.language.drafts.asking import readable_in
from dunlin.core.language.handover.model import (
    Change as TextChange,
)
from dunlin.core.language.handover.model import HandedOver, Returned, State, Unit, changes_of
from dunlin.core.language.links.model import Link, link_of_stored, said_by_sources, stored_link
from dunlin.core.language.links.script import laid_out
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import TRACKS, links_of
from dunlin.core.scripts import text_of_document
from dunlin.core.specs.rules.reshaping import in_best_lines
from dunlin.store.log import Author, Done, Step, UnknownTrack, new_caption_id
from dunlin.store.projects import Project
from dunlin.work.against import source_of
from dunlin.work.apart import apart
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of
from dunlin.work.replacing import new_track
from dunlin.work.specs import taking_spec
from dunlin.work.translating import links_between, remember

__all__ = ["Begun", "Taken", "begin_from_file", "changes_in", "handed_over", "take_back"]


def handed_over(folder: DataFolder, project: Project, track_id: str) -> HandedOver:
    """A translation as it is handed over. :raises BadInput: when the track translates none"""
    source_id = source_of(project, track_id)
    if source_id is None:
        raise BadInput(message("handover.no-source"))
    track, _ = folder.log.track(track_id)
    source, _ = folder.log.track(source_id)
    entries, _ = folder.log.record(project.id, links_of(track_id))
    speed = judge_of(folder, project, track_id).setting.spec.reading_speed
    units = []
    for caption in track:
        link = link_of_stored(entries[caption.id]) if caption.id in entries else Link()
        said = [source[one].text for one in link.sources if one in source]
        if caption.is_shape:
            continue
        units.append(
            Unit(
                caption.id, caption.in_ms, caption.out_ms, "\n".join(said), caption.text,
                _state(caption, link), readable_in(caption, speed), caption.speaker or "",
            )
        )  # fmt: skip
    languages = project.track(source_id).language, project.track(track_id).language
    return HandedOver(*languages, project.title, units)


def _state(caption: Caption, link: Link) -> State:
    if link.progress == "done":
        return "final"
    return "translated" if caption.text.strip() else "initial"


def changes_in(
    folder: DataFolder, project: Project, track_id: str, returned: Returned
) -> tuple[list[TextChange], list[str]]:
    """What a file would change, and the words of its rows that belong to no caption.

    :raises BadInput: when it is about other languages
    """
    given = handed_over(folder, project, track_id)
    pairs = ((returned.language, given.language), (returned.target, given.target))
    if any(told and _base(told) != _base(own) for told, own in pairs):
        raise BadInput(
            message("handover.other-languages", source=returned.language, target=returned.target)
        )
    changes, lost = changes_of(given.units, returned.rows)
    return changes, [row.target for row in lost]


def _base(language: str) -> str:
    return language.split("-")[0].lower()


@dataclass(frozen=True)
class Taken:
    """A change that is taken in."""

    caption: str
    text: str
    said: str
    """What was translated, in one line."""
    is_confirmed: bool


def take_back(
    folder: DataFolder,
    project: Project,
    track_id: str,
    taken: Sequence[Taken],
    author: Author,
    *,
    base: int,
    gesture: str,
    key: str | None = None,
) -> Done:
    """Puts the words that came back into their captions, in one edit.

    :param base: the revision at which it was told what would change
    :raises BadInput: when a caption is not in the track any more
    :raises Outdated: when another window changed one of the captions since
    """
    track, _ = folder.log.track(track_id)
    entries, _ = folder.log.record(project.id, links_of(track_id))
    changes: list[Change] = []
    links = {}
    for one in taken:
        if one.caption not in track:
            raise BadInput(message("edits.no-such-caption", caption=one.caption))
        changes.append(Change(caption=one.caption, text=one.text))
        link = link_of_stored(entries[one.caption]) if one.caption in entries else Link()
        links[one.caption] = stored_link(
            Link(link.sources, one.said or link.said, "done" if one.is_confirmed else None)
        )
    steps = [
        Step(captions_of(track_id), ChangeCaptions(tuple(changes)), base),
        Step(links_of(track_id), SetEntries(links), base),
    ]
    done = folder.log.edit(project.id, steps, author, gesture=gesture, key=key)
    remember(folder, project, track_id, [one.caption for one in taken if one.is_confirmed])
    return done


@dataclass(frozen=True)
class Begun:
    """A translation that was begun from a file."""

    done: Done
    doubtful: int
    """Captions of which it is not sure that they are paired rightly."""
    left_over: tuple[str, ...]
    """Lines of the file that found no caption."""


def begin_from_file(
    folder: DataFolder,
    project: Project,
    source_id: str,
    language: str,
    data: bytes,
    name: str,
    author: Author,
    *,
    title: str = "",
    spec_id: str | None = None,
    key: str | None = None,
) -> Begun:
    """Adds a track with the words of a file, linked to the one that they translate.

    Captions keep their times, and are linked by these, or where they are of another film, by what they say. The lines of a
    script get the times of what they translate.

    :raises UnknownTrack: when the project has no such source
    :raises FormatError: when the file cannot be read
    """
    if source_id not in project.records[TRACKS]:
        raise UnknownTrack
    source, _ = folder.log.track(source_id)
    context = Context(project.film.rate, language=language)
    captions, lines = apart(_read, data, name, context)
    left_over: tuple[str, ...] = ()
    links: Mapping[str, Link]
    said = project.track(source_id).language
    if lines:
        words = [one for one in source if one.text.strip()]
        laid = laid_out(lines, words, said, language)
        put = [replace(one, id=new_caption_id()) for one in laid.captions]
        links = {one.id: link for one, link in zip(put, laid.links, strict=True)}
        left_over = laid.left_over
        setting = judge_of(folder, project, source_id).setting
        spec = folder.projects.specs().get(spec_id or "", setting.spec)
        there = replace(setting, spec=spec, language=language)
        put = [in_best_lines(one, there) for one in put]
    else:
        put = [replace(one, id=new_caption_id()) for one in captions]
        links = links_between(source, Track.of(put), said, language)
    fields = {"name": title, "language": language, "spec": spec_id, "translates": source_id}
    track_id, steps = new_track(folder, project, tuple(put), **fields)
    steps += taking_spec(folder, project, spec_id)
    entries = {id_: stored_link(_as_said(link, source)) for id_, link in links.items()}
    steps.append(Step(links_of(track_id), SetEntries(entries)))
    done = folder.log.edit(project.id, steps, author, key=key)
    doubtful = sum(link.progress == "doubtful" for link in links.values())
    return Begun(done, doubtful, left_over)


def _as_said(link: Link, source: Track) -> Link:
    """A link that knows what was translated, so that a later change of it is marked."""
    return replace(link, said=said_by_sources(source, link.sources)) if link.sources else link


def _read(data: bytes, name: str, context: Context) -> tuple[tuple[Caption, ...], list[str]]:
    """The captions of a caption file, or the lines of a script."""
    try:
        reading = read_file(data, name, context)
        if reading.format.HOLDS.precision != "none":
            return reading.document.captions, []
    except FormatError:
        if not data.strip():
            raise
    lines = [" ".join(line.split()) for line in text_of_document(data, name).splitlines()]
    said: Iterable[str] = (line for line in lines if line)
    found = list(said)
    if not found:
        raise BadInput(message("translating.no-lines"))
    return (), found
