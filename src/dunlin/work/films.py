"""The film that a project shows: the first, another in its place, and those that were there before."""

import shutil

from dunlin.core.messages import BadInput, NotNow, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import PROJECT
from dunlin.core.scripts import CHARACTERS_A_SECOND
from dunlin.store.films import Film
from dunlin.store.log import Author, Done, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = ["bring_film", "end_ms", "needs_film", "remove_film", "show_film"]


def end_ms(film: Film, from_ms: int, characters: int) -> int:
    """Where the film ends; until it is there, what is written from a time on has as long as it takes to say."""
    return film.duration_ms if film.id else from_ms + characters * 1000 // CHARACTERS_A_SECOND


def needs_film(project: Project) -> None:
    """:raises NotNow: until a film is brought in"""
    if not project.film.id:
        raise NotNow(message("film.none-yet"))


def bring_film(
    folder: DataFolder, project: Project, film: Film, author: Author, *, key: str | None = None
) -> Done:
    """Has a project show a film that has just come, or leaves it as if none had."""
    folder.films.add(film)
    try:
        return show_film(folder, project, film, author, key=key)
    except BaseException:
        folder.films.remove(film.id)
        raise


def show_film(
    folder: DataFolder, project: Project, film: Film, author: Author, *, key: str | None = None
) -> Done:
    """Has a project show one of its films. Captions and words stay at their times.

    :raises BadInput: when the film is another project's
    """
    if film.project_id != project.id:
        raise BadInput(message("film.gone"))
    step = Step(PROJECT, SetEntries({"film": film.id}))
    return folder.log.edit(project.id, [step], author, key=key)


def remove_film(folder: DataFolder, film: Film) -> None:
    """Deletes a film that its project does not show, to make room on the disk.

    :raises NotNow: when its project shows it
    """
    if folder.projects.get(film.project_id).film.id == film.id:
        raise NotNow(message("film.shown"))
    folder.films.remove(film.id)
    shutil.rmtree(folder.film_folder(film), ignore_errors=True)
