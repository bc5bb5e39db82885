"""Captions split, broken into lines, and written as a page, by their words and when those are spoken."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal, TypeAlias

from dunlin.core.captions import (
    Caption,
    Change,
    ChangeCaptions,
    Conflict,
    ReplaceCaptions,
    SplitCaption,
    Track,
)
from dunlin.core.making.page import captions_of_page, paragraph
from dunlin.core.messages import message
from dunlin.core.specs import least_gap_ms
from dunlin.core.specs.rules.reshaping import in_best_lines, in_one_line
from dunlin.core.speech.words import split_moment, split_offset
from dunlin.core.timecode import snap
from dunlin.store.log import new_caption_id
from dunlin.store.projects import Project
from dunlin.work.films import end_ms
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of

__all__ = ["Lines", "lines_broken", "page_written", "split_by_words"]

Lines: TypeAlias = Literal["best", "one"]


def split_by_words(
    folder: DataFolder,
    project: Project,
    track_id: str,
    caption_id: str,
    new_id: str,
    *,
    offset: int | None = None,
    at_ms: int | None = None,
) -> SplitCaption:
    """The edit that splits a caption at a character or at a time; the spoken words tell the other.

    :raises Conflict: when the caption is gone, or neither is said
    """
    track, _ = folder.log.track(track_id)
    if caption_id not in track:
        raise Conflict(message("edits.no-such-caption", caption=caption_id))
    caption, judge = track[caption_id], judge_of(folder, project, track_id)
    rate = judge.setting.rate
    words = folder.words.spoken_between(
        project.id, project.words_run, caption.in_ms, caption.out_ms
    )
    place = (caption.in_ms, caption.out_ms, words)
    moment = at_ms
    if offset is None and moment is not None:
        offset = split_offset(caption.text, moment, *place)
    if offset is None:
        raise Conflict(message("edits.split-between-words"))
    if moment is None:
        moment = split_moment(caption.text, offset, *place)
    moment = snap(moment, rate)
    gap_ms = least_gap_ms(judge.setting.spec, rate)
    first_out_ms = max(caption.in_ms + 1, moment - gap_ms)
    if first_out_ms + gap_ms >= caption.out_ms:
        gap_ms = 0
    return SplitCaption(caption_id, offset, first_out_ms, new_id, gap_ms)


def lines_broken(
    folder: DataFolder, project: Project, track_id: str, captions: Sequence[str], lines: Lines
) -> ChangeCaptions:
    """The edit that breaks captions into the best lines by their spec, or makes each one line.

    Those that are so already, and those that are gone, are left out.

    :raises Conflict: when all are so already
    """
    track, _ = folder.log.track(track_id)
    setting = judge_of(folder, project, track_id).setting
    reshaped = in_best_lines if lines == "best" else in_one_line
    there = [track[id_] for id_ in captions if id_ in track]
    changed = [(caption, reshaped(caption, setting)) for caption in there if caption.text.strip()]
    changes = tuple(
        Change(caption=after.id, spans=after.spans)
        for before, after in changed
        if after.spans != before.spans
    )
    if not changes:
        raise Conflict(message("edits.lines-already"))
    return ChangeCaptions(changes)


def page_written(
    folder: DataFolder,
    project: Project,
    track_id: str,
    captions: Sequence[str],
    texts: Sequence[str],
    after: str | None,
) -> ReplaceCaptions:
    """The edit that puts texts in the place of captions that stand in a row.

    Words keep their times, and captions go where their words do.

    :param after: the caption behind which they come where they take the place of none; None is the start
    :raises Conflict: when the captions do not stand in a row
    """
    track, _ = folder.log.track(track_id)
    before, old, next_ = _in_a_row(track, captions, after)
    setting = judge_of(folder, project, track_id).setting
    gap_ms = least_gap_ms(setting.spec, setting.rate)
    from_ms = before.out_ms + gap_ms if before else 0
    end = end_ms(project.film, from_ms, sum(map(len, texts)))
    to_ms = next_.in_ms - gap_ms if next_ else end
    first, last = (old[0].in_ms, old[-1].out_ms) if old else (from_ms, to_ms)
    words = folder.words.spoken_between(project.id, project.words_run, first, last)
    written = captions_of_page(
        old,
        [text for raw in texts if (text := paragraph(raw))],
        [word for word in words if not word.guessed],
        (from_ms, max(from_ms, to_ms)),
        setting.rate,
        gap_ms=gap_ms,
    )
    there = {caption.id: caption for caption in old}
    same = {caption.id for caption in written if there.get(caption.id) == caption}
    put = tuple(
        caption if caption.id in track else replace(caption, id=new_caption_id())
        for caption in written
        if caption.id not in same
    )
    gone = tuple(caption.id for caption in old if caption.id not in same)
    return ReplaceCaptions(gone, put)


def _in_a_row(
    track: Track, ids: Sequence[str], after: str | None
) -> tuple[Caption | None, list[Caption], Caption | None]:
    """The caption before those of the ids, those, and the one after them; captions that say nothing
    may stand between. :raises Conflict: when they do not stand in a row"""
    if missing := next((id_ for id_ in (*ids, after) if id_ and id_ not in track), None):
        raise Conflict(message("edits.no-such-caption", caption=missing))
    first = track.index(ids[0]) if ids else track.index(after) + 1 if after else 0
    last = track.index(ids[-1]) if ids else first - 1
    between = [c for c in (track.at(index) for index in range(first, last + 1)) if c and c.text]
    if [caption.id for caption in between] != list(ids):
        raise Conflict(message("edits.not-neighbours"))
    return track.at(first - 1), between, track.at(last + 1)
