"""An entry of a term list."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

__all__ = ["TermEntry"]

_Tag = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]
_Word = Annotated[str, Field(min_length=1, max_length=200, pattern=r"\S")]
_Words = Annotated[
    dict[_Tag, Annotated[tuple[_Word, ...], Field(max_length=20)]], Field(max_length=60)
]


class TermEntry(BaseModel):
    """A term of one language, with what it is called in others."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    term: _Word
    language: _Tag
    """BCP 47 tag of the term's own language."""
    translations: _Words = {}
    """By language, the best first."""
    forbidden: _Words = {}
    """By language: what it must not be called."""
    as_written: bool = False
    """Whether capitals and small letters must be as they are in the term."""
    note: Annotated[str, Field(max_length=2_000)] = ""
