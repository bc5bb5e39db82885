"""Spelling: what a caption has that no dictionary knows, and the words that people have accepted."""

from dunlin.api.authors import EditKey, Who
from dunlin.api.services import Here, Services
from dunlin.api.spelling.views import (
    AcceptedWordView,
    SpellingView,
    UnknownWordView,
    WordRequest,
)
from dunlin.api.subjects import subject_router
from dunlin.api.wire import Language
from dunlin.work.glossary import Scope
from dunlin.work.spelling import accept_word, accepted_words, forget_word, unknown_in

__all__ = ["router"]

router = subject_router("spelling", 404, 422)


@router.get("/tracks/{track_id}/captions/{caption_id}/spelling")
def read_spelling(track_id: str, caption_id: str, here: Here) -> SpellingView:
    """The words of a caption that the dictionary of its language does not know, and what may have been meant."""
    found = unknown_in(here, here.projects.of_track(track_id), track_id, caption_id)
    return SpellingView(
        has_dictionary=found is not None,
        unknown=[UnknownWordView.model_validate(one) for one in found or ()],
    )


@router.get("/projects/{project_id}/dictionary")
def list_accepted_words(project_id: str, here: Here) -> list[AcceptedWordView]:
    """The words that were accepted in a project, and in all projects."""
    here.projects.needs(project_id)
    return _listed(here, project_id)


def _listed(here: Services, project_id: str) -> list[AcceptedWordView]:
    return [AcceptedWordView.model_validate(one) for one in accepted_words(here, project_id)]


@router.put("/projects/{project_id}/dictionary/{scope}")
def accept_a_word(
    project_id: str, scope: Scope, request: WordRequest, here: Here, who: Who, key: EditKey = None
) -> list[AcceptedWordView]:
    """Has a word be right from now on, in a project or in all of them."""
    here.projects.needs(project_id)
    accept_word(here, project_id, scope, request.word, request.language, who, key=key)
    return _listed(here, project_id)


@router.delete("/projects/{project_id}/dictionary/{scope}/{word}")
def forget_a_word(
    project_id: str, scope: Scope, word: str, language: Language, here: Here, who: Who,
    key: EditKey = None,
) -> list[AcceptedWordView]:  # fmt: skip
    """Has a word be judged by the dictionary again."""
    here.projects.needs(project_id)
    forget_word(here, project_id, scope, word, language, who, key=key)
    return _listed(here, project_id)
