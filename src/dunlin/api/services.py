"""What the routers work with."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy import Engine

from dunlin.api.feed import Feed
from dunlin.jobs.queue import JobQueue
from dunlin.store.database import migrate, open_database
from dunlin.store.edits import EditLog
from dunlin.store.jobs import Jobs
from dunlin.store.projects import Projects
from dunlin.store.settings import Settings
from dunlin.store.waivers import Waivers
from dunlin.store.words import Words

__all__ = ["Here", "Services", "open_services"]


@dataclass(frozen=True)
class Services:
    """One open data folder."""

    settings: Settings
    engine: Engine
    projects: Projects
    edits: EditLog
    waivers: Waivers
    words: Words
    jobs: Jobs
    queue: JobQueue
    feed: Feed


def open_services(settings: Settings) -> Services:
    """Opens the data folder, making it first where it is new."""
    engine = open_database(settings.data)
    migrate(engine)
    settings.films.mkdir(parents=True, exist_ok=True)
    settings.results.mkdir(parents=True, exist_ok=True)
    jobs = Jobs(engine)
    return Services(
        settings=settings,
        engine=engine,
        projects=Projects(engine),
        edits=EditLog(engine),
        waivers=Waivers(engine),
        words=Words(engine),
        jobs=jobs,
        queue=JobQueue(engine, settings),
        feed=Feed(engine, jobs),
    )


def _services(request: Request) -> Services:
    services: Services = request.app.state.services
    return services


Here = Annotated[Services, Depends(_services)]
