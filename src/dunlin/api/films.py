"""The film as the page plays it, and the pictures of its sound."""

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Response
from fastapi.responses import FileResponse

from dunlin.api.schemas import PeaksView, Problem
from dunlin.api.services import Here
from dunlin.media.peaks import LEVELS, peaks_info, peaks_slice
from dunlin.media.spectrum import spectrum_slice

__all__ = ["router"]

router = APIRouter(tags=["films"], responses={404: {"model": Problem}})

_TYPES = {"mp4": "mp4", "webm": "webm", "wav": "wav", "mp3": "mpeg", "flac": "flac", "ogg": "ogg"}


@router.get("/projects/{project_id}/film", response_class=FileResponse)
def get_film(project_id: str, here: Here) -> FileResponse:
    """The film, or its playable copy; ranges are served, so that any place can be sought."""
    film = here.projects.get(project_id).film
    folder = here.settings.films / project_id
    if film.has_copy:
        return FileResponse(folder / "copy.mp4", media_type="video/mp4")
    if not film.facts["browser_plays"]:
        raise HTTPException(404, "this film is still being converted")
    kind = "video" if film.facts["video_codec"] else "audio"
    subtype = _TYPES.get(film.facts["container"], "mp4")
    return FileResponse(folder / "original", media_type=f"{kind}/{subtype}")


@router.get("/projects/{project_id}/peaks")
def get_peaks_info(project_id: str, here: Here) -> PeaksView:
    here.projects.get(project_id)
    info = peaks_info(here.settings.films / project_id)
    if info is None:
        raise HTTPException(404, "the sound has not been drawn yet")
    return PeaksView.model_validate(info, from_attributes=True)


@router.get(
    "/projects/{project_id}/peaks/{level}",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def get_peaks(
    project_id: str,
    level: int,
    here: Here,
    first: Annotated[int, Query(ge=0, le=2**40)] = 0,
    count: Annotated[int, Query(ge=1, le=65536)] = 4096,
) -> Response:
    """Pairs of signed bytes: the least and greatest sample of each stretch."""
    here.projects.get(project_id)
    folder = here.settings.films / project_id
    if not 0 <= level < LEVELS or peaks_info(folder) is None:
        raise HTTPException(404, "the sound has not been drawn yet")
    return _kept(peaks_slice(folder, level, first, count))


@router.get(
    "/projects/{project_id}/spectrum",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def get_spectrum(
    project_id: str,
    here: Here,
    first: Annotated[int, Query(ge=0, le=2**32)] = 0,
    count: Annotated[int, Query(ge=1, le=6000)] = 3000,
) -> Response:
    """How loud each band of pitches is, one byte for each of 64 bands in each 10 milliseconds."""
    if not here.projects.get(project_id).film.has_sound:
        raise HTTPException(404, "this film has no sound")
    return _kept(spectrum_slice(here.settings.films / project_id / "original", first, count))


def _kept(data: bytes) -> Response:
    """What never changes for a film, so that the browser need not ask for it again."""
    return Response(
        data, media_type="application/octet-stream", headers={"Cache-Control": "max-age=86400"}
    )
