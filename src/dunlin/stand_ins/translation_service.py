"""A stand-in for a service that translates over HTTP: it goes by a memory and a term list, and knows nothing besides."""

from collections.abc import Iterable
from pathlib import Path
from tempfile import TemporaryDirectory

import uvicorn
from fastapi import FastAPI

from dunlin.core.language.drafts.by_memory import draft_of_memory
from dunlin.core.language.drafts.model import Known, Wanted
from dunlin.core.language.memory.pairs import Pair
from dunlin.core.language.terms.between import terms_between
from dunlin.core.language.terms.model import TermEntry
from dunlin.core.specs.translation import Term, TermList
from dunlin.engines.translators.service import TranslationAnswer, TranslationAsked
from dunlin.store.memory import Memory

__all__ = ["run_translation_service", "translation_service"]

_NAME = "Stand-in by memory and terms"


def translation_service(memory: Memory, terms: Iterable[TermEntry] = ()) -> FastAPI:
    """An application that answers `POST /` as docs/translating.md says.

    :param terms: those of its own list; the ones it is sent go before them
    """
    listed = tuple(terms)
    app = FastAPI(title=_NAME, docs_url=None, redoc_url=None, openapi_url=None)

    @app.post("/")
    def translate(asked: TranslationAsked) -> TranslationAnswer:
        sent = [
            Term(one.term, tuple(one.translations), tuple(one.forbidden)) for one in asked.terms
        ]
        there = {term.source.lower() for term in sent}
        own = (
            term
            for term in terms_between(listed, asked.source, asked.target)
            if term.source.lower() not in there
        )
        known = Known(
            asked.source,
            asked.target,
            lambda text: _pairs(memory, text, asked),
            TermList([*sent, *own], asked.source),
        )
        drafts = [
            draft_of_memory(Wanted(one.text, one.before, one.after, one.most), known)
            for one in asked.texts
        ]
        return TranslationAnswer(
            texts=[draft.text if draft else None for draft in drafts], by=_NAME
        )

    return app


def _pairs(memory: Memory, text: str, asked: TranslationAsked) -> list[Pair]:
    return [one.pair for one in memory.like(text, asked.source, asked.target)]


def run_translation_service(
    port: int, pairs: Iterable[Pair], terms: Iterable[TermEntry] = ()
) -> None:
    """Serves on this machine alone, until it is stopped."""
    with TemporaryDirectory() as folder:
        memory = Memory(Path(folder) / "memory.db")
        try:
            memory.take_in(pairs)
            uvicorn.run(
                translation_service(memory, terms), host="127.0.0.1", port=port, log_level="warning"
            )
        finally:
            memory.close()
