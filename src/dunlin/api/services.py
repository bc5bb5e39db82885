"""What the routers work with."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Request

from dunlin.api.events.feed import Feed
from dunlin.jobs.queue import JobQueue
from dunlin.settings import Settings
from dunlin.work.folder import DataFolder, open_folder
from dunlin.work.fonts import know_fonts

__all__ = ["Here", "Services", "open_services"]


@dataclass(frozen=True)
class Services(DataFolder):
    """One open data folder, its queue, and what tells of changes in it."""

    queue: JobQueue
    feed: Feed


def open_services(settings: Settings) -> Services:
    """Opens the data folder, making it first where it is new."""
    folder = open_folder(settings)
    know_fonts(folder)
    return Services(**vars(folder), queue=JobQueue(folder), feed=Feed(folder.engine, folder.jobs))


def _services(request: Request) -> Services:
    services: Services = request.app.state.services
    return services


Here = Annotated[Services, Depends(_services)]
