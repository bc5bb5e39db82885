"""Caption files: looked at, taken in, and written."""

import asyncio
from dataclasses import replace
from typing import Annotated, Any

from fastapi import Depends, Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.files.views import (
    AgreementView,
    FormatInfoView,
    FormatView,
    LossView,
    OddityView,
    PreviewView,
    ReadingView,
    StlHead,
)
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import EditView, edit_view
from dunlin.api.wire import Problem, attachment, json_answer
from dunlin.core.captions.flatten import flattened
from dunlin.core.formats import (
    ENCODINGS,
    FORMATS,
    GREATEST_BYTES,
    READABLE,
    Context,
    Reading,
    losses,
    missing_fonts,
    read_file,
)
from dunlin.core.formats.stl import asked_head, counted_rate, with_asked_head
from dunlin.core.messages import BadInput, NotNow, message
from dunlin.core.text.language import language_of
from dunlin.core.timecode import FrameRate, parse_rate, parse_time
from dunlin.core.timing.sync import sync
from dunlin.media.speech import speech_in
from dunlin.work.apart import apart
from dunlin.work.delivering import caption_file, document_of
from dunlin.work.hearing import needs_sound
from dunlin.work.replacing import put_in_place
from dunlin.work.specs import change_track
from dunlin.work.styles import give_speaker_style, styles_of_file

__all__ = ["router"]

router = subject_router("caption files", 404, 422)


_PREVIEW, _MOST_ODDITIES = 200, 500
# Reading is work for one core; two at once are enough beside everything else.
_reading = asyncio.Semaphore(2)


class _How:
    """How a file is to be read, as far as a person says so."""

    def __init__(
        self,
        name: Annotated[str, Query(max_length=1000)],
        format_name: Annotated[str | None, Query(alias="format")] = None,
        encoding: str | None = None,
        fps: str | None = None,
    ) -> None:
        self.name, self.format_name, self.encoding, self.fps = name, format_name, encoding, fps

    def read(self, data: bytes, rate: FrameRate, language: str) -> Reading:
        rate = parse_rate(self.fps) if self.fps else rate
        context = Context(rate, self.encoding, language=language)
        return apart(read_file, data, self.name, context, self.format_name)


How = Annotated[_How, Depends()]


async def _read(request: Request, how: _How, rate: FrameRate, language: str) -> Reading:
    data = await body_of(request, GREATEST_BYTES, "files.too-large-captions")
    async with _reading:
        return await run_in_threadpool(how.read, data, rate, language)


@router.get("/caption-formats")
def list_formats() -> list[FormatInfoView]:
    """The formats that can be read."""
    return [
        FormatInfoView(name=name, title=m.TITLE, endings=m.ENDINGS) for name, m in READABLE.items()
    ]


@router.post("/projects/{project_id}/captions-file")
async def look_at_captions_file(
    project_id: str, request: Request, here: Here, how: How
) -> ReadingView:
    """Reads a caption file, the body, and says all about it. Nothing of it is taken in."""
    project = await run_in_threadpool(here.projects.get, project_id)
    reading = await _read(request, how, project.film.rate, project.tracks[0].language)
    captions = reading.document.captions
    oddities = [*missing_fonts(reading.document), *reading.oddities]
    text = "\n".join(caption.text for caption in captions)
    return ReadingView(
        format=reading.format.NAME,
        title=reading.format.TITLE,
        encoding=reading.encoding,
        encodings=ENCODINGS,
        counts_frames=reading.format.HOLDS.counts_frames,
        language=reading.document.language or language_of(text),
        caption_count=len(captions),
        ends_ms=max((caption.out_ms for caption in captions), default=0),
        captions=[PreviewView.model_validate(caption) for caption in captions[:_PREVIEW]],
        oddity_count=len(oddities),
        oddities=[OddityView.model_validate(oddity) for oddity in oddities[:_MOST_ODDITIES]],
    )


@router.post("/projects/{project_id}/captions-file/agreement", responses={409: {"model": Problem}})
async def agreement_of_captions_file(
    project_id: str, request: Request, here: Here, how: How
) -> AgreementView:
    """How well a caption file, the body, agrees with the film's sound, as it is and brought to it.
    Of several files for one film, the one with the most agreement is for this cut."""
    project = await run_in_threadpool(here.projects.get, project_id)
    needs_sound(project)
    speech = await run_in_threadpool(speech_in, here.film_folder(project.film))
    if speech is None:
        raise NotNow(message("sound.speech-not-found-yet"))
    reading = await _read(request, how, project.film.rate, project.tracks[0].language)
    captions = reading.document.captions
    async with _reading:
        found = await run_in_threadpool(sync, sorted(captions, key=lambda c: c.in_ms), speech)
    return AgreementView(
        caption_count=len(captions),
        as_it_is=found.agreement_before,
        in_place=found.agreement_after,
        sure=found.sure,
        offsets_ms=[round(piece.offset_ms) for piece in found.pieces],
        drifts=bool(found.drift),
    )


@router.post(
    "/tracks/{track_id}/captions-file", response_model=EditView, responses={409: {"model": Problem}}
)
async def take_in_captions_file(
    track_id: str,
    request: Request,
    here: Here,
    how: How,
    who: Who,
    gesture: Annotated[str, Query(min_length=1, max_length=64)],
    base_revision: Annotated[int | None, Query(ge=0)] = None,
    key: EditKey = None,
) -> Response:
    """Puts the captions of a file, the body, in place of those in the track, in one edit."""
    project = await run_in_threadpool(here.projects.of_track, track_id)
    reading = await _read(request, how, project.film.rate, project.track(track_id).language)

    def take_in() -> EditView:
        document = reading.document
        also: dict[str, Any] = {"extras": [list(pair) for pair in document.extras]}
        if document.styles:
            also["style"] = document.style
        styles = styles_of_file(project, document.styles)
        done = put_in_place(
            here, project, track_id, document.captions, who,
            base=base_revision, gesture=gesture, key=key,
            also=also, before=[styles] if styles else [],
        )  # fmt: skip
        for speaker, name in document.speakers.items():
            now = here.projects.get(project.id)
            give_speaker_style(here, now, speaker, name, who, gesture=gesture)
        return edit_view(here, project, track_id, done, base_revision)

    return json_answer(await run_in_threadpool(take_in))


@router.get("/tracks/{track_id}/formats")
def list_track_formats(track_id: str, here: Here) -> list[FormatView]:
    """The formats a track can be written in, each with what it cannot hold of this one."""
    project = here.projects.of_track(track_id)
    document = document_of(here, project, track_id)
    return [
        FormatView(
            name=name,
            title=module.TITLE,
            ending=module.ENDINGS[0],
            losses=[
                LossView.model_validate(loss)
                for loss in losses(document, module, project.film.rate)
            ],
        )
        for name, module in FORMATS.items()
    ]


@router.get("/tracks/{track_id}/stl-head")
def get_stl_head(track_id: str, here: Here) -> StlHead:
    """What the head of the track's EBU STL files is asked to say."""
    return StlHead.model_validate(
        asked_head(document_of(here, here.projects.of_track(track_id), track_id))
    )


@router.put("/tracks/{track_id}/stl-head")
def set_stl_head(
    track_id: str, head: StlHead, here: Here, who: Who, key: EditKey = None
) -> StlHead:
    """Has the head of the track's EBU STL files say this, from now on."""
    project = here.projects.of_track(track_id)
    if head.programme_start:
        parse_time(head.programme_start, counted_rate(project.film.rate))
    asked = head.model_dump(exclude_defaults=True)
    extras = with_asked_head(project.track(track_id).extras, asked)
    change_track(here, project, track_id, {"extras": [list(pair) for pair in extras]}, who, key=key)
    return head


@router.get(
    "/tracks/{track_id}/file",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def write_track(
    track_id: str,
    here: Here,
    format_name: Annotated[str, Query(alias="format")],
    flatten: bool = False,
) -> Response:
    """The track as a caption file to keep.

    With `flatten`, captions that are shown together are stacked in one, also where the format could
    hold them as they are.
    """
    if format_name not in FORMATS:
        raise BadInput(message("formats.unknown", name=format_name))
    project, module = here.projects.of_track(track_id), FORMATS[format_name]
    document = document_of(here, project, track_id)
    if flatten:
        document = replace(document, captions=flattened(document.captions))
    file = caption_file(project, track_id, document, module)
    return Response(
        file.data,
        media_type="application/octet-stream",
        headers=attachment(file.name),
    )
