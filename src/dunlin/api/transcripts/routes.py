"""Recognising speech, and the words that come of it."""

from typing import Annotated, Literal

from fastapi import Query, Request, Response
from starlette.concurrency import run_in_threadpool

from dunlin.api.authors import EditKey, Who
from dunlin.api.bodies import body_of
from dunlin.api.services import Here, Services
from dunlin.api.subjects import subject_router
from dunlin.api.timing.views import pieces_of
from dunlin.api.transcripts.views import (
    OffersView,
    OfferView,
    SpeakersRequest,
    TermsRequest,
    TranscriptEdit,
    TranscriptRetiming,
    WordsView,
)
from dunlin.api.wire import Problem, attachment
from dunlin.core.messages import BadInput, message
from dunlin.core.project import ReplaceWords, SetEntries, entries_between
from dunlin.core.project.targets import SPEAKERS, TERMS, TRANSCRIPT
from dunlin.core.speech import Word
from dunlin.core.speech.spelling import offers, with_marks_of
from dunlin.core.speech.transcript import Written
from dunlin.core.speech.transcript_files import as_docx, as_html, as_text, words_of_html
from dunlin.store.log import Author, Step
from dunlin.store.projects import Project
from dunlin.work.apart import apart
from dunlin.work.hearing import needs_words_at_rest
from dunlin.work.speaking import set_speakers
from dunlin.work.transcript import retime_words, take_words, write_words

__all__ = ["router"]


router = subject_router("transcripts", 404)


@router.get("/projects/{project_id}/words")
def get_words(
    project_id: str, here: Here, who: Who, first: Annotated[int, Query(ge=0, le=2**31)] = 0
) -> WordsView:
    """Words from a position on; more come while recognition goes on."""
    project = here.projects.get(project_id)
    return _words_view(here, project, who, first)


@router.post(
    "/projects/{project_id}/transcript/edits",
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def edit_transcript(
    project_id: str, request: TranscriptEdit, here: Here, who: Who, key: EditKey = None
) -> WordsView:
    """Writes a passage anew; answers its words with their times."""
    project = here.projects.get(project_id)
    needs_words_at_rest(here, project_id)
    if key and (before := here.log.stored(project_id, key)):
        # Stored when it was first sent, and the answer was lost: it is given again.
        words = [
            placed.word
            for _, operation in before
            if isinstance(operation, ReplaceWords)
            for placed in operation.put
        ]
        return _answer(here, project, who, before[-1][0], request.first, words)
    written = [Written(**dict(word)) for word in request.words]
    done, words = write_words(
        here, project, request.first, request.count, written, who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    return _answer(here, project, who, done.revision, request.first, words)


@router.post(
    "/projects/{project_id}/transcript/retiming",
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def retime_transcript(
    project_id: str, request: TranscriptRetiming, here: Here, who: Who, key: EditKey = None
) -> WordsView:
    """Moves all words in time."""
    project = here.projects.get(project_id)
    needs_words_at_rest(here, project_id)
    retime_words(
        here, project, pieces_of(request.pieces), who,
        base=request.base_revision, gesture=request.gesture, key=key,
    )  # fmt: skip
    return _words_view(here, here.projects.get(project_id), who)


def _answer(
    here: Services, project: Project, who: Author, revision: int, first: int, words: list[Word]
) -> WordsView:
    """The words that were written, from the one at index `first` on."""
    return _view_of(here, project.id, who, project.words_run or "written", revision, first, words)


# What undo is about where the transcript is shown.
_IN_VIEW = [TRANSCRIPT, SPEAKERS, TERMS]


@router.get(
    "/projects/{project_id}/transcript",
    response_class=Response,
    responses={200: {"content": {"application/octet-stream": {}}}},
)
def get_transcript(
    project_id: str,
    here: Here,
    times: bool = True,
    speakers: bool = True,
    kind: Annotated[Literal["txt", "html", "docx"], Query(alias="format")] = "txt",
) -> Response:
    """The transcript as a file, by paragraphs. The HTML has times and speakers always."""
    project = here.projects.get(project_id)
    words = here.words.of(project_id, project.words_run)
    name = f"{project.title}.transcript.{kind}"
    if kind == "txt":
        data = as_text(words, times=times, speakers=speakers).encode()
    elif kind == "docx":
        data = as_docx(words, project.title, times=times, speakers=speakers)
    else:
        data = as_html(words, project.title, project.tracks[0].language)
    return Response(
        data,
        media_type="text/plain; charset=utf-8" if kind == "txt" else "application/octet-stream",
        headers=attachment(name),
    )


@router.post(
    "/projects/{project_id}/transcript",
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
async def take_in_transcript(
    project_id: str, request: Request, here: Here, who: Who, key: EditKey = None
) -> WordsView:
    """Puts the words of an HTML transcript, the body, in place of those there are."""
    data = await body_of(request, _GREATEST_BYTES, "files.too-large-transcript")

    def take_in() -> WordsView:
        project = here.projects.get(project_id)
        needs_words_at_rest(here, project_id)
        take_words(here, project, apart(words_of_html, data), who, key=key)
        return _words_view(here, here.projects.get(project_id), who)

    return await run_in_threadpool(take_in)


_GREATEST_BYTES = 64 * 2**20


@router.put(
    "/projects/{project_id}/speakers",
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def put_speakers(
    project_id: str, request: SpeakersRequest, here: Here, who: Who, key: EditKey = None
) -> WordsView:
    """Sets who speaks; where one is called otherwise now, so are that speaker's words and captions."""
    project = here.projects.get(project_id)
    names = [speaker.name for speaker in request.speakers]
    if len(set(names)) != len(names):
        raise BadInput(message("speakers.same-name"))
    renamed = {
        speaker.was: speaker.name
        for speaker in request.speakers
        if speaker.was and speaker.was != speaker.name
    }
    listed = [speaker.model_dump(exclude={"was"}) for speaker in request.speakers]
    set_speakers(here, project, listed, renamed, who, base=request.base_revision, key=key)
    return _words_view(here, here.projects.get(project_id), who)


@router.put(
    "/projects/{project_id}/terms", responses={409: {"model": Problem}, 422: {"model": Problem}}
)
def put_terms(
    project_id: str, request: TermsRequest, here: Here, who: Who, key: EditKey = None
) -> OffersView:
    """Sets the project's spelling list."""
    project = here.projects.get(project_id)
    terms = dict.fromkeys(" ".join(term.split()) for term in request.terms)
    after = {term: at for at, term in enumerate(terms)}
    if entries := entries_between(project.records[TERMS], after):
        step = Step(TERMS, SetEntries(entries), request.base_revision, whole=True)
        here.log.edit(project_id, [step], who, key=key)
    return get_offers(project_id, here)


@router.get("/projects/{project_id}/terms")
def get_offers(project_id: str, here: Here) -> OffersView:
    """The spelling list, and where in the transcript one of its terms may be meant."""
    project = here.projects.get(project_id)
    words = here.words.of(project_id, project.words_run)
    found = [
        OfferView(
            first=offer.first, count=offer.count, said=offer.said, term=offer.term,
            put=with_marks_of(
                offer.term,
                " ".join(word.text for word in words[offer.first : offer.first + offer.count]),
            ),
            likeness=offer.likeness,
        )
        for offer in offers(words, project.terms)
    ]  # fmt: skip
    return OffersView(revision=project.words_revision, terms=list(project.terms), offers=found)


def _words_view(here: Services, project: Project, who: Author, first: int = 0) -> WordsView:
    words = here.words.of(project.id, project.words_run, first)
    run, revision = project.words_run, project.words_revision
    return _view_of(here, project.id, who, run, revision, first, words)


def _view_of(
    here: Services,
    project_id: str,
    who: Author,
    run: str | None,
    revision: int,
    first: int,
    words: list[Word],
) -> WordsView:
    can_undo, can_redo = here.log.history(project_id, _IN_VIEW, who.person)
    return WordsView.model_construct(
        run=run, revision=revision, first=first, words=words,
        can_undo=can_undo, can_redo=can_redo,
    )  # fmt: skip
