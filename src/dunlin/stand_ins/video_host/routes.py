"""Requests of programs and of the host's page: films, their languages, films on their way in."""

from hashlib import file_digest
from typing import Annotated

from fastapi import APIRouter, BackgroundTasks, Depends, Query, Request, Response
from fastapi.responses import FileResponse
from starlette.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect

from dunlin.media.ffmpeg import MediaError
from dunlin.media.probe import probe
from dunlin.stand_ins.video_host.machine import LANGUAGE, captions_by_machine
from dunlin.stand_ins.video_host.shelf import (
    Arrival,
    ChangedMeanwhile,
    FilmOnShelf,
    NotThere,
    NoWebVTT,
    Shelf,
    TrackOnShelf,
)
from dunlin.stand_ins.video_host.tokens import Holder
from dunlin.stand_ins.video_host.views import (
    AccountView,
    ChangeTrackRequest,
    CollectionView,
    FilmsView,
    FilmView,
    TrackView,
    UploadRequest,
    UploadView,
    WritingView,
)
from dunlin.stand_ins.video_host.who import Here, Problem, asks

__all__ = ["HOST_NAME", "film_view", "router"]

HOST_NAME = "Strandline"
_GREATEST_TRACK = 8 << 20
_FILMS_AT_ONCE = 50
_MACHINE = "the host's machine"

router = APIRouter(prefix="/api")
_Reader = Annotated[Holder, Depends(asks("films:read"))]
_Bringer = Annotated[Holder, Depends(asks("films:write"))]
_Writer = Annotated[Holder, Depends(asks("captions:write"))]


@router.get("/account")
def account(who: Annotated[Holder, Depends(asks())]) -> AccountView:
    return AccountView(
        host=HOST_NAME, name=who.name, scopes=sorted(who.scopes), expires_ms=who.expires_ms
    )


@router.get("/collections")
def collections(here: Here, who: _Reader) -> list[CollectionView]:
    return [CollectionView(id=i, name=n, films=f) for i, n, f in here.shelf.collections()]


@router.post("/collections")
def begin_collection(
    here: Here, who: _Bringer, name: Annotated[str, Query(min_length=1, max_length=200)]
) -> CollectionView:
    """The collection of a name, which is begun where there is none."""
    id_ = here.shelf.collection_called(name)
    return CollectionView(id=id_, name=name, films=0)


@router.get("/films")
def films(
    request: Request,
    here: Here,
    who: _Reader,
    collection: str | None = None,
    search: Annotated[str, Query(max_length=200)] = "",
    after: Annotated[str | None, Query(max_length=80)] = None,
) -> FilmsView:
    found, more = here.shelf.films(collection, search, after, _FILMS_AT_ONCE)
    return FilmsView(films=[film_view(request, here, film) for film in found], next=more)


@router.get("/films/{id_}")
def film(id_: str, request: Request, here: Here, who: _Reader) -> FilmView:
    return film_view(request, here, here.shelf.film(id_))


@router.delete("/films/{id_}", status_code=204)
def remove_film(id_: str, here: Here, who: _Bringer) -> None:
    here.shelf.remove_film(id_)


@router.get("/films/{id_}/file", response_class=FileResponse)
def film_file(id_: str, here: Here, who: _Reader) -> FileResponse:
    """The film as it came; ranges are served (RFC 9110, 14), so that what broke off goes on."""
    found = here.shelf.film(id_)
    return FileResponse(here.shelf.film_file(id_), headers={"ETag": f'"{found.sha256}"'})


@router.post("/films/{id_}/machine-captions", status_code=202)
def make_machine_captions(
    id_: str, request: Request, here: Here, who: _Writer, later: BackgroundTasks
) -> FilmView:
    """Has the host make captions by itself."""
    found = here.shelf.film(id_)
    if found.machine != "making":
        here.shelf.say_machine(id_, "making")
        later.add_task(_by_machine, here.shelf, id_)
    return film_view(request, here, here.shelf.film(id_))


def _by_machine(shelf: Shelf, id_: str) -> None:
    try:
        words = captions_by_machine(shelf.film_file(id_))
        shelf.write_track(id_, LANGUAGE, words, is_open=True, by=_MACHINE, by_machine=True)
    except ChangedMeanwhile:
        # What people wrote stays.
        shelf.say_machine(id_, "none")
    except (MediaError, NotThere):
        shelf.say_machine(id_, "failed")
    else:
        shelf.say_machine(id_, "made")


@router.get("/films/{id_}/tracks/{language}")
def read_track(
    id_: str, language: str, here: Here, who: _Reader, version: int | None = None
) -> Response:
    """What a track says, or said, as WebVTT."""
    writing = here.shelf.writing(id_, language, version)
    return Response(writing.words, media_type="text/vtt", headers={"ETag": f'"{writing.version}"'})


@router.put("/films/{id_}/tracks/{language}")
async def write_track(
    id_: str,
    language: str,
    request: Request,
    response: Response,
    here: Here,
    who: _Writer,
    is_open: bool = False,
) -> TrackView:
    """Puts a track (WebVTT) in a language, or in the place of the version that `If-Match` names (RFC 9110, 13.1.1); 412 when
    it is another by now, or there where there was to be none."""
    if len(language) > 35 or not language.replace("-", "").isalnum():
        raise Problem(422, "language", "That is no tag of a language.")
    body = bytearray()
    async for chunk in request.stream():
        body += chunk
        if len(body) > _GREATEST_TRACK:
            raise Problem(413, "too-large", "A track has at most 8 MB.")
    seen = _version_in(request.headers.get("if-match"))
    words = bytes(body).decode("utf-8", "replace")
    try:
        track, is_new = await run_in_threadpool(
            here.shelf.write_track, id_, language, words, is_open=is_open, by=who.name, seen=seen
        )
    except NoWebVTT as error:
        raise Problem(422, "no-webvtt", f"This is no WebVTT: {error}") from None
    response.status_code = 201 if is_new else 200
    return _track_view(request, id_, track)


def _version_in(etag: str | None) -> int | None:
    """The version that an entity tag names; one that cannot be is that of no track."""
    if etag is None:
        return None
    number = etag.strip().strip('"')
    return int(number) if number.isdecimal() else -1


@router.patch("/films/{id_}/tracks/{language}")
def change_track(
    id_: str, language: str, asked: ChangeTrackRequest, request: Request, here: Here, who: _Writer
) -> TrackView:
    track = here.shelf.open_track(id_, language, is_open=asked.is_open)
    return _track_view(request, id_, track)


@router.delete("/films/{id_}/tracks/{language}", status_code=204)
def remove_track(id_: str, language: str, here: Here, who: _Writer) -> None:
    here.shelf.remove_track(id_, language)


@router.get("/films/{id_}/tracks/{language}/history")
def history(id_: str, language: str, here: Here, who: _Reader) -> list[WritingView]:
    return [WritingView.model_validate(each) for each in here.shelf.history(id_, language)]


@router.post("/uploads", status_code=201)
def begin_upload(asked: UploadRequest, request: Request, here: Here, who: _Bringer) -> UploadView:
    """Begins to take in a film; its bytes come by PATCH, as many requests as it takes."""
    here.shelf.needs_collection(asked.collection)
    return _upload_view(request, here, here.shelf.begin_upload(asked.model_dump()))


@router.get("/uploads/{id_}")
def upload(id_: str, request: Request, here: Here, who: _Bringer) -> UploadView:
    """How much of a film is there."""
    return _upload_view(request, here, here.shelf.upload(id_))


@router.delete("/uploads/{id_}", status_code=204)
def forget_upload(id_: str, here: Here, who: _Bringer) -> None:
    here.shelf.forget_upload(id_)


@router.patch("/uploads/{id_}")
async def append(id_: str, request: Request, here: Here, who: _Bringer) -> UploadView:
    """Takes in more of a film, from `Upload-Offset` on, where what is there ends. What came before a connection broke off
    stays. The last byte makes it a film."""
    arrival = await run_in_threadpool(here.shelf.upload, id_)
    path, told = here.shelf.upload_file(id_), arrival.told
    if arrival.film is None:
        offset, there = request.headers.get("upload-offset", ""), path.stat().st_size
        if not offset.isdecimal() or int(offset) != there:
            raise Problem(409, "offset", f"{there} bytes are there, and it goes on behind them.")
        with path.open("ab") as file:
            try:
                async for chunk in request.stream():
                    there += len(chunk)
                    if there > told["size_bytes"]:
                        raise Problem(413, "too-much", "More came than the film was to have.")
                    await run_in_threadpool(file.write, chunk)
            except ClientDisconnect:
                raise Problem(400, "broken-off", "The connection broke off.") from None
        if there == told["size_bytes"]:
            await run_in_threadpool(_complete, here.shelf, arrival)
    return await run_in_threadpool(lambda: _upload_view(request, here, here.shelf.upload(id_)))


def _complete(shelf: Shelf, arrival: Arrival) -> None:
    """Makes an upload that is all there a film, under the upload's id."""
    path, told = shelf.upload_file(arrival.id), arrival.told
    with path.open("rb") as file:
        digest = file_digest(file, "sha256").hexdigest()
    if digest != told["sha256"]:
        shelf.forget_upload(arrival.id)
        raise Problem(
            422, "hash", "What came is not what was told: the hashes differ. Send it again."
        )
    try:
        facts = probe(path)
    except MediaError as error:
        shelf.forget_upload(arrival.id)
        raise Problem(422, "no-film", f"This is no film: {error}") from None
    path.replace(shelf.film_file(arrival.id))
    shelf.add_film(id=arrival.id, duration_ms=facts.duration_ms, **told)
    shelf.end_upload(arrival.id, arrival.id)


def _upload_view(request: Request, here: Here, arrival: Arrival) -> UploadView:
    if arrival.film:
        film = film_view(request, here, here.shelf.film(arrival.film))
        return UploadView(id=arrival.id, offset=arrival.told["size_bytes"], film=film)
    size = here.shelf.upload_file(arrival.id).stat().st_size
    return UploadView(id=arrival.id, offset=size, film=None)


def film_view(request: Request, here: Here, film: FilmOnShelf) -> FilmView:
    """A film as it is told; while the host lies, larger than it is."""
    tracks = [_track_view(request, film.id, track) for track in film.tracks]
    size = film.size_bytes * (2 if here.faults[0].lie_about_size else 1)
    page = f"{request.base_url}film/{film.id}"
    values = {name: getattr(film, name) for name in FilmView.model_fields if hasattr(film, name)}
    return FilmView(**values | {"tracks": tracks, "size_bytes": size, "page": page})


def _track_view(request: Request, film: str, track: TrackOnShelf) -> TrackView:
    page = f"{request.base_url}film/{film}?language={track.language}&proof={track.proof}"
    values = {name: getattr(track, name) for name in TrackView.model_fields if hasattr(track, name)}
    return TrackView(**values, page=page)
