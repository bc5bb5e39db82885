"""Scripts from clients: looked at, and taken in as captions to be timed."""

from typing import Annotated, Literal

from fastapi import Depends, Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.files.views import PreviewView
from dunlin.api.scripts.views import NamedCount, ScriptView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import EditView, edit_view
from dunlin.api.wire import Problem, json_answer
from dunlin.core.captions import Caption
from dunlin.core.messages import BadInput, message
from dunlin.core.scripts import (
    CHARACTERS_A_SECOND,
    Script,
    captions_of_script,
    read_script,
    text_of_document,
)
from dunlin.core.text.language import language_of
from dunlin.store.projects import Project
from dunlin.work.apart import apart
from dunlin.work.judging import judge_of
from dunlin.work.replacing import put_in_place

__all__ = ["router"]

router = subject_router("scripts", 404, 422)

_GREATEST_BYTES = 32 * 2**20
_PREVIEW = 200
_MOST_CHARACTERS = 1_000_000


class _How:
    """How a script is to be read."""

    def __init__(
        self,
        name: Annotated[str, Query(max_length=1000)],
        by: Literal["lines", "paragraphs"] = "lines",
        names: bool = True,
        descriptions: bool = True,
    ) -> None:
        self.name, self.lines, self.names, self.descriptions = (
            name,
            by == "lines",
            names,
            descriptions,
        )

    def read(
        self, data: bytes, here: Services, project: Project, track_id: str
    ) -> tuple[Script, tuple[Caption, ...]]:
        text = apart(text_of_document, data, self.name)
        if len(text) > _MOST_CHARACTERS:
            raise BadInput(
                message(
                    "scripts.too-long",
                    millions=round(len(text) / 1000000.0, 1),
                    hours=len(text) // (CHARACTERS_A_SECOND * 3600),
                ),
            )
        script = read_script(
            text, lines=self.lines, names=self.names, descriptions=self.descriptions
        )
        setting = judge_of(here, project, track_id).setting
        return script, captions_of_script(
            script, setting.spec, setting.rate, setting.language, lines=self.lines
        )


How = Annotated[_How, Depends()]


@router.post("/tracks/{track_id}/script/preview")
async def look_at_script(track_id: str, request: Request, here: Here, how: How) -> ScriptView:
    """Reads a script, the body, and says what would come of it. Nothing of it is taken in."""
    data = await body_of(request, _GREATEST_BYTES, "files.too-large-script")

    def look() -> ScriptView:
        project = here.projects.of_track(track_id)
        script, captions = how.read(data, here, project, track_id)
        return ScriptView(
            passage_count=len(script.passages),
            speakers=[NamedCount(name=name, count=n) for name, n in script.speakers.items()],
            description_count=script.descriptions,
            spoken_ms=script.spoken_ms,
            language=_other_language(script, project, track_id),
            caption_count=len(captions),
            captions=[PreviewView.model_validate(caption) for caption in captions[:_PREVIEW]],
        )

    return await run_in_threadpool(look)


def _other_language(script: Script, project: Project, track_id: str) -> str | None:
    told = language_of(script.said)
    own = project.track(track_id).language.split("-")[0].lower()
    return None if told == own else told


@router.post(
    "/tracks/{track_id}/script", response_model=EditView, responses={409: {"model": Problem}}
)
async def take_in_script(
    track_id: str,
    request: Request,
    here: Here,
    how: How,
    who: Who,
    gesture: Annotated[str, Query(min_length=1, max_length=64)],
    base_revision: Annotated[int | None, Query(ge=0)] = None,
    key: EditKey = None,
) -> Response:
    """Puts captions of a script, the body, in place of those in the track, in one edit.

    They follow each other at the speed at which they are read, until they are timed.
    """
    data = await body_of(request, _GREATEST_BYTES, "files.too-large-script")

    def take_in() -> EditView:
        project = here.projects.of_track(track_id)
        _, captions = how.read(data, here, project, track_id)
        done = put_in_place(
            here, project, track_id, captions, who,
            base=base_revision, gesture=gesture, key=key,
        )  # fmt: skip
        return edit_view(here, project, track_id, done, base_revision)

    return json_answer(await run_in_threadpool(take_in))
