"""Words about a film: written of what is said, kept, made otherwise; and questions about what is said."""

from typing import Annotated

from fastapi import Query

from dunlin.api.about.views import (
    AboutPieceView,
    AboutView,
    AgainRequest,
    AnswerView,
    BeginRequest,
    PiecesRequest,
)
from dunlin.api.authors import EditKey, Who
from dunlin.api.services import Here
from dunlin.api.subjects import subject_router
from dunlin.engines.asking import service_name
from dunlin.work.about import (
    answers_to,
    begin_about,
    make_again,
    pieces_of,
    put_pieces,
    said_in_project,
)

__all__ = ["router"]

router = subject_router("words about the film", 404, 409, 422)


@router.get("/projects/{project_id}/about")
def read_about(project_id: str, here: Here) -> AboutView:
    with here.log.moment(project_id):
        project = here.projects.get(project_id)
        pieces, revision = pieces_of(here, project_id)
        has_words = bool(pieces) or bool(said_in_project(here, project))
    listed = [AboutPieceView(id=id_, piece=piece) for id_, piece in pieces.items()]
    return AboutView(
        revision=revision,
        pieces=listed,
        has_words=has_words,
        service=service_name(here.settings.text_service) if here.settings.text_service else None,
    )


@router.post("/projects/{project_id}/about")
def write_about(
    project_id: str, request: BeginRequest, here: Here, who: Who, key: EditKey = None
) -> AboutView:
    """Writes all of it of what is said, in the place of what is there; undo brings that back."""
    project = here.projects.get(project_id)
    begin_about(here, project, who, base=request.base_revision, key=key)
    return read_about(project_id, here)


@router.put("/projects/{project_id}/about")
def change_about(
    project_id: str, request: PiecesRequest, here: Here, who: Who, key: EditKey = None
) -> AboutView:
    """Makes pieces other ones by hand."""
    here.projects.needs(project_id)
    put_pieces(here, project_id, request.pieces, who, base=request.base_revision, key=key)
    return read_about(project_id, here)


@router.post("/projects/{project_id}/about/{piece_id}")
def write_piece_again(
    project_id: str,
    piece_id: str,
    request: AgainRequest,
    here: Here,
    who: Who,
    key: EditKey = None,
) -> AboutView:
    """Makes a piece longer or shorter, or another one, of what is said."""
    project = here.projects.get(project_id)
    make_again(here, project, piece_id, request.how, who, base=request.base_revision, key=key)
    return read_about(project_id, here)


@router.get("/projects/{project_id}/answers")
def answer_question(
    project_id: str, here: Here, question: Annotated[str, Query(min_length=1, max_length=500)]
) -> list[AnswerView]:
    """The passages that say what is asked for, the best first."""
    project = here.projects.get(project_id)
    return [AnswerView.model_validate(each) for each in answers_to(here, project, question)]
