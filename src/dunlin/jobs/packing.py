"""Makes what is on a packing list, one after the other."""

import time
import uuid
from collections.abc import Callable, Sequence
from dataclasses import asdict
from hashlib import file_digest
from pathlib import Path
from typing import Any

from dunlin.core.delivery.model import Report, Thing
from dunlin.core.delivery.naming import is_film, what_it_is
from dunlin.core.messages import BadInput, Told
from dunlin.jobs.context import JobContext
from dunlin.media.ffmpeg import Cancelled
from dunlin.store.made import Made
from dunlin.work.packing.ingredients import ingredients_of
from dunlin.work.packing.lists import PackingList, delivery_of, names_on
from dunlin.work.packing.making import prepared, what_is_missing
from dunlin.work.packing.sending import Parcel, is_sent, send
from dunlin.work.packing.standing import (
    files_before,
    hashes_of_others,
    in_order_of_making,
    is_up_to_date,
)

__all__ = ["asked_of_list", "make_packing_list"]

_FILE_WEIGHT = 0.02
"""Of a file's making in that of a film."""


def asked_of_list(
    delivery_id: str,
    packing: PackingList,
    items: Sequence[str] | None = None,
    *,
    anew: bool = False,
    author: str = "",
) -> dict[str, Any]:
    """What a job is asked that makes a list.

    :param items: what of it; None is all that is not left out
    :param anew: whether even that is made which would come out the same
    :param author: who is named in documents
    """
    wanted = items
    if wanted is None:
        wanted = [id_ for id_, item in packing.items.items() if not item.left_out]
    return {
        "delivery": delivery_id,
        "items": list(wanted),
        "anew": anew,
        "author": author,
        "films": any(is_film(packing.items[id_].thing) for id_ in wanted),
    }


def make_packing_list(context: JobContext) -> dict[str, Any]:
    """Makes what is asked for of a list, each at once kept with what it was made of. What cannot be made says why, and the
    rest is made all the same.

    A job that is taken up again goes on with what it had not made yet.
    """
    asked = context.job.parameters
    delivery_id, project_id = asked["delivery"], context.job.project_id
    packing = delivery_of(context.folder, project_id, delivery_id)
    wanted = in_order_of_making(packing, asked["items"])
    weights = {id_: 1.0 if is_film(packing.items[id_].thing) else _FILE_WEIGHT for id_ in wanted}
    total, done = sum(weights.values()) or 1.0, 0.0
    failed: dict[str, Any] = {}
    for id_ in wanted:
        if context.cancelled():
            raise Cancelled
        # As it stands when its turn comes: a film before it may have taken an hour.
        packing = delivery_of(context.folder, project_id, delivery_id)
        if id_ in packing.items:
            context.step(id_)
            share = weights[id_] / total / (2 if packing.items[id_].destination else 1)
            try:
                if not _is_made(context, packing, id_):
                    _make(context, packing, id_, _part(context, done / total, share))
                _send(context, packing, id_, _part(context, done / total + share, share))
            except Told as told:
                failed[id_] = asdict(told.message)
        done += weights[id_]
        context.progress(done / total)
    return {"delivery": delivery_id, "failed": failed}


def _part(context: JobContext, begins: float, share: float) -> Callable[[float], None]:
    return lambda part: context.progress(begins + part * share)


def _is_made(context: JobContext, packing: PackingList, id_: str) -> bool:
    """Whether nothing is to be done: this job made it before it was broken off, or it would come out the same."""
    folder, asked = context.folder, context.job.parameters
    made = folder.made.of(context.job.project_id, asked["delivery"]).get(id_)
    if made and made.job_id == context.job.id:
        return True
    project = folder.projects.get(context.job.project_id)
    return not asked["anew"] and is_up_to_date(folder, project, asked["delivery"], packing, id_)


def _make(
    context: JobContext, packing: PackingList, id_: str, progress: Callable[[float], None]
) -> None:
    folder, delivery_id = context.folder, context.job.parameters["delivery"]
    item, project_id = packing.items[id_], context.job.project_id
    with folder.log.moment(project_id):
        # What it is made of is told first: what is changed from here on makes it out of date.
        project = folder.projects.get(project_id)
        files = files_before(packing, folder.made.of(project_id, delivery_id))
        made_of = ingredients_of(
            folder, project, item, files if isinstance(item.thing, Report) else ()
        )
        hashes = hashes_of_others(folder, project, delivery_id, packing)
        if missing := what_is_missing(folder, project, item):
            raise BadInput(missing)
        write = prepared(folder, project, item.thing, hashes, context.job.parameters["author"])
    output = _output(context, id_, item.thing)
    write(output, progress, context.cancelled)
    with output.open("rb") as file:
        digest = file_digest(file, "sha256").hexdigest()
    made = Made(
        id_, context.job.id, output.name, names_on(project, packing)[id_], output.stat().st_size,
        digest, time.time_ns() // 1_000_000, made_of,
    )  # fmt: skip
    if before := folder.made.keep(project_id, delivery_id, made):
        (folder.settings.results / before).unlink(missing_ok=True)


def _send(
    context: JobContext, packing: PackingList, id_: str, progress: Callable[[float], None]
) -> None:
    """Sends what was made where it is to go, unless it is there."""
    folder, asked, item = context.folder, context.job.parameters, packing.items[id_]
    project_id, delivery_id = context.job.project_id, asked["delivery"]
    made = folder.made.of(project_id, delivery_id)[id_]
    before = folder.sent.of(project_id, delivery_id).get(id_)
    if item.destination is None or (not asked["anew"] and is_sent(item, made, before)):
        return
    parcel = Parcel(
        folder, folder.projects.get(project_id), delivery_id, item, made, item.destination
    )
    send(parcel, anew=asked["anew"], progress=progress, cancelled=context.cancelled)


def _output(context: JobContext, name: str, thing: Thing) -> Path:
    """A file of its own for each making, so that the one before stays until this one is whole. Ids of items come from
    outside, and are no paths."""
    results = context.folder.settings.results
    results.mkdir(parents=True, exist_ok=True)
    return (
        results
        / f"{context.job.id}-{uuid.uuid5(uuid.NAMESPACE_OID, name).hex[:12]}{what_it_is(thing)[1]}"
    )
