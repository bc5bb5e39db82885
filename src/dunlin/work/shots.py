"""Shot changes of a project's film: found, and put right by hand."""

from collections.abc import Iterable

from dunlin.core.messages import NotNow, message
from dunlin.core.project import SetEntries, entries_between, shots_in
from dunlin.core.timing.shots import shot_toggled
from dunlin.store.films import Film
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.judging import shots_of

__all__ = ["ShotsUnknown", "set_shots", "toggle_shot"]


class ShotsUnknown(NotNow):
    """Nobody has looked for shot changes yet."""


def set_shots(
    folder: DataFolder,
    film: Film,
    shots: Iterable[int],
    author: Author,
    *,
    key: str | None = None,
) -> Done:
    """Makes these a film's shot changes, in milliseconds; from then on they are known, also when there are none."""
    before, _ = folder.log.record(film.project_id, shots_in(film.id))
    after = {str(shot): True for shot in shots}
    step = Step(shots_in(film.id), SetEntries(entries_between(before, after)))
    return folder.log.edit(film.project_id, [step], author, key=key)


def toggle_shot(
    folder: DataFolder, project: Project, at_ms: int, author: Author, *, key: str | None = None
) -> Done:
    """Takes the shot change on a time's frame away, or puts one there.

    Two toggles of two frames both hold, whichever window knew of the other's.

    :raises ShotsUnknown:
    :raises ValueError: for the film's first frame
    """
    shots = shots_of(folder, project.film)
    if shots is None:
        raise ShotsUnknown(message("shots.not-found-yet"))
    before = {str(shot): True for shot in shots}
    after = {str(shot): True for shot in shot_toggled(shots, at_ms, project.film.rate)}
    step = Step(shots_in(project.film.id), SetEntries(entries_between(before, after)))
    return folder.log.edit(project.id, [step], author, key=key)
