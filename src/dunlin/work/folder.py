"""An open data folder: what routers, jobs and commands work with."""

from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import Engine

from dunlin.hosts.connections import Connections
from dunlin.settings import Settings
from dunlin.store.database import migrate, open_database
from dunlin.store.films import Film, Films
from dunlin.store.jobs import Jobs
from dunlin.store.log import ProjectLog
from dunlin.store.made import MadeThings
from dunlin.store.memory import Memory
from dunlin.store.projects import Projects
from dunlin.store.sent import SentThings
from dunlin.store.words import Words

__all__ = ["DataFolder", "folder_on", "open_folder"]


@dataclass(frozen=True)
class DataFolder:
    """A data folder and what is remembered in it."""

    settings: Settings
    engine: Engine
    projects: Projects
    films: Films
    log: ProjectLog
    words: Words
    jobs: Jobs
    memory: Memory
    made: MadeThings
    sent: SentThings
    connections: Connections

    def film_folder(self, film: Film) -> Path:
        """Where a film is, with what was made of it; where there is no film yet, there is nothing."""
        return self.settings.films / (film.id or "none")

    def film_file(self, film: Film) -> Path:
        """A film as it was brought in."""
        return self.film_folder(film) / "original"


def folder_on(engine: Engine, settings: Settings) -> DataFolder:
    """A data folder whose database is open."""
    return DataFolder(
        settings=settings,
        engine=engine,
        projects=Projects(engine),
        films=Films(engine),
        log=ProjectLog(engine),
        words=Words(engine),
        jobs=Jobs(engine),
        memory=Memory(settings.data / "memory.db"),
        made=MadeThings(engine),
        sent=SentThings(engine),
        connections=Connections(settings.data / "hosts.json"),
    )


def open_folder(settings: Settings) -> DataFolder:
    """Opens a data folder, making it first where it is new, and brings it up to date."""
    engine = open_database(settings.data)
    migrate(engine)
    settings.films.mkdir(parents=True, exist_ok=True)
    settings.results.mkdir(parents=True, exist_ok=True)
    return folder_on(engine, settings)
