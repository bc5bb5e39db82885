"""Ellipses between captions: where a sentence goes on after a pause, and nowhere else."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import replace

from dunlin.core.captions.model import Caption, joined, substituted
from dunlin.core.messages import message
from dunlin.core.specs.rules.place import Broken, Candidate, Check, Place, Rule, Setting

__all__ = ["RULE"]

_ENDS_OPEN = re.compile(r"[ \t]*(?:…|\.{3})\s*$")
_BEGINS_OPEN = re.compile(r"^\s*(?:…|\.{3})[ \t]*")
_ENDS = re.compile(r"[.?!:…。？！]['\"”’»)\]]*\s*$")


def _goes_on(caption: Caption, after: Caption) -> bool:
    """Whether the sentence of a caption goes on in the next one: that begins with a small letter."""
    bare = _BEGINS_OPEN.sub("", after.text)
    open_end = _ENDS_OPEN.search(caption.text) is not None
    return bare[:1].islower() and (open_end or not _ENDS.search(caption.text))


def _is_pause(caption: Caption, after: Caption, setting: Setting) -> bool:
    return after.in_ms - caption.out_ms >= (setting.spec.ellipsis_from_pause_ms or 0)


def _check(setting: Setting) -> Check | None:
    pause = setting.spec.ellipsis_from_pause_ms
    if pause is None:
        return None

    def found(place: Place) -> Iterable[Broken]:
        after = place.after
        if after is None or not _goes_on(place.caption, after):
            return ()
        gap = after.in_ms - place.caption.out_ms
        marked = _ENDS_OPEN.search(place.text) is not None
        if marked == _is_pause(place.caption, after, setting):
            return ()
        code = "findings.ellipsis-without-pause" if marked else "findings.pause-without-ellipsis"
        return ((gap, pause, message(code, gap=gap, limit=pause)),)

    return found


def _mend(place: Place, setting: Setting) -> Iterator[Candidate]:
    """An ellipsis at the end of the one and at the beginning of the other, or none."""
    caption, after = place.caption, place.after
    if after is None:
        return
    first, second = _without(caption, _ENDS_OPEN), _without(after, _BEGINS_OPEN)
    if _is_pause(caption, after, setting):
        mark = setting.spec.ellipsis or "…"
        end = (first.spans[-1].with_text(mark),)
        begin = (second.spans[0].with_text(mark),)
        first = replace(first, spans=joined(first.spans, end))
        second = replace(second, spans=joined(begin, second.spans))
    yield (caption.id, after.id), (first, second)


def _without(caption: Caption, mark: re.Pattern[str]) -> Caption:
    return replace(caption, spans=substituted(caption.spans, mark, lambda found: ""))


RULE = Rule("continuation", ("ellipsis_from_pause_ms",), "ms", _check, _mend)
