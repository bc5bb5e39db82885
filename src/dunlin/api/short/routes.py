"""Short form: looks, and tracks that are set in one."""

from dataclasses import asdict
from typing import Annotated

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.services import Here, Services
from dunlin.api.short.views import (
    DeedRequest,
    HeadingRequest,
    KeepLookRequest,
    LookSpecimensView,
    OfferedView,
    PhraseView,
    ShortLookView,
    ShortRequest,
    ShortView,
    TightView,
)
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import EditView, edit_view
from dunlin.api.wire import Refusal, attachment, json_answer
from dunlin.core.captions.bounds import MOST_MS
from dunlin.core.messages import message
from dunlin.core.short.looks import read_look, write_look
from dunlin.core.short.making import (
    examples,
    tightness,
)
from dunlin.core.short.model import ALL_SEEN
from dunlin.core.short.offering import offered_emoji
from dunlin.core.short.specimens import look_specimens, words_near
from dunlin.core.styles.specimens import Cells
from dunlin.work.heading import proposed_headings, set_heading
from dunlin.work.short import (
    do_to_word,
    in_short,
    keep_look,
    kept_looks,
    let_go_of_look,
    look_of_track,
    looks_to_choose,
    make_short,
    setting_of,
    usual_look,
    words_to_show,
)

__all__ = ["router"]

router = subject_router("short form", 404, 409, 422)

_GREATEST_FILE = 2**20
_Pixels = Annotated[int, Query(ge=8, le=4096)]
_NEAR_MS = 15_000
"""Words so near to a time are looked at for examples of a rhythm."""


@router.get("/looks")
def list_looks(here: Here) -> list[ShortLookView]:
    """The looks that captions can be set in: those that are kept, and those that ship."""
    kept, usual = kept_looks(here), usual_look(here)
    return [
        ShortLookView(look=look, kept=look.name in kept, default=look.name == usual.name)
        for look in looks_to_choose(here)
    ]


@router.put("/looks", status_code=204)
def put_kept_look(request: KeepLookRequest, here: Here, who: Who, key: EditKey = None) -> None:
    """Keeps a look for all projects."""
    keep_look(here, request.look, who, default=request.default, key=key)


@router.delete("/looks/{name}", status_code=204)
def remove_kept_look(name: str, here: Here, who: Who) -> None:
    """Keeps a look no longer. Captions that are in it stay so."""
    if not let_go_of_look(here, name, who):
        raise Refusal(404, message("looks.unknown", name=name))


@router.get(
    "/look-file",
    response_class=Response,
    responses={200: {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
def get_look_file(name: str, here: Here) -> Response:
    """A look as a file."""
    look = next((look for look in looks_to_choose(here) if look.name == name), None)
    if look is None:
        raise Refusal(404, message("looks.unknown", name=name))
    headers = attachment(f"{look.name}.look.json")
    return Response(write_look(look), media_type="application/json", headers=headers)


@router.post("/look-file")
async def take_look_file(
    request: Request, here: Here, who: Who, key: EditKey = None
) -> list[ShortLookView]:
    """Keeps the look of a file for all projects, in the place of one of its name."""
    data = await body_of(request, _GREATEST_FILE, "looks.file-too-large")

    def kept() -> list[ShortLookView]:
        keep_look(here, read_look(data), who, key=key)
        return list_looks(here)

    return await run_in_threadpool(kept)


@router.get("/tracks/{track_id}/short", response_model=ShortView)
def read_short(
    track_id: str, here: Here, near_ms: Annotated[int, Query(ge=0, le=MOST_MS)] = 0
) -> Response:
    """How a track is cut, and what each amount would show at once of the words near a time."""
    return json_answer(_short_view(here, track_id, near_ms))


def _short_view(here: Services, track_id: str, near_ms: int) -> ShortView:
    project = here.projects.of_track(track_id)
    short, look = in_short(project, track_id), look_of_track(project, track_id)
    shown = look or usual_look(here)
    seen, version = (short.seen, short.version) if short else (ALL_SEEN, None)
    by = setting_of(here, project, track_id, shown, seen, version)
    track, _ = here.log.track(track_id)
    words = words_to_show(here, project, track_id, track)
    near = [word for word in words if abs(word.start_ms - near_ms) < _NEAR_MS]
    return ShortView(
        look=look.name if look else None,
        rhythm=shown.rhythm,
        weighing=shown.weighing,
        fit=shown.fit,
        seen=by.seen,
        version=version,
        examples=examples(near or words[:40], by, near_ms),
        words=len(words),
        weighty=sum(bool(word.spoken.emphasis) for word in words),
        tight=[
            TightView(caption=caption.id, text=caption.text, wider=wider)
            for caption, wider in (tightness(track, by) if look else ())
        ],
        offered=[
            OfferedView(**asdict(one))
            for one in (offered_emoji(track, by.language) if look else ())
        ],
    )


@router.get("/tracks/{track_id}/look-specimens")
def draw_look_specimens(
    track_id: str,
    here: Here,
    width: _Pixels = 130,
    height: _Pixels = 74,
    across: _Pixels = 138,
    down: _Pixels = 110,
    columns: Annotated[int, Query(ge=1, le=40)] = 2,
    near_ms: Annotated[int, Query(ge=0, le=MOST_MS)] = 0,
) -> LookSpecimensView:
    """Each look in words of this film near a time, told as they are spoken, in the cells of a grid."""
    project = here.projects.of_track(track_id)
    track, _ = here.log.track(track_id)
    words = words_to_show(here, project, track_id, track)
    looks = looks_to_choose(here)
    cells = Cells(width, height, across, down, columns)
    language = project.track(track_id).language
    script, loop_ms = look_specimens(looks, words_near(words, near_ms), language, cells)
    return LookSpecimensView(names=[look.name for look in looks], script=script, loop_ms=loop_ms)


@router.post("/tracks/{track_id}/short", response_model=EditView)
def set_in_short(
    track_id: str, request: ShortRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Sets a track in a look: its words parted and weighed by it, its style the track's."""
    project = here.projects.of_track(track_id)
    done = make_short(
        here, project, track_id, request.look, who,
        seen=request.seen, version=request.version, base=request.base_revision, styles_base=request.styles_revision,
        gesture=request.gesture, key=key,
    )  # fmt: skip
    if done is None:
        return Response(status_code=204)
    return json_answer(
        edit_view(here, here.projects.get(project.id), track_id, done, request.base_revision)
    )


@router.post("/tracks/{track_id}/short/words", response_model=EditView)
def do_to_a_word(
    track_id: str, request: DeedRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Carries a word to another caption, sets or takes a boundary, leaves a word out, or says what is known of it."""
    project = here.projects.of_track(track_id)
    done = do_to_word(
        here, project, track_id, request.caption, request.offset, request.deed, who,
        known=request.known.model_dump(exclude_unset=True) if request.known else None,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    if done is None:
        return Response(status_code=204)
    return json_answer(edit_view(here, project, track_id, done, request.base_revision))


@router.get("/tracks/{track_id}/headings")
def propose_headings(track_id: str, here: Here) -> list[PhraseView]:
    """Phrases of what is said that may open the clip, the best first."""
    project = here.projects.of_track(track_id)
    return [PhraseView(**asdict(one)) for one in proposed_headings(here, project, track_id)]


@router.put("/tracks/{track_id}/heading", response_model=EditView)
def put_heading(
    track_id: str, request: HeadingRequest, here: Here, who: Who, key: EditKey = None
) -> Response:
    """Puts a heading over the beginning of a track in short form, within what a viewer sees."""
    project = here.projects.of_track(track_id)
    done = set_heading(
        here, project, track_id, request.text, request.style, who, instead=request.instead,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    if done is None:
        return Response(status_code=204)
    # Its style may be new.
    project = here.projects.get(project.id)
    return json_answer(edit_view(here, project, track_id, done, request.base_revision))
