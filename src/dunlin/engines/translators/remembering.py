"""Drafts of what people have translated before."""

from collections.abc import Iterator, Sequence

from dunlin.core.language.drafts.by_memory import draft_of_memory
from dunlin.core.language.drafts.model import Draft, Known, Wanted
from dunlin.core.messages import Message

__all__ = ["Remembering"]


class Remembering:
    """Goes by the memory and the term list alone; there is one for all languages."""

    name = "memory"
    title = "Memory and terms"
    fault: Message | None = None

    def knows(self, source: str, target: str) -> bool:
        return source.split("-")[0] != target.split("-")[0]

    def drafts(self, wanted: Sequence[Wanted], known: Known) -> Iterator[Draft | None]:
        for one in wanted:
            yield draft_of_memory(one, known)
