"""A service that reads what is said and says which sentences matter (`DUNLIN_TEXT_SERVICE`, docs/words.md).

It only ever points at sentences: what is written of its answers was said, whatever it answers.
"""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dunlin.engines.asking import ask_service

__all__ = ["ChoiceAnswer", "ChoiceAsked", "sentences_by_service"]

_LONGEST = 2_000
"""Characters of a sentence."""
_MOST = 20_000
"""Sentences, of a dozen hours."""


class ChoiceAsked(BaseModel):
    """Which sentences answer a question, or describe the whole, at most so many."""

    task: Literal["answer", "describe"]
    language: str
    """BCP 47 tag."""
    sentences: Annotated[list[Annotated[str, Field(max_length=_LONGEST)]], Field(max_length=_MOST)]
    question: Annotated[str, Field(max_length=500)] = ""
    count: Annotated[int, Field(ge=1, le=100)] = 5


class ChoiceAnswer(BaseModel):
    """Places of sentences, from 0, the best first."""

    sentences: Annotated[list[int], Field(max_length=1000)]


def sentences_by_service(
    address: str,
    token: str | None,
    task: Literal["answer", "describe"],
    sentences: Sequence[str],
    language: str,
    *,
    question: str = "",
    count: int = 5,
) -> list[int]:
    """Places of the sentences that a service chooses, the best first; what it makes up is left out.

    :raises EngineError: when it does not answer, or what makes no sense
    """
    asked = ChoiceAsked(
        task=task, language=language, sentences=[one[:_LONGEST] for one in sentences[:_MOST]],
        question=question, count=count,
    )  # fmt: skip
    answer = ask_service(address, token, asked, ChoiceAnswer)
    there = [n for n in dict.fromkeys(answer.sentences) if 0 <= n < len(sentences)]
    return there[:count]
