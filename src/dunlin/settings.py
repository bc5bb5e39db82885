"""What can be set from outside, by environment variables that begin with `DUNLIN_`."""

import os
from ipaddress import ip_address
from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

__all__ = ["Settings", "computing_threads", "is_this_machine"]


class Settings(BaseSettings):
    """Where things are kept, and how large they may get."""

    model_config = SettingsConfigDict(env_prefix="DUNLIN_")

    data: Path = Field(default_factory=lambda: Path.home() / ".local" / "share" / "dunlin")
    """Folder of the database, the films and the results."""
    queue_url: str | None = None
    """`redis://…` moves the jobs to any number of workers; else they queue in SQLite."""
    models: Path | None = None
    """Folder of further models, for recognition and for translation, each in a folder of its own."""
    translation_service: str | None = None
    """Address of a service that drafts translations over HTTP; nothing is sent anywhere without one."""
    translation_service_token: str | None = Field(default=None, repr=False)
    text_service: str | None = None
    """Address of a service that says which sentences answer a question or describe a film; nothing is sent without one."""
    text_service_token: str | None = Field(default=None, repr=False)
    upload_limit_gb: float = 60
    """Greatest size of a film that is taken in."""
    allowed_hosts: tuple[str, ...] = ("127.0.0.1", "localhost", "[::1]")
    """Names under which the page may be opened."""

    @property
    def films(self) -> Path:
        return self.data / "films"

    @property
    def results(self) -> Path:
        return self.data / "results"

    @property
    def fonts(self) -> Path:
        return self.data / "fonts"

    @property
    def model_folders(self) -> tuple[Path, ...]:
        return tuple(path for path in (self.models, self.data / "models") if path)


def computing_threads() -> int:
    """How many threads recognition computes in: all cores, as one runs at a time and whoever types goes before it, or as
    many as `OMP_NUM_THREADS` leaves to programs that compute (OpenMP 5.2, 21.2)."""
    told = os.environ.get("OMP_NUM_THREADS", "")
    return int(told) if told.isdecimal() and int(told) else os.cpu_count() or 1


def is_this_machine(host: str) -> bool:
    """Whether a host is the machine that asks for it: `localhost`, or an address that leads back to it."""
    if host == "localhost":
        return True
    try:
        return ip_address(host.strip("[]")).is_loopback
    except ValueError:
        return False
