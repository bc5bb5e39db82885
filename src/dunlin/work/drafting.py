"""Drafts of a translation: which captions may have one, and how they are put in without a word lost."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from dunlin.core.captions import Caption, Change, ChangeCaptions, Span, Track
from dunlin.core.language.drafts.asking import neighbours_of, readable_in
from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.language.links.model import Link, link_of_stored, said_by_sources, stored_link
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import links_of
from dunlin.core.specs import Judge
from dunlin.core.specs.rules.reshaping import in_best_lines
from dunlin.store.log import Author, Outdated, Step
from dunlin.store.projects import Project
from dunlin.work.against import source_of, terms_between
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of

__all__ = ["ToDraft", "known_between", "put_drafts", "to_draft"]

_TRIES = 5
"""So often are drafts put in again where other windows write in between."""


@dataclass(frozen=True)
class ToDraft:
    """The captions of a translation that are to have a draft, in their order, and what each is asked for by."""

    source: str
    """BCP 47 tags of the two languages."""
    target: str
    wanted: Mapping[str, Wanted]
    """By the captions' ids."""


def to_draft(
    folder: DataFolder,
    project: Project,
    track_id: str,
    chosen: Collection[str] | None = None,
    *,
    anew: bool = False,
) -> ToDraft:
    """The captions that have something to translate and no words of a person's.

    :param chosen: ids of captions; None is all
    :param anew: whether those that have a draft nobody has written in get another one
    :raises BadInput: when the track translates none
    """
    source_id = source_of(project, track_id)
    if source_id is None:
        raise BadInput(message("drafts.no-source"))
    track, _ = folder.log.track(track_id)
    source, _ = folder.log.track(source_id)
    entries, _ = folder.log.record(project.id, links_of(track_id))
    speed = judge_of(folder, project, track_id).setting.spec.reading_speed
    beside = neighbours_of(source)
    wanted = {}
    for caption in track:
        if (chosen is not None and caption.id not in chosen) or caption.id not in entries:
            continue
        link = link_of_stored(entries[caption.id])
        said = said_by_sources(source, link.sources)
        if said and _is_free(caption, link, anew=anew):
            there = [source[one] for one in link.sources if one in source]
            wanted[caption.id] = Wanted(
                said,
                beside[there[0].id][0],
                beside[there[-1].id][1],
                readable_in(caption, speed),
                there[0].in_ms,
                max(one.out_ms for one in there),
            )
    languages = project.track(source_id).language, project.track(track_id).language
    return ToDraft(*languages, wanted)


def known_between(folder: DataFolder, project: Project, source: str, target: str) -> Known:
    """What people have translated between two languages: the memory of all projects, and the terms of this one."""
    return Known(
        source,
        target,
        lambda text: [one.pair for one in folder.memory.like(text, source, target)],
        terms_between(folder, project, source, target),
    )


def put_drafts(
    folder: DataFolder,
    project: Project,
    track_id: str,
    drafts: Mapping[str, Draft],
    author: Author,
    gesture: str,
    *,
    anew: bool = False,
) -> int:
    """Writes drafts into captions, in lines by the spec, and marks them as such.

    One that a person has written in meanwhile stays as it is.

    :param gesture: that they are part of, so that one undo takes all of a job back
    :returns: how many were put in
    """
    for _ in range(_TRIES):
        track, revision = folder.log.track(track_id)
        entries, _ = folder.log.record(project.id, links_of(track_id))
        source_id = source_of(project, track_id)
        source = folder.log.track(source_id)[0] if source_id else Track()
        judge = judge_of(folder, project, track_id)
        changes, links = [], {}
        for id_, draft in drafts.items():
            if id_ not in track or id_ not in entries:
                continue
            link = link_of_stored(entries[id_])
            if not _is_free(track[id_], link, anew=anew):
                continue
            written = _written(track[id_], draft.text, judge)
            changes.append(Change(caption=id_, spans=written.spans))
            said = said_by_sources(source, link.sources)
            links[id_] = stored_link(
                Link(link.sources, said, "draft", written.text, draft.origin or None)
            )
        if not changes:
            return 0
        steps = [
            Step(captions_of(track_id), ChangeCaptions(tuple(changes)), revision),
            Step(links_of(track_id), SetEntries(links), revision),
        ]
        try:
            folder.log.edit(project.id, steps, author, gesture=gesture)
        except Outdated:
            continue
        return len(changes)
    return 0


def _is_free(caption: Caption, link: Link, *, anew: bool) -> bool:
    """Whether nobody's words are lost where a draft is put into a caption."""
    if caption.is_shape or link.progress == "done":
        return False
    return not caption.text.strip() or (anew and caption.text == link.drafted)


def _written(caption: Caption, text: str, judge: Judge) -> Caption:
    return in_best_lines(replace(caption, spans=(Span(text),)), judge.setting)
