"""Captions that stand on something in the picture: the path it goes, and how they go along with it."""

import json
from dataclasses import asdict, dataclass
from pathlib import Path as File

from dunlin.core.captions import Caption
from dunlin.core.captions.look import Moment
from dunlin.core.messages import BadInput, NotNow, message
from dunlin.core.styles import raised_by
from dunlin.core.styles.following import Path, Seen, Stood, moments_along
from dunlin.core.styles.holding import frame_of
from dunlin.core.styles.moments import at_moment
from dunlin.core.timecode import frame_at, start_of_frame
from dunlin.media.burn import script_size
from dunlin.media.drafts import whole_file
from dunlin.media.probe import probe_from
from dunlin.store.jobs import Job
from dunlin.store.projects import Project
from dunlin.work.films import needs_film
from dunlin.work.folder import DataFolder
from dunlin.work.styles import sheet_of

__all__ = ["Stuck", "keep_path", "needs_picture", "path_of", "stuck"]

_WITHIN_PX = 0.3
"""So far may a caption be from where it was seen to go, in pixels of the picture."""


@dataclass(frozen=True)
class Stuck:
    """What keeps a caption on its path: its times, and its moments in them."""

    in_ms: int
    out_ms: int
    moments: tuple[Moment, ...]


def needs_picture(project: Project) -> None:
    """:raises NotNow: until a film is brought in
    :raises BadInput: when the film is sound alone
    """
    needs_film(project)
    if not project.film.facts["video_codec"]:
        raise BadInput(message("follow.no-picture"))


def keep_path(folder: File, job_id: str, path: Path) -> None:
    """Keeps a path beside its film."""
    with whole_file(_file(folder, job_id)) as draft:
        draft.write_text(json.dumps(asdict(path)))


def path_of(folder: DataFolder, job: Job) -> Path:
    """The path that a job found in the film that its project shows.

    :raises NotNow: while it has found none, or when another film came in its place
    """
    if job.film_id != folder.projects.get(job.project_id).film.id:
        raise NotNow(message("follow.no-path-yet"))
    film = folder.films.get(job.film_id or "")
    file = _file(folder.film_folder(film), job.id)
    if job.kind != "follow" or not file.is_file():
        raise NotNow(message("follow.no-path-yet"))
    read = json.loads(file.read_text())
    return Path(read["width"], read["height"], tuple(Seen(**seen) for seen in read["seen"]))


def _file(folder: File, job_id: str) -> File:
    return folder / f"path-{job_id}.json"


def stuck(
    folder: DataFolder,
    project: Project,
    track_id: str,
    caption: Caption,
    path: Path,
    at_ms: int,
    *,
    take_times: bool,
) -> Stuck:
    """How a caption goes along with what is followed, from where it stands at a time; nothing is changed.

    :param take_times: whether it is there as long as what is followed is
    :raises BadInput: when it has no place in the picture, or is never there while what is followed is
    """
    track, _ = folder.log.track(track_id)
    picture = script_size(probe_from(project.film.facts))
    rate = project.film.rate
    sheet = sheet_of(project, track_id)
    inside = min(max(at_ms - caption.in_ms, 0), caption.out_ms - caption.in_ms)
    raised = raised_by(track, track.index(caption.id), sheet, picture)
    frame = frame_of(caption, sheet, picture, raised, inside)
    if frame is None:
        raise BadInput(message("follow.no-letters"))
    style = at_moment(sheet.style_of(caption), inside)
    stood = Stood(frame.x / picture.width, frame.y / picture.height, style.size, style.turn)
    first_ms = start_of_frame(path.seen[0].frame, rate)
    end_ms = start_of_frame(path.seen[-1].frame + 1, rate)
    in_ms, out_ms = (first_ms, end_ms) if take_times else (caption.in_ms, caption.out_ms)
    if out_ms <= first_ms or in_ms >= end_ms:
        raise BadInput(message("follow.another-time"))
    moments = moments_along(
        path,
        stood,
        frame_at(at_ms, rate),
        picture.width / picture.height,
        lambda number: start_of_frame(number, rate) - in_ms,
        _WITHIN_PX / picture.height,
        out_ms - in_ms,
    )
    return Stuck(in_ms, out_ms, moments)
