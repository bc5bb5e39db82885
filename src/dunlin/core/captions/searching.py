"""Words looked for in captions and other texts, and others put in their place."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from time import monotonic

import regex

from dunlin.core.captions.edits import Change, ChangeCaptions
from dunlin.core.captions.model import Caption, with_put
from dunlin.core.messages import BadInput, message

__all__ = ["Hit", "Match", "Sought", "hits", "matches", "replacing"]

# A pattern may be written so that it never ends: all captions together take no longer than this.
_SECONDS = 2.0


@dataclass(frozen=True)
class Sought:
    """What is looked for."""

    text: str
    word: bool = False
    """Whole words only."""
    exact: bool = False
    """Upper and lower case as they are typed."""
    pattern: bool = False
    """It is a regular expression."""


@dataclass(frozen=True)
class Match:
    """A place in a text, from character `start` to `end`, and what would stand there."""

    text: int
    """Index of the text."""
    start: int
    end: int
    put: str


@dataclass(frozen=True)
class Hit:
    """A place in a caption's text, from character `start` to `end`, and what would stand there."""

    caption: str
    start: int
    end: int
    put: str


def hits(captions: Iterable[Caption], sought: Sought, replacement: str = "") -> list[Hit]:
    """All places of captions where it stands, in order. Arguments and errors are those of `matches`."""
    listed = list(captions)
    return [
        Hit(listed[match.text].id, match.start, match.end, match.put)
        for match in matches((caption.text for caption in listed), sought, replacement)
    ]


def matches(texts: Iterable[str], sought: Sought, replacement: str = "") -> list[Match]:
    """All places where it stands, in order.

    :param replacement: what would stand there; in one for a pattern, `$1` is what its first group found
    :raises BadInput: when the pattern is none, names a group that it has not, or takes too long
    """
    wanted = _compiled(sought)
    template = regex.sub(r"\$(\d)", r"\\g<\1>", replacement.replace("\\", "\\\\"))
    found: list[Match] = []
    ends = monotonic() + _SECONDS
    for index, text in enumerate(texts):
        try:
            if (left := ends - monotonic()) <= 0:
                raise TimeoutError
            # Other requests go on while it looks.
            for match in wanted.finditer(text, timeout=left, concurrent=True):
                if match.end() > match.start():
                    put = match.expand(template) if sought.pattern else replacement
                    found.append(Match(index, match.start(), match.end(), put))
        except TimeoutError:
            raise BadInput(message("search.too-slow")) from None
        except (regex.error, IndexError) as error:
            raise BadInput(message("search.no-such-group", reason=error)) from None
    return found


def replacing(
    captions: Iterable[Caption], found: Iterable[Hit], only: Collection[tuple[str, int]] | None
) -> ChangeCaptions:
    """The edit that puts what was asked for in the place of hits; what is put in has the style of the
    character it begins at.

    :param only: the captions and starts of those to replace; all, if None
    """
    places: dict[str, list[tuple[int, int, str]]] = {}
    for hit in found:
        if only is None or (hit.caption, hit.start) in only:
            places.setdefault(hit.caption, []).append((hit.start, hit.end, hit.put))
    return ChangeCaptions(
        tuple(
            Change(caption=caption.id, spans=with_put(caption.spans, places[caption.id]))
            for caption in captions
            if caption.id in places
        )
    )


def _compiled(sought: Sought) -> "regex.Pattern[str]":
    body = sought.text if sought.pattern else regex.escape(sought.text)
    if sought.word:
        # A boundary of letters of any script.
        body = rf"(?<![\p{{L}}\p{{N}}])(?:{body})(?![\p{{L}}\p{{N}}])"
    try:
        return regex.compile(body, 0 if sought.exact else regex.IGNORECASE)
    except regex.error as error:
        raise BadInput(message("search.not-a-pattern", reason=error)) from None
