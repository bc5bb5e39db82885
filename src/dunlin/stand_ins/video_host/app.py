"""The host as an application: its API, its page, and who may ask for what."""

from pathlib import Path
from typing import Annotated

import uvicorn
from fastapi import APIRouter, Depends, FastAPI, HTTPException, Query, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from dunlin.api.safety import SafetyMiddleware
from dunlin.media.fonts import FONTS
from dunlin.stand_ins.video_host import routes
from dunlin.stand_ins.video_host.demo import fill_with_demo
from dunlin.stand_ins.video_host.faults import Faults, FaultsMiddleware
from dunlin.stand_ins.video_host.shelf import ChangedMeanwhile, NotThere, Shelf
from dunlin.stand_ins.video_host.tokens import Tokens
from dunlin.stand_ins.video_host.views import TokenMadeView, TokenRequest, TokenView
from dunlin.stand_ins.video_host.who import Here, Host, Problem, answer_of, page_only

__all__ = ["create_host", "run_host"]

_PAGE = Path(__file__).parents[2] / "page"
_HOSTS = ("127.0.0.1", "localhost", "[::1]")


def create_host(data: Path, *, asks_a_minute: int = 600) -> FastAPI:
    """The application on a data folder of its own.

    :param asks_a_minute: how often each token may ask
    """
    data.mkdir(parents=True, exist_ok=True)
    shelf = Shelf(data)
    host = Host(shelf, Tokens(shelf.engine))
    host.limit.a_minute = asks_a_minute
    # Routes are taken as they are; those of an included router would be built anew at the first request.
    told = [*routes.router.routes, *_desk.routes, *_watching.routes]
    app = FastAPI(
        title=routes.HOST_NAME, docs_url=None, redoc_url=None, openapi_url=None, routes=told
    )
    app.state.host = host
    app.add_middleware(FaultsMiddleware, state=host.faults)
    app.add_middleware(SafetyMiddleware, hosts=_HOSTS)
    app.add_exception_handler(Problem, _problem)
    app.add_exception_handler(NotThere, _not_there)
    app.add_exception_handler(ChangedMeanwhile, _changed_meanwhile)
    app.add_exception_handler(RequestValidationError, _wrong)
    app.mount("/fonts", StaticFiles(directory=FONTS), name="fonts")
    if (_PAGE / "host.html").is_file():
        app.mount("/assets", StaticFiles(directory=_PAGE / "assets"), name="assets")
        app.router.routes.extend(_page.routes)
    return app


def run_host(data: Path, port: int, *, demo: bool = False) -> None:
    """Serves on this machine alone, until it is stopped.

    :param demo: whether an empty shelf gets the demo's films
    """
    app = create_host(data)
    host: Host = app.state.host
    if demo and not host.shelf.collections():
        fill_with_demo(host.shelf)
    print(f"{routes.HOST_NAME} is at http://127.0.0.1:{port}", flush=True)
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning")


_desk = APIRouter(prefix="/api", dependencies=[Depends(page_only)])


@_desk.get("/tokens")
def tokens(here: Here) -> list[TokenView]:
    return [TokenView.model_validate(token) for token in here.tokens.all()]


@_desk.post("/tokens", status_code=201)
def make_token(asked: TokenRequest, here: Here) -> TokenMadeView:
    token, secret = here.tokens.make(asked.name, asked.scopes, asked.days)
    return TokenMadeView(**TokenView.model_validate(token).model_dump(), token=secret)


@_desk.delete("/tokens/{id_}", status_code=204)
def revoke_token(id_: str, here: Here) -> None:
    here.tokens.revoke(id_)


@_desk.get("/faults")
def faults(here: Here) -> Faults:
    return here.faults[0]


@_desk.put("/faults")
def set_faults(asked: Faults, here: Here) -> Faults:
    here.faults[0] = asked
    return asked


_watching = APIRouter(prefix="/watch")
"""What viewers see, who have no token."""


@_watching.get("/films/{id_}/file", response_class=FileResponse)
def watched_film(id_: str, here: Here) -> FileResponse:
    film = here.shelf.film(id_)
    kind = "audio" if film.name.lower().endswith((".wav", ".mp3", ".m4a")) else "video"
    return FileResponse(here.shelf.film_file(id_), media_type=f"{kind}/mp4")


@_watching.get("/films/{id_}/tracks/{language}")
def watched_track(
    id_: str, language: str, here: Here, proof: Annotated[str, Query(max_length=100)] = ""
) -> Response:
    """A track that is open to viewers, or a draft by whoever has the address of its proof."""
    tracks = here.shelf.film(id_).tracks
    track = next((one for one in tracks if one.language.lower() == language.lower()), None)
    if track is None or not (track.is_open or proof == track.proof):
        raise NotThere
    words = here.shelf.writing(id_, language).words
    return Response(words, media_type="text/vtt", headers={"Cache-Control": "no-cache"})


_page = APIRouter()


@_page.get("/{path:path}", include_in_schema=False)
def page(path: str) -> FileResponse:
    if path.split("/")[0] in ("api", "watch") or len(path) > 200:
        raise HTTPException(404)
    return FileResponse(_PAGE / "host.html", headers={"Cache-Control": "no-cache"})


async def _problem(request: Request, error: Exception) -> Response:
    assert isinstance(error, Problem)
    return answer_of(error)


async def _not_there(request: Request, error: Exception) -> Response:
    return answer_of(Problem(404, "not-there", "There is no such thing here, or not any more."))


async def _changed_meanwhile(request: Request, error: Exception) -> Response:
    says = "This track is another one by now: somebody changed it meanwhile."
    return answer_of(Problem(412, "changed-meanwhile", says))


async def _wrong(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    field = ".".join(str(part) for part in first["loc"][1:])
    return answer_of(Problem(422, "wrong", f"{field}: {first['msg']}"))
