"""Translations that go to somebody elsewhere and come back, and those that begin from a file."""

from typing import Annotated, Literal, TypeAlias

from fastapi import Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.handover.views import BegunView, ReturnedView, TakeBackRequest, TextChangeView
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import track_info_view
from dunlin.api.wire import Language, attachment
from dunlin.core.formats import GREATEST_BYTES
from dunlin.core.language.handover.reading import read_returned
from dunlin.core.language.handover.tables import docx_of, written_csv
from dunlin.core.language.handover.xliff import written_xliff
from dunlin.core.project.targets import TRACKS
from dunlin.work.apart import apart
from dunlin.work.handover import Taken, begin_from_file, changes_in, handed_over, take_back

__all__ = ["router"]

router = subject_router("translating", 404, 409, 422)

_MOST = 256 << 20
"""Bytes of a file that comes back."""

FileKind: TypeAlias = Literal["xlf", "docx", "csv"]
_MEDIA_TYPES = {
    "xlf": "application/xliff+xml",
    "docx": "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
    "csv": "text/csv",
}
_Name = Annotated[str, Query(max_length=1000)]


@router.post("/projects/{project_id}/translations/file", status_code=201)
async def begin_translation_from_file(
    project_id: str,
    source: str,
    language: Language,
    name: _Name,
    request: Request,
    here: Here,
    who: Who,
    title: Annotated[str, Query(max_length=200)] = "",
    spec_id: str | None = None,
    key: EditKey = None,
) -> BegunView:
    """Adds a translation with the words of a file, the body: captions, or a script of any kind."""
    data = await body_of(request, GREATEST_BYTES, "files.too-large-captions")

    def begin() -> BegunView:
        project = here.projects.get(project_id)
        begun = begin_from_file(
            here, project, source, language, data, name, who,
            title=title.strip(), spec_id=spec_id, key=key,
        )  # fmt: skip
        [made] = begun.done.changed[TRACKS].touched
        added = here.projects.get(project_id)
        return BegunView(
            track=track_info_view(here, added, added.track(made)),
            doubtful=begun.doubtful,
            left_over=list(begun.left_over),
        )

    return await run_in_threadpool(begin)


@router.get("/tracks/{track_id}/handover.{kind}", response_class=Response)
def hand_over(track_id: str, kind: FileKind, here: Here) -> Response:
    """A translation for somebody who works on it elsewhere: XLIFF 2.0, or a document of two columns."""
    project = here.projects.of_track(track_id)
    given = handed_over(here, project, track_id)
    data: bytes | str
    if kind == "docx":
        data = docx_of(given)
    else:
        data = "".join(written_xliff(given)) if kind == "xlf" else written_csv(given)
    name = f"{project.title}.{given.language}-{given.target}.{kind}"
    return Response(data, media_type=_MEDIA_TYPES[kind], headers=attachment(name))


@router.post("/tracks/{track_id}/handover")
async def look_at_returned(
    track_id: str, name: _Name, request: Request, here: Here
) -> ReturnedView:
    """What a file that came back, the body, would change. Nothing of it is taken in."""
    data = await body_of(request, _MOST, "files.too-large-captions")

    def look() -> ReturnedView:
        project = here.projects.of_track(track_id)
        returned = apart(read_returned, data, name)
        with here.log.moment(project.id) as now:
            changes, left_over = changes_in(here, project, track_id, returned)
            return ReturnedView(
                revision=now.newest,
                changes=[TextChangeView.model_validate(one) for one in changes],
                left_over=left_over,
            )

    return await run_in_threadpool(look)


@router.put("/tracks/{track_id}/handover", status_code=204)
def take_in_returned(
    track_id: str, request: TakeBackRequest, here: Here, who: Who, key: EditKey = None
) -> None:
    """Puts the words that came back, as far as they were chosen, into their captions, in one edit."""
    project = here.projects.of_track(track_id)
    taken = [Taken(one.caption, one.text, one.said, one.is_confirmed) for one in request.taken]
    take_back(
        here, project, track_id, taken, who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
