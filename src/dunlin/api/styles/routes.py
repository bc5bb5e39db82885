"""Styles: those of a project, and those that are kept for all."""

from collections import Counter

from fastapi import APIRouter

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import BoundedRoute
from dunlin.api.services import Here, Services
from dunlin.api.styles.views import (
    DefaultRequest,
    KeepRequest,
    KeptStyleView,
    StyleRename,
    StyleRequest,
    StyleView,
)
from dunlin.api.wire import Problem, Refusal
from dunlin.core.captions.look import StyleName
from dunlin.core.messages import message
from dunlin.core.project.targets import SPEAKERS
from dunlin.store.projects import Project
from dunlin.work.styles import (
    change_style,
    keep_style,
    kept_styles,
    let_go_of_style,
    make_default,
    remove_style,
    rename_style,
    take_style,
)

__all__ = ["router"]

router = APIRouter(
    route_class=BoundedRoute,
    tags=["styles"],
    responses={404: {"model": Problem}, 409: {"model": Problem}, 422: {"model": Problem}},
)


def _views(here: Services, project: Project) -> list[StyleView]:
    kept = kept_styles(here)
    used = {
        track.id: Counter(caption.style for caption in here.log.track(track.id)[0])
        for track in project.tracks
    }
    speakers = project.records[SPEAKERS]
    return [
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


@router.get("/projects/{project_id}/styles")
def list_project_styles(project_id: str, here: Here) -> list[StyleView]:
    return _views(here, here.projects.get(project_id))


@router.put("/projects/{project_id}/styles/{name}")
def put_style(
    project_id: str,
    name: StyleName,
    request: StyleRequest,
    here: Here,
    who: Who,
    key: EditKey = None,
) -> list[StyleView]:
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
) -> list[StyleView]:
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
) -> list[StyleView]:
    """Takes a style away; what uses it gets another, or none."""
    remove_style(here, here.projects.get(project_id), name, instead, who, key=key)
    return _views(here, here.projects.get(project_id))


@router.post("/projects/{project_id}/styles/{name}/taken")
def take_kept_style(
    project_id: str, name: str, here: Here, who: Who, key: EditKey = None
) -> list[StyleView]:
    """Copies a style that is kept for all projects into this one."""
    take_style(here, here.projects.get(project_id), name, who, key=key)
    return _views(here, here.projects.get(project_id))


@router.put("/tracks/{track_id}/default-style", status_code=204)
def put_default_style(track_id: str, request: DefaultRequest, here: Here, who: Who) -> None:
    """Says in which style the captions of a track are set that name none."""
    make_default(here, here.projects.of_track(track_id), track_id, request.style, who)


@router.get("/styles")
def list_kept_styles(here: Here) -> list[KeptStyleView]:
    """The styles that are kept for all projects."""
    return [KeptStyleView.model_validate(style) for style in kept_styles(here).values()]


@router.put("/styles/{name}", status_code=204)
def put_kept_style(name: StyleName, request: KeepRequest, here: Here, who: Who) -> None:
    """Keeps a style for all projects."""
    keep_style(here, name, request.look, who, default=request.default)


@router.delete("/styles/{name}", status_code=204)
def remove_kept_style(name: str, here: Here, who: Who) -> None:
    """Keeps a style no longer. Projects that took it have it still."""
    if not let_go_of_style(here, name, who):
        raise Refusal(404, message("styles.unknown", name=name))
