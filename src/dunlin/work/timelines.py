"""Tracks of a project on a timeline."""

from collections.abc import Iterator

from dunlin.core.delivery.model import Timeline as Asked
from dunlin.core.project.targets import TRACKS
from dunlin.core.timecode import FrameRate, first_frame_from
from dunlin.core.timeline.model import (
    FilmClip,
    Mark,
    Timeline,
    clips_in_lanes,
    frame_of_timecode,
)
from dunlin.store.projects import Project
from dunlin.store.waivers import with_waivers
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.styles import styles_of_speakers

__all__ = ["timeline_of"]


def timeline_of(folder: DataFolder, project: Project, asked: Asked) -> Timeline:
    """The film of a project and tracks of it on a timeline.

    :raises BadInput: when its start is no timecode at its rate
    """
    rate = asked.rate or project.film.rate
    start, drop_frame = frame_of_timecode(asked.start, rate)
    there = [track for track in asked.tracks if track in project.records[TRACKS]]
    lanes = []
    for track_id in there:
        info = project.track(track_id)
        captions, _ = folder.log.track(track_id)
        name = " ".join(part for part in (info.language, info.name) if part)
        lanes += clips_in_lanes(captions, rate, name, info.language)
    film = None
    if project.film.id:
        frames = first_frame_from(project.film.duration_ms, rate)
        has_picture = bool(project.film.facts["video_codec"])
        film = FilmClip(project.film.label, frames, has_picture, project.film.has_sound)
    marks = [mark for track in there for mark in _marks(folder, project, track, rate)]
    return Timeline(
        project.title, rate, start, drop_frame, film, lanes, marks if asked.findings else [],
        project.styles, project.track(there[0]).style if there else None, styles_of_speakers(project),
    )  # fmt: skip


def _marks(folder: DataFolder, project: Project, track_id: str, rate: FrameRate) -> Iterator[Mark]:
    """What is found in a track, where it is."""
    track, _ = folder.log.track(track_id)
    judge = judge_of(folder, project, track_id)
    waived = waivers_in(folder, project.id, track_id, track)
    for finding in with_waivers(judge.findings(track), waived):
        first = first_frame_from(finding.in_ms, rate)
        end = max(first_frame_from(finding.out_ms, rate), first + 1)
        if finding.waived is None:
            yield Mark(first, end, finding.rule, str(finding.message), finding.weight == "error")
