"""What every engine that drafts translations can do."""

from collections.abc import Iterator, Sequence
from typing import Protocol

from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.messages import Message

__all__ = ["Translator"]


class Translator(Protocol):
    """An engine: drafts come out in the order in which they were asked for."""

    @property
    def name(self) -> str:
        """By which it is asked for."""

    @property
    def title(self) -> str:
        """As people call it."""

    @property
    def fault(self) -> Message | None:
        """Why it cannot work; None when it can, as far as is known without using it."""

    def knows(self, source: str, target: str) -> bool:
        """Whether it translates from one language into another, given as BCP 47 tags."""

    def drafts(self, wanted: Sequence[Wanted], known: Known) -> Iterator[Draft | None]:
        """A draft for each, or None for what it has nothing for.

        :param wanted: in the order of time
        :param known: what people have translated before, which not every engine goes by
        :raises EngineError: when it is broken, gone, or answers with nonsense
        """
