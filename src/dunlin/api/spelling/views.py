"""Spelling as it goes over the wire."""

from typing import Annotated

from pydantic import BaseModel, Field

from dunlin.api.wire import Language, View
from dunlin.work.glossary import Scope

__all__ = ["AcceptedWordView", "SpellingView", "UnknownWordView", "WordRequest"]


class UnknownWordView(View):
    """A word of a caption that the dictionary does not know."""

    word: str
    start: int
    end: int
    """From which character of the caption's text to which."""
    suggestions: list[str]


class SpellingView(View):
    """The spelling of a caption."""

    has_dictionary: bool
    """Whether one ships for the track's language."""
    unknown: list[UnknownWordView]


class AcceptedWordView(View):
    """A word that is right although no dictionary has it."""

    word: str
    language: str
    scope: Scope


class WordRequest(BaseModel):
    """Has a word be right from now on."""

    word: Annotated[str, Field(min_length=1, max_length=100)]
    language: Language
