"""Term lists of a project and of the house: read, changed, and as files."""

from io import BytesIO
from typing import Annotated, Literal, TypeAlias

from fastapi import Path, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.glossary.views import GlossaryView, TermRequest, TermView
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Language, attachment
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context
from dunlin.core.language.terms.csv import read_terms_csv, written_terms_csv
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.language.terms.tbx import read_tbx, written_tbx
from dunlin.core.project.targets import GLOSSARY
from dunlin.store.house import HOUSE
from dunlin.work.glossary import Scope, put_term, remove_term, take_terms, terms_of

__all__ = ["router"]

router = subject_router("glossary", 404, 409, 422)

_MOST = 256 << 20
"""Bytes of a list that comes in."""
_MEDIA_TYPES = {"csv": "text/csv", "tbx": "application/x-tbx+xml"}

ListKind: TypeAlias = Literal["csv", "tbx"]

_TermId = Annotated[str, Path(pattern=r"^[A-Za-z0-9-]{1,64}$")]
"""Made by whoever makes the term."""


@router.get("/projects/{project_id}/glossary")
def list_terms(project_id: str, here: Here) -> GlossaryView:
    """The terms of a project, and those of the house."""
    here.projects.needs(project_id)
    return _view(here, project_id)


def _view(here: Services, project_id: str) -> GlossaryView:
    scopes: tuple[Scope, Scope] = ("project", "house")
    terms = [
        TermView(id=id_, scope=scope, entry=entry)
        for scope in scopes
        for id_, entry in terms_of(here, project_id, scope).items()
    ]
    return GlossaryView(
        revision=here.log.revision(project_id, GLOSSARY) or 0,
        house_revision=here.log.revision(HOUSE, GLOSSARY) or 0,
        terms=terms,
    )


@router.put("/projects/{project_id}/glossary/{scope}/{term_id}")
def put_a_term(
    project_id: str, scope: Scope, term_id: _TermId, request: TermRequest, here: Here, who: Who,
    key: EditKey = None,
) -> GlossaryView:  # fmt: skip
    """Makes the term of that id this one, or a new one."""
    here.projects.needs(project_id)
    put_term(
        here, project_id, scope, term_id, request.entry, who, base=request.base_revision, key=key
    )
    return _view(here, project_id)


@router.delete("/projects/{project_id}/glossary/{scope}/{term_id}")
def remove_a_term(
    project_id: str, scope: Scope, term_id: str, here: Here, who: Who, key: EditKey = None
) -> GlossaryView:
    """Takes a term out of a list."""
    here.projects.needs(project_id)
    remove_term(here, project_id, scope, term_id, who, key=key)
    return _view(here, project_id)


@router.get("/projects/{project_id}/glossary/{scope}.{kind}", response_class=Response)
def write_terms(project_id: str, scope: Scope, kind: ListKind, here: Here) -> Response:
    """The terms of a list as a file, CSV or TBX-Basic."""
    here.projects.needs(project_id)
    terms = terms_of(here, project_id, scope).values()
    text = written_terms_csv(terms) if kind == "csv" else "".join(written_tbx(terms))
    return Response(text, media_type=_MEDIA_TYPES[kind], headers=attachment(f"terms.{kind}"))


@router.post("/projects/{project_id}/glossary/{scope}.{kind}")
async def take_in_terms(
    project_id: str, scope: Scope, kind: ListKind, language: Language, request: Request, here: Here,
    who: Who, key: EditKey = None,
) -> GlossaryView:  # fmt: skip
    """Takes in a file of terms, sent as it is; a term that is there already becomes what the file has.

    `language` is that of the terms themselves, where the file does not say.
    """
    here.projects.needs(project_id)
    data = await body_of(request, _MOST, "glossary.too-large")
    entries = await run_in_threadpool(_read, data, kind, language)
    await run_in_threadpool(take_terms, here, project_id, scope, entries, who, key=key)
    return _view(here, project_id)


def _read(data: bytes, kind: ListKind, language: str) -> list[TermEntry]:
    if kind == "tbx":
        return list(read_tbx(BytesIO(data), language))
    text, _ = decoded(data, Context(language=language))
    return list(read_terms_csv(text, language))
