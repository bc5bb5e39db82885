"""The application: routers, the built page, and the rules of safety around them."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException

from dunlin.api.about import routes as about
from dunlin.api.checking import routes as checking
from dunlin.api.compressing import CompressionMiddleware
from dunlin.api.ear import routes as ear
from dunlin.api.emoji import routes as emoji
from dunlin.api.events import routes as events
from dunlin.api.files import routes as files
from dunlin.api.films import routes as films
from dunlin.api.following import routes as following
from dunlin.api.fonts import routes as fonts
from dunlin.api.glossary import routes as glossary
from dunlin.api.handover import routes as handover
from dunlin.api.history import routes as history
from dunlin.api.hosts import routes as hosts
from dunlin.api.jobs import routes as jobs
from dunlin.api.making import routes as making
from dunlin.api.packing import routes as packing
from dunlin.api.people import routes as people
from dunlin.api.projects import routes as projects
from dunlin.api.recognition import routes as recognition
from dunlin.api.safety import SafetyMiddleware
from dunlin.api.scripts import routes as scripts
from dunlin.api.search import routes as search
from dunlin.api.services import open_services
from dunlin.api.short import routes as short
from dunlin.api.specs import routes as specs
from dunlin.api.spelling import routes as spelling
from dunlin.api.styles import routes as styles
from dunlin.api.timing import routes as timing
from dunlin.api.tracks import routes as tracks
from dunlin.api.transcripts import routes as transcripts
from dunlin.api.translating import routes as translating
from dunlin.api.versions import routes as versions
from dunlin.api.wire import Refusal, problem_answer
from dunlin.core.captions import Conflict
from dunlin.core.formats import FormatError
from dunlin.core.messages import Message, NotNow, Told, message
from dunlin.hosts.connections import UnknownConnection
from dunlin.media.fonts import FONTS
from dunlin.settings import Settings
from dunlin.store.faults import DamagedProject, storage_fault
from dunlin.store.films import UnknownFilm
from dunlin.store.jobs import UnknownJob
from dunlin.store.log import InTheWay, Outdated, UnknownTrack
from dunlin.store.projects import UnknownProject
from dunlin.work.about import UnknownPiece
from dunlin.work.packing.lists import UnknownDelivery
from dunlin.work.versions import UnknownVersion

__all__ = ["create_app"]

_SUBJECTS = (
    projects,
    films,
    tracks,
    glossary,
    handover,
    spelling,
    history,
    files,
    following,
    fonts,
    scripts,
    search,
    making,
    short,
    checking,
    transcripts,
    translating,
    versions,
    packing,
    about,
    hosts,
    recognition,
    timing,
    ear,
    jobs,
    specs,
    styles,
    people,
    emoji,
    events,
)

_log = logging.getLogger(__name__)
_RETRY_SECONDS = 2

_LONGEST_PATH = 1000
"""Of an address of the page: a project, a stage and what is looked at there."""

_PAGE = Path(__file__).parent.parent / "page"

# What is told with another status than that of bad input.
_STATUS: dict[type[Told], int] = {
    UnknownFilm: 404,
    UnknownProject: 404,
    UnknownTrack: 404,
    UnknownVersion: 404,
    UnknownDelivery: 404,
    UnknownPiece: 404,
    UnknownConnection: 404,
    UnknownJob: 404,
    Conflict: 409,
    Outdated: 409,
    InTheWay: 409,
    NotNow: 409,
    DamagedProject: 409,
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
        app.state.services.memory.close()

    app = FastAPI(
        title="Dunlin",
        version="0.1.0",
        lifespan=lifespan,
        openapi_url="/api/openapi.json",
        # The built-in pages load scripts from elsewhere; Dunlin is used without a network.
        docs_url=None,
        redoc_url=None,
        # As they are, and not included: each would be built anew (`dunlin.api.subjects`).
        routes=[route for subject in _SUBJECTS for route in subject.router.routes],
    )
    app.add_middleware(CompressionMiddleware)
    app.add_middleware(SafetyMiddleware, hosts=settings.allowed_hosts)
    app.add_exception_handler(Told, _problem)
    app.add_exception_handler(DBAPIError, _storage_problem)
    app.add_exception_handler(OSError, _storage_problem)
    app.add_exception_handler(RequestValidationError, _wrong_request)
    app.add_exception_handler(HTTPException, _refused)
    app.mount("/fonts", StaticFiles(directory=FONTS), name="fonts")
    _serve_page(app)
    return app


async def _problem(request: Request, error: Exception) -> Response:
    """What could not be done, as a message with its words."""
    assert isinstance(error, Told)
    told = error.message
    if isinstance(error, Refusal):
        status = error.status
    else:
        status = next((n for kind, n in _STATUS.items() if isinstance(error, kind)), 422)
    if isinstance(error, FormatError) and error.line:
        told = message("files.at-line", line=error.line, error=told)
    return problem_answer(status, told)


async def _wrong_request(request: Request, error: Exception) -> Response:
    """What does not fit the schema: the first field that is not as it has to be, and why."""
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    # Where it stands is told before what it is called: `body`, `query` or `path`.
    field = ".".join(str(part) for part in first["loc"][1:])
    return problem_answer(422, message("request.wrong", field=field, reason=first["msg"]))


async def _refused(request: Request, error: Exception) -> Response:
    """An address that there is not, that cannot be asked in this way, or not for so much."""
    assert isinstance(error, HTTPException)
    detail: object = error.detail
    told = detail if isinstance(detail, Message) else message("request.refused", reason=detail)
    return problem_answer(error.status_code, told, error.headers)


async def _storage_problem(request: Request, error: Exception) -> Response:
    """What the disk or the database refused: there is no room (507), or it may work later (503).

    :raises Exception: what is no fault of theirs
    """
    fault = storage_fault(error)
    if fault is None:
        raise error
    _log.warning("%s %s: %s", request.method, request.url.path, fault)
    headers = {} if fault.is_full else {"Retry-After": str(_RETRY_SECONDS)}
    return problem_answer(507 if fault.is_full else 503, fault.message, headers)


class _NamedByContent(StaticFiles):
    """Files whose names change with what is in them: a browser that has one never asks for it again."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        answer = super().file_response(*args, **kwargs)
        answer.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return answer


def _serve_page(app: FastAPI) -> None:
    """The built page: its files by name, and itself for every address of its own."""
    if not (_PAGE / "index.html").is_file():
        return
    app.mount("/assets", _NamedByContent(directory=_PAGE / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.split("/")[0] == "api" or len(path) > _LONGEST_PATH:
            raise HTTPException(404)
        named = _PAGE / path
        # Only files that stand directly in the folder have names here; the host's page is served by the host.
        if path and "/" not in path and path != "host.html" and named.is_file():
            return FileResponse(named)
        return FileResponse(_PAGE / "index.html", headers={"Cache-Control": "no-cache"})
