"""Projects as the page sees them."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from dunlin.api.films.views import FilmView, film_view
from dunlin.api.jobs.views import JobView
from dunlin.api.services import Services
from dunlin.api.tracks.views import TrackInfoView, track_info_view
from dunlin.api.transcripts.views import SpeakerView
from dunlin.api.wire import Language, View
from dunlin.core.specs import Spec
from dunlin.store.projects import Project
from dunlin.work.judging import shots_of

__all__ = [
    "DamagedView",
    "FilmChoice",
    "ProjectChange",
    "ProjectRequest",
    "ProjectView",
    "project_view",
]


class ProjectView(View):
    id: str
    revision: int
    title: str
    created_ms: int
    opened_ms: int
    spec: Spec
    film: FilmView
    shots: list[int] | None
    """Milliseconds of the shot changes; None until they were looked for."""
    tracks: list[TrackInfoView]
    jobs: list[JobView]
    speakers: list[SpeakerView]
    word_count: int
    caption_count: int


class DamagedView(View):
    """A project that cannot be read any more, by what is known of it."""

    id: str
    title: str
    opened_ms: int


class ProjectRequest(BaseModel):
    """A project to be made before its film is there."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Field(min_length=1, max_length=1000)]
    language: Language = "en"
    fps: Annotated[str, Field(max_length=32)] | None = None
    """The film's frames a second; 25 where nothing is said."""


class FilmChoice(BaseModel):
    model_config = ConfigDict(extra="forbid")

    film_id: str


class ProjectChange(BaseModel):
    """What shall be different about a project; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Field(min_length=1, max_length=300)] | None = None
    spec_id: str | None = None
    language: Language | None = None
    fps: Annotated[str, Field(max_length=32)] | None = None
    """Frames a second that are counted until the film is there."""


def project_view(services: Services, project: Project) -> ProjectView:
    return ProjectView.model_validate(
        {
            "id": project.id,
            "revision": project.revision,
            "title": project.title,
            "created_ms": project.created_ms,
            "opened_ms": project.opened_ms,
            "spec": project.spec_of(),
            "film": film_view(project.film),
            "shots": shots_of(services, project.film),
            "tracks": [track_info_view(services, project, info) for info in project.tracks],
            "jobs": [JobView.model_validate(job) for job in services.jobs.of_project(project.id)],
            "speakers": project.speakers,
            "word_count": services.words.count(project.id, project.words_run),
            "caption_count": services.projects.caption_count(project),
        }
    )
