"""A film on its way in: stored in a folder of its own, and told what it is made of."""

import shutil
import uuid
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import asdict
from hashlib import sha256
from pathlib import Path

from fastapi import Request
from starlette.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect

from dunlin.api.services import Services
from dunlin.api.wire import Refusal
from dunlin.core.messages import message
from dunlin.media.fingerprint import keep_film_hash
from dunlin.media.probe import probe
from dunlin.store.films import Film

__all__ = ["received_film"]


@asynccontextmanager
async def received_film(request: Request, here: Services, name: str) -> AsyncIterator[Film]:
    """The film that the body is, stored; what goes wrong inside leaves nothing of it.

    :param name: only its label, never a path
    :raises Refusal: when it is too large, or breaks off
    :raises OSError: when the disk does not take it
    :raises MediaError: when it is no film or sound that can be read
    """
    film_id = uuid.uuid4().hex
    folder = here.settings.films / film_id
    folder.mkdir(parents=True)
    try:
        size = await _stored(request, folder / "original", here.settings.upload_limit_gb)
        facts = await run_in_threadpool(probe, folder / "original")
        label = " ".join(name.split()) or "film"
        yield Film(label, size, asdict(facts), id=film_id)
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise


async def _stored(request: Request, path: Path, limit_gb: float) -> int:
    """Streams the body to disk, hashes it, and gives its size."""
    limit, size, digest = int(limit_gb * 1e9), 0, sha256()
    too_large = Refusal(413, message("film.too-large", gigabytes=limit_gb))
    if int(request.headers.get("content-length") or 0) > limit:
        raise too_large
    try:
        with path.open("wb") as file:
            async for chunk in request.stream():
                size += len(chunk)
                if size > limit:
                    raise too_large
                digest.update(chunk)
                await run_in_threadpool(file.write, chunk)
        keep_film_hash(path, digest.hexdigest())
    except ClientDisconnect:
        raise Refusal(400, message("film.upload-broken-off")) from None
    return size
