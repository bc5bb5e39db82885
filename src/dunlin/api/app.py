"""The application: routers, the built page, and the rules of safety around them."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, JSONResponse
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles

from dunlin.api import (
    caption_files,
    checking,
    events,
    films,
    history,
    jobs,
    projects,
    scripts,
    specs,
    timing,
    tracks,
    transcripts,
)
from dunlin.api.safety import SafetyMiddleware
from dunlin.api.services import open_services
from dunlin.core.captions import Conflict
from dunlin.engines import EngineError
from dunlin.media.ffmpeg import MediaError
from dunlin.media.fonts import FONTS
from dunlin.settings import Settings
from dunlin.store.jobs import UnknownJob
from dunlin.store.log import InTheWay, Outdated, UnknownTrack
from dunlin.store.projects import UnknownProject

__all__ = ["create_app"]

_PAGE = Path(__file__).parent.parent / "page"

_PROBLEMS: dict[type[Exception], tuple[int, str]] = {
    UnknownProject: (404, "this project is not here any more"),
    UnknownTrack: (404, "this track is not here any more"),
    UnknownJob: (404, "this job is not here any more"),
    Conflict: (409, ""),
    # Whatever a router does not answer itself: nothing was changed, and nobody sees a 500 for it.
    Outdated: (409, ""),
    MediaError: (422, ""),
    EngineError: (422, ""),
}


def create_app(settings: Settings) -> FastAPI:
    """The application on one data folder."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        app.state.services = open_services(settings)
        watching = asyncio.create_task(app.state.services.feed.watch())
        yield
        app.state.services.feed.close()
        watching.cancel()
        with suppress(asyncio.CancelledError):
            await watching
        app.state.services.engine.dispose()

    app = FastAPI(
        title="Dunlin",
        version="0.1.0",
        lifespan=lifespan,
        openapi_url="/api/openapi.json",
        # The built-in pages load scripts from elsewhere; Dunlin is used without a network.
        docs_url=None,
        redoc_url=None,
        generate_unique_id_function=_operation_name,
    )
    app.add_middleware(SafetyMiddleware, hosts=settings.allowed_hosts)
    app.add_exception_handler(InTheWay, _in_the_way)
    for error, (status, message) in _PROBLEMS.items():
        app.add_exception_handler(error, _problem(status, message))
    for module in (
        projects,
        films,
        timing,
        tracks,
        history,
        caption_files,
        scripts,
        checking,
        transcripts,
        jobs,
        specs,
        events,
    ):
        app.include_router(module.router, prefix="/api")
    app.mount("/fonts", StaticFiles(directory=FONTS), name="fonts")
    _serve_page(app)
    return app


def _operation_name(route: APIRoute) -> str:
    return route.name


def _problem(status: int, message: str):  # type: ignore[no-untyped-def]
    async def answer(request: Request, error: Exception) -> JSONResponse:
        return JSONResponse({"detail": message or str(error)}, status)

    return answer


async def _in_the_way(request: Request, error: Exception) -> JSONResponse:
    """Whose edit it is that stands on top of the one to be undone, and where."""
    assert isinstance(error, InTheWay)
    where = {"actor": error.actor, "target": error.target, "touched": sorted(error.touched)[:20]}
    return JSONResponse({"detail": str(error), "code": "in-the-way", "values": where}, 409)


def _serve_page(app: FastAPI) -> None:
    """The built page: its files by name, and itself for every address of its own."""
    if not (_PAGE / "index.html").is_file():
        return
    app.mount("/assets", StaticFiles(directory=_PAGE / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        named = _PAGE / path
        # Only files that stand directly in the folder have names here.
        if path and "/" not in path and named.is_file():
            return FileResponse(named)
        return FileResponse(_PAGE / "index.html", headers={"Cache-Control": "no-cache"})
