"""What must be so before a project's sound is heard, or its words are changed."""

from dunlin.core.messages import BadInput, NotNow, message
from dunlin.store.projects import Project
from dunlin.work.films import needs_film
from dunlin.work.folder import DataFolder

__all__ = ["needs_sound", "needs_words_at_rest"]


def needs_sound(project: Project) -> None:
    """:raises NotNow: until a film is brought in
    :raises BadInput: when the film has no sound
    """
    needs_film(project)
    if not project.film.has_sound:
        raise BadInput(message("sound.none"))


def needs_words_at_rest(folder: DataFolder, project_id: str) -> None:
    """:raises NotNow: while the speech is being recognised, and the words are not all there"""
    for job in folder.jobs.of_project(project_id):
        if job.kind == "recognise" and job.state in ("waiting", "running"):
            raise NotNow(message("words.still-recognised"))
