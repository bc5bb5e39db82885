"""What a caption of a translation knows of its source."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import TypeAdapter

from dunlin.core.captions import Track
from dunlin.core.captions.look import said_by

__all__ = ["Link", "Progress", "link_of_stored", "said_by_sources", "stored_link"]

Progress = Literal["draft", "doubtful", "later", "done"]
"""A draft is a machine's, and a doubtful pair a machine's guess, until a person has confirmed it; what is begun has none."""


@dataclass(frozen=True)
class Link:
    """Of one caption of a translation."""

    sources: tuple[str, ...] = ()
    """Ids of the captions that it translates, in their order; none where they are gone, or never were."""
    said: str | None = None
    """What these said when it was translated, as `said_by_sources` gives it."""
    progress: Progress | None = None
    """How far it is; None is begun, or empty."""
    drafted: str | None = None
    """The words of its draft: where it still has these, nobody has written in it."""
    origin: str | None = None
    """Where its draft came from: the name of an engine, or of a memory."""


_LINK = TypeAdapter(Link)


def link_of_stored(stored: Mapping[str, Any]) -> Link:
    """A link of what `stored_link` gave."""
    return _LINK.validate_python(stored)


def stored_link(link: Link) -> dict[str, Any]:
    """A link in strings and lists alone."""
    return said_by(link) | {"sources": list(link.sources)}


def said_by_sources(source: Track, sources: Iterable[str]) -> str:
    """What captions say, one after the other; where lines break in them does not count.

    :param sources: ids; those that are gone say nothing
    """
    texts = (source[id_].text for id_ in sources if id_ in source)
    return " ".join(" ".join(text.split()) for text in texts if text.strip())
