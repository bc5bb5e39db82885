"""A film as the page plays it, its sounds, their pictures, and what was heard in them."""

import io
import wave
from typing import Annotated

import numpy as np
from fastapi import Query, Response
from fastapi.responses import FileResponse

from dunlin.api.films.views import FitnessView, PeaksView, SoundView, SpeechView, TrackInsideView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal
from dunlin.core.messages import message
from dunlin.core.speech import SPEECH_RATE
from dunlin.core.speech.fitness import fitness_of, what_would_help
from dunlin.media.peaks import LEVELS, peaks_info, peaks_slice
from dunlin.media.probe import audio_streams
from dunlin.media.proxy import PROXY_FILE
from dunlin.media.sound import Hearing, sound_between
from dunlin.media.spectrum import spectrum_slice
from dunlin.media.speech import speech_in
from dunlin.media.tracks_inside import tracks_inside

__all__ = ["router"]

router = subject_router("films", 404)

_TYPES = {"mp4": "mp4", "webm": "webm", "wav": "wav", "mp3": "mpeg", "flac": "flac", "ogg": "ogg"}


@router.get("/films/{film_id}/file", response_class=FileResponse)
def get_film(film_id: str, here: Here) -> FileResponse:
    """The film, or its playable copy; ranges are served, so that any place can be sought."""
    film = here.films.get(film_id)
    folder = here.film_folder(film)
    if film.has_copy:
        return FileResponse(folder / PROXY_FILE, media_type="video/mp4")
    if not film.facts["browser_plays"]:
        raise Refusal(404, message("film.still-converting"))
    kind = "video" if film.facts["video_codec"] else "audio"
    subtype = _TYPES.get(film.facts["container"], "mp4")
    return FileResponse(folder / "original", media_type=f"{kind}/{subtype}")


@router.get("/films/{film_id}/sounds")
def list_sounds(film_id: str, here: Here) -> list[SoundView]:
    """The film's sounds; `stream` of other requests is the place in this list, from 0."""
    streams = audio_streams(here.film_file(here.films.get(film_id)))
    return [SoundView.model_validate(stream) for stream in streams]


@router.get("/films/{film_id}/tracks-inside")
def list_tracks_inside(film_id: str, here: Here) -> list[TrackInsideView]:
    """The caption tracks that the film brings along."""
    tracks = tracks_inside(here.film_file(here.films.get(film_id)))
    return [TrackInsideView.model_validate(track) for track in tracks]


@router.get(
    "/films/{film_id}/sound",
    response_class=Response,
    responses={200: {"content": {"audio/wav": {}}}},
)
def get_sound(
    film_id: str,
    here: Here,
    from_ms: Annotated[int, Query(ge=0)] = 0,
    duration_ms: Annotated[int, Query(ge=1, le=30_000)] = 10_000,
    stream: Annotated[int, Query(ge=0)] = 0,
    voice_focus: bool = False,
) -> Response:
    """A passage as a recogniser gets to hear it, as RIFF WAVE."""
    film = here.films.get(film_id)
    if stream >= film.facts["audio_streams"]:
        raise Refusal(404, message("sound.no-such-stream", stream=stream + 1))
    heard = sound_between(
        here.film_file(film),
        from_ms,
        from_ms + duration_ms,
        Hearing(stream, voice_focus),
    )
    data = io.BytesIO()
    with wave.open(data, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(SPEECH_RATE)
        file.writeframes(heard.astype("<i2").tobytes())
    return Response(data.getvalue(), media_type="audio/wav")


@router.get("/films/{film_id}/peaks")
def get_peaks_info(film_id: str, here: Here) -> PeaksView:
    info = peaks_info(here.film_folder(here.films.get(film_id)))
    if info is None:
        raise Refusal(404, message("sound.not-drawn-yet"))
    return PeaksView.model_validate(info, from_attributes=True)


@router.get(
    "/films/{film_id}/peaks/{level}",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def get_peaks(
    film_id: str,
    level: int,
    here: Here,
    first: Annotated[int, Query(ge=0, le=2**40)] = 0,
    count: Annotated[int, Query(ge=1, le=65536)] = 4096,
) -> Response:
    """Pairs of signed bytes: the least and greatest sample of each stretch."""
    folder = here.film_folder(here.films.get(film_id))
    if not 0 <= level < LEVELS or peaks_info(folder) is None:
        raise Refusal(404, message("sound.not-drawn-yet"))
    return _kept(peaks_slice(folder, level, first, count))


@router.get(
    "/films/{film_id}/spectrum",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def get_spectrum(
    film_id: str,
    here: Here,
    first: Annotated[int, Query(ge=0, le=2**32)] = 0,
    count: Annotated[int, Query(ge=1, le=6000)] = 3000,
) -> Response:
    """How loud each band of pitches is, one byte for each of 64 bands in each 10 milliseconds."""
    film = here.films.get(film_id)
    if not film.has_sound:
        raise Refusal(404, message("sound.none"))
    return _kept(spectrum_slice(here.film_file(film), first, count))


@router.get("/films/{film_id}/speech")
def get_speech(film_id: str, here: Here) -> SpeechView:
    """Where somebody speaks; 404 until it was listened for."""
    found = speech_in(here.film_folder(here.films.get(film_id)))
    if found is None:
        raise Refusal(404, message("sound.speech-not-found-yet"))
    return SpeechView(stretches=found)


@router.get("/films/{film_id}/sound-fitness")
def get_fitness(film_id: str, here: Here) -> FitnessView:
    """How fit the sound is for recognising, and what would help; 404 until it was listened for."""
    folder = here.film_folder(here.films.get(film_id))
    found, info = speech_in(folder), peaks_info(folder)
    if found is None or info is None:
        raise Refusal(404, message("sound.speech-not-found-yet"))
    data = peaks_slice(folder, 0, 0, info.counts[0])
    pairs = np.frombuffer(data, np.int8).reshape(-1, 2)
    fitness = fitness_of(pairs, info.pair_ms[0], found)
    return FitnessView(fitness=fitness, told=what_would_help(fitness) if fitness else [])


def _kept(data: bytes) -> Response:
    """What never changes for a film, so that the browser need not ask for it again."""
    return Response(
        data, media_type="application/octet-stream", headers={"Cache-Control": "max-age=86400"}
    )
