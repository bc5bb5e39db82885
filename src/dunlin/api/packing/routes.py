"""Packing lists: changed, looked at, made, kept in the house, and taken by other projects."""

import tempfile
from dataclasses import asdict, replace
from pathlib import Path as FilePath
from typing import Annotated, Any

from fastapi import Path, Response
from fastapi.responses import FileResponse, StreamingResponse

from dunlin.api.authors import EditKey, Who
from dunlin.api.files.views import LossView
from dunlin.api.jobs.views import JobView
from dunlin.api.packing.views import (
    DeliveriesView,
    DeliveryRequest,
    DeliveryView,
    HouseListView,
    ItemsRequest,
    ItemStandingView,
    MadeView,
    MakeRequest,
    MetView,
    NamedDelivery,
    OutOfDate,
    ProofRequest,
    SentView,
    TakeListRequest,
    TrackStandingView,
    UsedView,
    UseListRequest,
)
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal, attachment
from dunlin.core.delivery.encoding import Passage
from dunlin.core.delivery.model import BurnedFilm
from dunlin.core.delivery.names import fit_name
from dunlin.core.delivery.naming import is_film
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project.targets import DELIVERIES
from dunlin.jobs.packing import asked_of_list
from dunlin.media.archive import archived
from dunlin.store.jobs import Job
from dunlin.store.projects import Project
from dunlin.work.packing.lists import (
    UnknownDelivery,
    as_house_list,
    delivery_of,
    forget_house_list,
    house_lists,
    keep_house_list,
    lists_of,
    names_on,
    put_delivery,
    put_items,
    take_house_list,
    written_house_list,
)
from dunlin.work.packing.making import needs_parts, prepared
from dunlin.work.packing.standing import (
    Standing,
    hashes_of_others,
    standing_of,
    tracks_before_delivery,
)

__all__ = ["router"]

router = subject_router("packing lists", 404, 409, 422)

_FILE: dict[int | str, dict[str, Any]] = {200: {"content": {"application/octet-stream": {}}}}
_NewId = Annotated[str, Path(pattern=r"^[A-Za-z0-9-]{1,64}$")]
"""Made by whoever makes the list."""


@router.get("/projects/{project_id}/deliveries")
def list_deliveries(project_id: str, here: Here) -> DeliveriesView:
    """The packing lists of a project in their order, and those of the house."""
    here.projects.needs(project_id)
    return _deliveries(here, project_id)


def _deliveries(here: Services, project_id: str) -> DeliveriesView:
    lists = lists_of(here, project_id)
    return DeliveriesView(
        revision=here.log.revision(project_id, DELIVERIES) or 0,
        deliveries=[NamedDelivery(id=id_, delivery=each.delivery) for id_, each in lists.items()],
        lists=_house(here),
    )


def _house(here: Services) -> list[HouseListView]:
    return [
        HouseListView(id=id_, name=list_.name, count=len(list_.items))
        for id_, list_ in house_lists(here).items()
    ]


@router.get("/projects/{project_id}/deliveries/{delivery_id}")
def read_delivery(project_id: str, delivery_id: str, here: Here) -> DeliveryView:
    """A packing list, with how everything on it stands."""
    return _view(here, here.projects.get(project_id), delivery_id)


def _view(here: Services, project: Project, delivery_id: str) -> DeliveryView:
    with here.log.moment(project.id):
        packing = delivery_of(here, project.id, delivery_id)
        standing = standing_of(here, project, delivery_id, packing)
        tracks = tracks_before_delivery(here, project, packing)
    job = _being_made(here, project.id, delivery_id)
    return DeliveryView(
        id=delivery_id,
        delivery=packing.delivery,
        revision=packing.revision,
        items=[_item_view(each) for each in standing],
        tracks=[TrackStandingView.model_validate(each) for each in tracks],
        being_made=job.id if job else None,
    )


def _item_view(standing: Standing) -> ItemStandingView:
    return ItemStandingView(
        id=standing.id,
        item=standing.item,
        name=standing.name,
        missing=standing.missing,
        losses=[LossView.model_validate(loss) for loss in standing.losses],
        made=MadeView.model_validate(standing.made) if standing.made else None,
        changes=[OutOfDate.model_validate(change) for change in standing.changes],
        sent=SentView.model_validate(standing.sent) if standing.sent else None,
        is_sent=standing.is_sent,
    )


def _being_made(here: Services, project_id: str, delivery_id: str) -> Job | None:
    return next(
        (
            job
            for job in here.jobs.of_project(project_id)
            if job.kind == "pack"
            and job.state in ("waiting", "running")
            and job.parameters["delivery"] == delivery_id
        ),
        None,
    )


@router.put("/projects/{project_id}/deliveries/{delivery_id}")
def put_a_delivery(
    project_id: str, delivery_id: _NewId, request: DeliveryRequest, here: Here, who: Who,
    key: EditKey = None,
) -> DeliveriesView:  # fmt: skip
    """Makes the packing list of that id this one, or a new one."""
    here.projects.needs(project_id)
    put_delivery(
        here, project_id, delivery_id, request.delivery, who, base=request.base_revision, key=key
    )
    return _deliveries(here, project_id)


@router.delete("/projects/{project_id}/deliveries/{delivery_id}")
def remove_a_delivery(
    project_id: str, delivery_id: str, here: Here, who: Who, key: EditKey = None
) -> DeliveriesView:
    """Takes a packing list away, which can be undone."""
    here.projects.needs(project_id)
    if key is None or not here.log.stored(project_id, key):
        delivery_of(here, project_id, delivery_id)
    put_delivery(here, project_id, delivery_id, None, who, key=key)
    return _deliveries(here, project_id)


@router.put("/projects/{project_id}/deliveries/{delivery_id}/items")
def put_on_delivery(
    project_id: str, delivery_id: str, request: ItemsRequest, here: Here, who: Who,
    key: EditKey = None,
) -> DeliveryView:  # fmt: skip
    """Puts things on a packing list, makes them others, or takes them off, in one edit."""
    here.projects.needs(project_id)
    delivery_of(here, project_id, delivery_id)
    put_items(
        here, project_id, delivery_id, request.items, who, base=request.base_revision, key=key
    )
    return _view(here, here.projects.get(project_id), delivery_id)


@router.post("/projects/{project_id}/deliveries/{delivery_id}/make", status_code=202)
def make_delivery(
    project_id: str, delivery_id: str, request: MakeRequest, here: Here, who: Who
) -> JobView:
    """Asks for a packing list to be made: all that is not left out and not up to date, or what is named."""
    here.projects.needs(project_id)
    packing = delivery_of(here, project_id, delivery_id)
    if _being_made(here, project_id, delivery_id):
        raise Refusal(409, message("packing.being-made"))
    if request.items is not None and any(id_ not in packing.items for id_ in request.items):
        raise UnknownDelivery
    asked = asked_of_list(
        delivery_id, packing, request.items, anew=request.anew, author=request.author.strip()
    )
    return JobView.model_validate(here.queue.add(project_id, "pack", asked))


@router.post(
    "/projects/{project_id}/deliveries/{delivery_id}/items/{item_id}/proof", status_code=202
)
def make_proof(
    project_id: str, delivery_id: str, item_id: str, request: ProofRequest, here: Here
) -> JobView:
    """Asks for a short passage of a burned film on a list; its file is the job's."""
    project = here.projects.get(project_id)
    packing = delivery_of(here, project_id, delivery_id)
    item = packing.items.get(item_id)
    if item is None:
        raise UnknownDelivery
    if not isinstance(item.thing, BurnedFilm):
        raise BadInput(message("packing.no-proof"))
    within = item.thing.encoding.passage
    begins = max(request.from_ms, within.from_ms if within else 0)
    encoding = replace(
        item.thing.encoding, passage=Passage(begins, begins + request.seconds * 1000)
    )
    needs_parts(here, project, replace(item.thing, encoding=encoding))
    asked = {
        "track_id": item.thing.track,
        "version": item.thing.version,
        "above": item.thing.above,
        "encoding": asdict(encoding),
        "proof_of": item_id,
    }
    return JobView.model_validate(here.queue.add(project_id, "burn", asked))


@router.get(
    "/projects/{project_id}/deliveries/{delivery_id}/items/{item_id}/file",
    response_class=FileResponse,
    responses=_FILE,
)
def get_made_file(project_id: str, delivery_id: str, item_id: str, here: Here) -> FileResponse:
    """What was made last of something on a list, under its name of today."""
    project = here.projects.get(project_id)
    packing = delivery_of(here, project_id, delivery_id)
    made = here.made.of(project_id, delivery_id).get(item_id)
    if made is None or item_id not in packing.items:
        raise Refusal(404, message("packing.not-made"))
    path = here.settings.results / made.file
    if not path.is_file():
        raise Refusal(404, message("packing.file-gone"))
    name = names_on(project, packing)[item_id]
    return FileResponse(path, media_type="application/octet-stream", headers=attachment(name))


@router.get(
    "/projects/{project_id}/deliveries/{delivery_id}/items/{item_id}/text",
    response_class=Response,
    responses=_FILE,
)
def look_at_item(project_id: str, delivery_id: str, item_id: str, here: Here) -> Response:
    """The file of something on a list as it would be made now. Nothing is kept."""
    project = here.projects.get(project_id)
    packing = delivery_of(here, project_id, delivery_id)
    if item_id not in packing.items:
        raise UnknownDelivery
    thing = packing.items[item_id].thing
    if is_film(thing):
        raise BadInput(message("packing.not-to-look-at"))
    hashes = hashes_of_others(here, project, delivery_id, packing)
    name = names_on(project, packing)[item_id]
    with tempfile.TemporaryDirectory() as folder:
        path = FilePath(folder) / f"file{FilePath(name).suffix}"
        prepared(here, project, thing, hashes)(path, lambda _: None, lambda: False)
        data = path.read_bytes()
    return Response(data, media_type="application/octet-stream", headers=attachment(name))


@router.get(
    "/projects/{project_id}/deliveries/{delivery_id}/zip",
    response_class=StreamingResponse,
    responses={200: {"content": {"application/zip": {}}}},
)
def get_archive(project_id: str, delivery_id: str, here: Here) -> StreamingResponse:
    """All that was made of a list and is not left out, as one archive, however large."""
    project = here.projects.get(project_id)
    packing = delivery_of(here, project_id, delivery_id)
    made, names = here.made.of(project_id, delivery_id), names_on(project, packing)
    files = [
        (names[id_], here.settings.results / made[id_].file)
        for id_, item in packing.items.items()
        if id_ in made and not item.left_out
    ]
    if not files:
        raise Refusal(404, message("packing.not-made"))
    if not all(path.is_file() for _, path in files):
        raise Refusal(404, message("packing.file-gone"))
    name = fit_name(f"{project.title} {packing.delivery.name}", ".zip")
    return StreamingResponse(
        archived(files), media_type="application/zip", headers=attachment(name)
    )


@router.get("/packing-lists")
def list_house_lists(here: Here) -> list[HouseListView]:
    """The packing lists of the house."""
    return _house(here)


@router.put("/packing-lists/{list_id}")
def keep_list(
    list_id: _NewId, project_id: str, delivery_id: str, here: Here, who: Who, key: EditKey = None
) -> list[HouseListView]:
    """Keeps a project's packing list in the house, for every project."""
    project = here.projects.get(project_id)
    list_ = as_house_list(project, delivery_of(here, project_id, delivery_id))
    keep_house_list(here, list_id, list_, who, key=key)
    return _house(here)


@router.delete("/packing-lists/{list_id}")
def forget_list(list_id: str, here: Here, who: Who, key: EditKey = None) -> list[HouseListView]:
    """Takes a packing list out of the house; projects keep what they took of it."""
    forget_house_list(here, list_id, who, key=key)
    return _house(here)


@router.get("/packing-lists/{list_id}/file", response_class=Response, responses=_FILE)
def write_list(list_id: str, here: Here) -> Response:
    """A packing list of the house as the JSON that `dunlin deliver --list` reads."""
    lists = house_lists(here)
    if list_id not in lists:
        raise UnknownDelivery
    name = fit_name(lists[list_id].name, ".json")
    return Response(
        written_house_list(lists[list_id]),
        media_type="application/octet-stream",
        headers=attachment(name),
    )


@router.post("/projects/{project_id}/deliveries")
def take_list(
    project_id: str, request: TakeListRequest, here: Here, who: Who, key: EditKey = None
) -> DeliveriesView:
    """Puts a list of the house into a project."""
    project = here.projects.get(project_id)
    take_house_list(here, project, request.list_id, who, delivery_id=request.delivery_id, key=key)
    return _deliveries(here, project_id)


@router.post("/packing-lists/{list_id}/use")
def use_list(list_id: str, request: UseListRequest, here: Here, who: Who) -> UsedView:
    """Puts a list of the house into several projects, and has it made there. What cannot be done in one says so, and the
    others are done all the same."""
    if list_id not in house_lists(here):
        raise UnknownDelivery
    return UsedView(
        projects=[_used(here, list_id, project_id, request, who) for project_id in request.projects]
    )


def _used(
    here: Services, list_id: str, project_id: str, request: UseListRequest, who: Who
) -> MetView:
    try:
        project = here.projects.get(project_id)
        known = {each.delivery.taken_from: id_ for id_, each in lists_of(here, project_id).items()}
        delivery_id = known.get(list_id) or take_house_list(here, project, list_id, who)
        packing = delivery_of(here, project_id, delivery_id)
        if request.make and not _being_made(here, project_id, delivery_id):
            asked = asked_of_list(delivery_id, packing, author=request.author.strip())
            here.queue.add(project_id, "pack", asked)
    except Told as told:
        return MetView(project_id=project_id, delivery_id=None, problem=told.message)
    return MetView(project_id=project_id, delivery_id=delivery_id, problem=None)
