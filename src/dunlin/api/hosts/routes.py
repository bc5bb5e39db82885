"""Hosts of films: connected with, looked through, and films of theirs taken as projects."""

from typing import Annotated

from fastapi import Query

from dunlin.api.authors import Who
from dunlin.api.hosts.views import (
    CollectionView,
    ConnectionView,
    ConnectRequest,
    HostFilmsView,
    TakeFilmRequest,
    ThereView,
)
from dunlin.api.projects.views import ProjectView, project_view
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.core.messages import BadInput, message
from dunlin.work.hosts import connect, host_by
from dunlin.work.packing.lists import delivery_of
from dunlin.work.packing.sending import how_it_is_there

__all__ = ["router"]

router = subject_router("hosts", 404, 422)


@router.get("/hosts")
def list_connections(here: Here) -> list[ConnectionView]:
    """The hosts that Dunlin is connected with."""
    return [ConnectionView.model_validate(each) for each in here.connections.all().values()]


@router.post("/hosts", status_code=201)
def connect_host(request: ConnectRequest, here: Here) -> ConnectionView:
    """Connects with a host, once it has said who we are there."""
    made = connect(here, request.address, request.token.get_secret_value())
    return ConnectionView.model_validate(made)


@router.delete("/hosts/{connection_id}", status_code=204)
def disconnect_host(connection_id: str, here: Here) -> None:
    """Forgets a connection and its token."""
    here.connections.remove(connection_id)


@router.get("/hosts/{connection_id}/collections")
def list_collections(connection_id: str, here: Here) -> list[CollectionView]:
    return [
        CollectionView.model_validate(each)
        for each in host_by(here, connection_id, tries=1).collections()
    ]


@router.get("/hosts/{connection_id}/films")
def list_host_films(
    connection_id: str,
    here: Here,
    collection: Annotated[str | None, Query(max_length=200)] = None,
    search: Annotated[str, Query(max_length=200)] = "",
    after: Annotated[str | None, Query(max_length=200)] = None,
) -> HostFilmsView:
    """Films on a host, the newest first."""
    page = host_by(here, connection_id, tries=1).films(collection, search, after)
    return HostFilmsView.model_validate(page)


@router.post("/hosts/{connection_id}/take", status_code=201)
def take_host_film(
    connection_id: str, request: TakeFilmRequest, here: Here, who: Who
) -> ProjectView:
    """Begins a project of a film on a host; the film comes by a job, the captions that people made there along with it."""
    film = host_by(here, connection_id, tries=1).film(request.film)
    if film is None:
        raise BadInput(message("packing.film-gone-there"))
    project = here.projects.add(film.title[:300] or film.name[:300], None, language=film.language)
    asked = {"connection": connection_id, "film": film.id, "person": who.person}
    here.queue.add(project.id, "fetch", asked)
    return project_view(here, project)


@router.get("/projects/{project_id}/deliveries/{delivery_id}/there")
def look_there(project_id: str, delivery_id: str, here: Here) -> dict[str, ThereView]:
    """How everything that was sent of a list is on its host, by the ids; each host is asked."""
    here.projects.needs(project_id)
    packing, sent = (
        delivery_of(here, project_id, delivery_id),
        here.sent.of(project_id, delivery_id),
    )
    return {
        id_: ThereView.model_validate(how_it_is_there(here, item.thing, sent[id_]))
        for id_, item in packing.items.items()
        if item.destination and id_ in sent and sent[id_].sent_ms is not None
    }
