"""Hosts of films that this data folder is connected with."""

import re
import uuid
from collections.abc import Mapping

from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import PROJECT
from dunlin.hosts import HostFilm, Strandline, VideoHost, origin_of
from dunlin.hosts.connections import Connection
from dunlin.store.log import Author, Step
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder

__all__ = ["HOST_FILM", "connect", "film_there", "host_by", "remember_film_there", "version_taken"]

# What can stand in a header (RFC 6750, 2.1).
_TOKEN = re.compile(r"[A-Za-z0-9\-._~+/]+=*")
HOST_FILM = "host"
"""Under which key a project remembers which film of a host it is of."""


def connect(folder: DataFolder, address: str, token: str) -> Connection:
    """Connects with a host, once it has said who we are there; a token for an account that is known takes the place of its
    last.

    :raises Told: when it is no host, or does not know the token
    """
    origin = origin_of(address)
    if not _TOKEN.fullmatch(token.strip()):
        raise BadInput(message("hosts.no-token"))
    account = Strandline(origin, token.strip(), tries=1).account()
    same = (
        one.id
        for one in folder.connections.all().values()
        if (one.origin, one.name) == (origin, account.name)
    )
    connection = Connection(
        next(same, None) or uuid.uuid4().hex[:12], origin, token.strip(), account.host, account.name,
        account.scopes, account.expires_ms,
    )  # fmt: skip
    folder.connections.put(connection)
    return connection


def host_by(folder: DataFolder, connection_id: str, *, tries: int = 5) -> VideoHost:
    """A host, as it is asked over a connection.

    :param tries: how often in a row; where somebody waits for the answer, once
    :raises UnknownConnection:
    """
    connection = folder.connections.get(connection_id)
    return Strandline(connection.origin, connection.token, tries=tries)


def film_there(project: Project, connection_id: str) -> str | None:
    """The film of a host that a project's film is there; None where that is not known."""
    told = project.records[PROJECT].get(HOST_FILM)
    return str(told["film"]) if told and told["connection"] == connection_id else None


def version_taken(project: Project, film: str, language: str) -> str | None:
    """Which version of a film's captions was taken along; None where none was."""
    told = project.records[PROJECT].get(HOST_FILM)
    if not told or told["film"] != film:
        return None
    found: str | None = told["tracks"].get(language)
    return found


def remember_film_there(
    folder: DataFolder,
    project_id: str,
    connection_id: str,
    film: HostFilm,
    taken: Mapping[str, str],
    author: Author,
) -> None:
    """Has a project know which film of a host it is of.

    :param taken: versions of the captions that were taken along, by their languages
    """
    told = {
        "connection": connection_id,
        "film": film.id,
        "title": film.title,
        "page": film.page,
        "tracks": dict(taken),
    }
    folder.log.edit(project_id, [Step(PROJECT, SetEntries({HOST_FILM: told}))], author)
