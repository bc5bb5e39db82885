"""A service that translates over HTTP, which whoever runs Dunlin has named (`DUNLIN_TRANSLATION_SERVICE`).

What is sent and what comes is written down in docs/translating.md. Nothing is sent but what is to be translated, its neighbours, and
the terms that stand in it; no redirection is followed.
"""

import html
import re
from collections.abc import Iterator, Sequence
from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.messages import Message, message
from dunlin.engines.asking import ask_service, service_name
from dunlin.engines.recogniser import EngineError

__all__ = ["TermAsked", "TextAsked", "TranslationAnswer", "TranslationAsked", "TranslationService"]

_AT_ONCE = 20
"""Texts in a request: neighbours go together."""
_MARKUP = re.compile(r"<[^<>]{0,200}>")
_LONGEST = 2_000
"""Characters of a text."""


class TextAsked(BaseModel):
    """A text to be translated."""

    text: Annotated[str, Field(max_length=_LONGEST)]
    before: Annotated[str, Field(max_length=_LONGEST)] = ""
    """What is said before it and behind it, which is not to be translated."""
    after: Annotated[str, Field(max_length=_LONGEST)] = ""
    most: int | None = None
    """Characters there is time to read."""


class TermAsked(BaseModel):
    """What a term has to be called, and must not be."""

    term: str
    translations: list[str]
    forbidden: list[str] = []


class TranslationAsked(BaseModel):
    """What a service is asked."""

    source: str
    """BCP 47 tags."""
    target: str
    texts: Annotated[list[TextAsked], Field(max_length=100)]
    terms: list[TermAsked] = []


class TranslationAnswer(BaseModel):
    """What it answers: as many texts as were asked for, or null for what it has nothing for."""

    texts: list[Annotated[str, Field(max_length=4 * _LONGEST)] | None]
    by: Annotated[str, Field(max_length=100)] = ""
    """What it calls itself."""


class TranslationService:
    """A service at an address."""

    name = "service"
    fault: Message | None = None

    def __init__(self, address: str, token: str | None = None) -> None:
        """:param token: sent as a bearer token (RFC 6750); it stands in no message"""
        self._address, self._token = address, token
        self.title = service_name(address)

    def knows(self, source: str, target: str) -> bool:
        """It is asked when it is used, and may say that it does not."""
        return source.split("-")[0] != target.split("-")[0]

    def drafts(self, wanted: Sequence[Wanted], known: Known) -> Iterator[Draft | None]:
        for at in range(0, len(wanted), _AT_ONCE):
            some = wanted[at : at + _AT_ONCE]
            answer = ask_service(self._address, self._token, _asked(some, known), TranslationAnswer)
            if len(answer.texts) != len(some):
                raise EngineError(
                    message(
                        "drafts.other-count", service=self.title, asked=len(some),
                        came=len(answer.texts),
                    )
                )  # fmt: skip
            for text in answer.texts:
                plain = _plain(text or "")
                yield Draft(plain, answer.by or self.title) if plain else None


def _asked(wanted: Sequence[Wanted], known: Known) -> TranslationAsked:
    terms = {}
    for one in wanted:
        for term, *_ in known.terms.found_in(one.text):
            terms[term.source] = TermAsked(
                term=term.source, translations=list(term.targets), forbidden=list(term.forbidden)
            )
    texts = [
        TextAsked(
            text=one.text[:_LONGEST], before=one.before[-_LONGEST:], after=one.after[:_LONGEST],
            most=one.most,
        )
        for one in wanted
    ]  # fmt: skip
    return TranslationAsked(
        source=known.language, target=known.target, texts=texts, terms=list(terms.values())
    )


def _plain(text: str) -> str:
    """A text without markup and marks of control, in one line."""
    unmarked = html.unescape(_MARKUP.sub("", text))
    return " ".join("".join(c if c.isprintable() else " " for c in unmarked).split())
