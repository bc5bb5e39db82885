"""Versions of a track: other pictures of the film, with what differs there about its captions."""

from typing import Annotated

from fastapi import Path

from dunlin.api.authors import EditKey, Who
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.tracks.views import CaptionsAsked, LinesView, lines_of
from dunlin.api.versions.views import (
    ApartRequest,
    SizeView,
    VersionRequest,
    VersionsView,
    VersionView,
)
from dunlin.core.styles import script_head
from dunlin.core.versions.grading import colour_matrix
from dunlin.core.versions.model import Version
from dunlin.core.versions.window import window_size
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.projects import Project
from dunlin.work.judging import judge_of
from dunlin.work.versions import (
    change_version,
    in_version,
    remove_version,
    set_apart,
    setting_in,
    versions_by_id,
)

__all__ = ["router"]

router = subject_router("versions", 404, 409, 422)

_VersionId = Annotated[str, Path(pattern=r"^[A-Za-z0-9-]{1,64}$")]
"""Made by whoever makes the version."""


@router.get("/tracks/{track_id}/versions")
def list_versions(track_id: str, here: Here) -> VersionsView:
    return _views(here, here.projects.of_track(track_id), track_id)


def _views(here: Services, project: Project, track_id: str) -> VersionsView:
    with here.log.moment(project.id) as now:
        versions = versions_by_id(here, project, track_id)
        views = [_view(here, project, track_id, id_, each) for id_, each in versions.items()]
        return VersionsView(revision=now.newest, versions=views)


def _view(
    here: Services, project: Project, track_id: str, id_: str, version: Version
) -> VersionView:
    there = in_version(here, project, track_id, id_)
    kept = window_size(version, script_size(probe_from(project.film.facts)))
    return VersionView(
        id=id_,
        version=version,
        picture=SizeView(width=there.picture.width, height=there.picture.height),
        window=SizeView(width=kept.width, height=kept.height),
        colours=[list(row) for row in colour_matrix(version.colours)],
        script_head=script_head(there.sheet, there.picture),
        apart=dict(there.apart),
        apart_revision=there.apart_revision,
    )


@router.put("/tracks/{track_id}/versions/{version_id}")
def put_version(
    track_id: str,
    version_id: _VersionId,
    request: VersionRequest,
    here: Here,
    who: Who,
    key: EditKey = None,
) -> VersionsView:
    """Makes the version of that id this one, or a new one."""
    project = here.projects.of_track(track_id)
    change_version(
        here, project, track_id, version_id, request.version, who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    return _views(here, project, track_id)


@router.delete("/tracks/{track_id}/versions/{version_id}")
def remove_a_version(
    track_id: str, version_id: str, here: Here, who: Who, key: EditKey = None
) -> VersionsView:
    """Takes a version away; what differs in it comes back with it."""
    project = here.projects.of_track(track_id)
    remove_version(here, project, track_id, version_id, who, key=key)
    return _views(here, project, track_id)


@router.put("/tracks/{track_id}/versions/{version_id}/captions")
def put_apart(
    track_id: str,
    version_id: str,
    request: ApartRequest,
    here: Here,
    who: Who,
    key: EditKey = None,
) -> VersionsView:
    """Says what differs in a version about captions."""
    project = here.projects.of_track(track_id)
    set_apart(
        here, project, track_id, version_id, request.apart, who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    return _views(here, project, track_id)


@router.post("/tracks/{track_id}/versions/{version_id}/drawn")
def read_lines_in_version(
    track_id: str, version_id: str, request: CaptionsAsked, here: Here
) -> LinesView:
    """The lines in the render script of captions as they are in a version; of those that it leaves out, none."""
    project = here.projects.of_track(track_id)
    there = in_version(here, project, track_id, version_id)
    _, revision = here.log.track(track_id)
    setting = setting_in(judge_of(here, project, track_id).setting, there)
    return LinesView(revision=revision, lines=lines_of(there.captions, request.captions, setting))
