"""Styles: those of a project, and those that are kept for all."""

from collections import Counter
from typing import Annotated

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.services import Here, Services
from dunlin.api.styles.looks import LooksRequest, LooksView, looks_view
from dunlin.api.styles.views import (
    DefaultRequest,
    KeepRequest,
    KeptStyleView,
    OutlineView,
    SpeakerStyleRequest,
    SpecimensView,
    StyleRename,
    StyleRequest,
    StylesView,
    StyleView,
)
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Refusal, attachment, json_answer
from dunlin.core.captions.edits import Conflict
from dunlin.core.captions.look import StyleName
from dunlin.core.messages import BadInput, message
from dunlin.core.project.targets import SPEAKERS
from dunlin.core.styles.file import read_styles, write_styles
from dunlin.core.styles.shelf import families_to_choose
from dunlin.core.styles.specimens import Cells, specimen_script
from dunlin.core.styles.svg import MOST_BYTES, outline_of_svg
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.projects import Project
from dunlin.work.apart import apart
from dunlin.work.styles import (
    change_style,
    font_specimens_of,
    give_speaker_style,
    keep_style,
    keep_styles,
    kept_styles,
    let_go_of_style,
    make_default,
    remove_style,
    rename_style,
    specimens_of,
    take_style,
)

__all__ = ["router"]

router = subject_router("styles", 404, 409, 422)


_GREATEST_FILE = 4 * 2**20
_Pixels = Annotated[int, Query(ge=8, le=4096)]


def _views(here: Services, project: Project) -> StylesView:
    kept = kept_styles(here)
    used = {
        track.id: Counter(caption.style for caption in here.log.track(track.id)[0])
        for track in project.tracks
    }
    speakers = project.records[SPEAKERS]
    styles = [
        StyleView(
            name=name,
            look=look,
            captions={track: counts[name] for track, counts in used.items()},
            speakers=[who for who, entry in speakers.items() if entry.get("style") == name],
            kept=name in kept,
            is_older=name in kept and kept[name].look != look,
        )
        for name, look in project.styles.items()
    ]
    return StylesView(revision=project.revision, styles=styles)


@router.get("/projects/{project_id}/styles")
def list_project_styles(project_id: str, here: Here) -> StylesView:
    return _views(here, here.projects.get(project_id))


@router.put("/projects/{project_id}/styles/{name}")
def put_style(
    project_id: str,
    name: StyleName,
    request: StyleRequest,
    here: Here,
    who: Who,
    key: EditKey = None,
) -> StylesView:
    """Makes a style of this look, or changes the one of that name."""
    project = here.projects.get(project_id)
    change_style(
        here, project, name, request.look, who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    return _views(here, here.projects.get(project_id))


@router.post("/projects/{project_id}/styles/{name}/name")
def put_style_name(
    project_id: str, name: str, request: StyleRename, here: Here, who: Who, key: EditKey = None
) -> StylesView:
    """Gives a style another name, wherever it is used."""
    rename_style(here, here.projects.get(project_id), name, request.name, who, key=key)
    return _views(here, here.projects.get(project_id))


@router.delete("/projects/{project_id}/styles/{name}")
def remove_project_style(
    project_id: str,
    name: str,
    here: Here,
    who: Who,
    instead: str | None = None,
    key: EditKey = None,
) -> StylesView:
    """Takes a style away; what uses it gets another, or none."""
    remove_style(here, here.projects.get(project_id), name, instead, who, key=key)
    return _views(here, here.projects.get(project_id))


@router.post("/projects/{project_id}/styles/{name}/taken")
def take_kept_style(
    project_id: str, name: str, here: Here, who: Who, key: EditKey = None
) -> StylesView:
    """Copies a style that is kept for all projects into this one."""
    take_style(here, here.projects.get(project_id), name, who, key=key)
    return _views(here, here.projects.get(project_id))


@router.put("/projects/{project_id}/speaker-style", status_code=204)
def put_speaker_style(
    project_id: str, request: SpeakerStyleRequest, here: Here, who: Who, key: EditKey = None
) -> None:
    """Sets all that a speaker says in a style."""
    project = here.projects.get(project_id)
    give_speaker_style(
        here, project, request.speaker, request.style, who, gesture=request.gesture, key=key
    )


@router.get("/tracks/{track_id}/specimens")
def draw_specimens(
    track_id: str,
    here: Here,
    width: _Pixels = 152,
    height: _Pixels = 58,
    across: _Pixels = 160,
    down: _Pixels = 84,
    columns: Annotated[int, Query(ge=1, le=40)] = 4,
    in_fonts: str | None = None,
) -> SpecimensView:
    """Each style of a project in words that are set in it, and behind them those that are kept for all projects, in the
    cells of a grid.

    :param in_fonts: a caption, by its id: then its words are drawn in each family of fonts there is
    """
    project = here.projects.of_track(track_id)
    if in_fonts is None:
        sheet, words = specimens_of(here, project, track_id)
    else:
        families = [family.name for family in families_to_choose()]
        sheet, words = font_specimens_of(here, project, track_id, in_fonts, families)
    picture = script_size(probe_from(project.film.facts))
    cells = Cells(width, height, across, down, columns)
    return SpecimensView(names=list(words), script=specimen_script(sheet, words, picture, cells))


@router.post("/tracks/{track_id}/looks", response_model=LooksView)
def read_looks(track_id: str, request: LooksRequest, here: Here, who: Who) -> Response:
    """How captions look, what says so, and where their letters are; also as they would be with changes that are not
    made yet."""
    try:
        view = looks_view(here, here.projects.of_track(track_id), track_id, request, who)
    except Conflict as refused:
        raise BadInput(refused.message) from None
    return json_answer(view)


@router.put("/tracks/{track_id}/default-style", status_code=204)
def put_default_style(
    track_id: str, request: DefaultRequest, here: Here, who: Who, key: EditKey = None
) -> None:
    """Says in which style the captions of a track are set that name none."""
    project = here.projects.of_track(track_id)
    make_default(here, project, track_id, request.style, who, gesture=request.gesture, key=key)


@router.get("/styles")
def list_kept_styles(here: Here) -> list[KeptStyleView]:
    """The styles that are kept for all projects."""
    return [KeptStyleView.model_validate(style) for style in kept_styles(here).values()]


@router.get(
    "/styles-file",
    response_class=Response,
    responses={200: {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
def get_styles_file(here: Here) -> Response:
    """All styles that are kept for all projects, as a file."""
    data = write_styles({name: style.look for name, style in kept_styles(here).items()})
    return Response(data, media_type="application/json", headers=attachment("dunlin-styles.json"))


@router.post("/styles-file")
async def take_styles_file(
    request: Request, here: Here, who: Who, key: EditKey = None
) -> list[KeptStyleView]:
    """Keeps the styles of a file for all projects, in the place of those of their names."""
    data = await body_of(request, _GREATEST_FILE, "styles.file-too-large")

    def kept() -> list[KeptStyleView]:
        keep_styles(here, read_styles(data), who, key=key)
        return list_kept_styles(here)

    return await run_in_threadpool(kept)


@router.post("/outlines")
async def read_outline(request: Request) -> OutlineView:
    """The outlines of an SVG file as one that a shape can have. Nothing is kept."""
    data = await body_of(request, MOST_BYTES, "styles.svg-too-large")
    return OutlineView.model_validate(await run_in_threadpool(apart, outline_of_svg, data))


@router.put("/styles/{name}", status_code=204)
def put_kept_style(name: StyleName, request: KeepRequest, here: Here, who: Who) -> None:
    """Keeps a style for all projects."""
    keep_style(here, name, request.look, who, default=request.default)


@router.delete("/styles/{name}", status_code=204)
def remove_kept_style(name: str, here: Here, who: Who) -> None:
    """Keeps a style no longer. Projects that took it have it still."""
    if not let_go_of_style(here, name, who):
        raise Refusal(404, message("styles.unknown", name=name))
