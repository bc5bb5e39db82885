"""Edits of what a caption says."""

from dataclasses import dataclass, replace
from typing import Literal

from dunlin.core.captions.edits.outcome import Applied, held
from dunlin.core.captions.model import Span, Track, joined, rewritten

__all__ = ["RewriteText", "SetText", "rewrite_text", "set_text"]


@dataclass(frozen=True)
class SetText:
    """Gives a caption this styled text."""

    caption: str
    spans: tuple[Span, ...]
    kind: Literal["set-text"] = "set-text"

    def names(self) -> frozenset[str]:
        return frozenset({self.caption})


@dataclass(frozen=True)
class RewriteText:
    """Gives a caption these words; what was not rewritten keeps its style."""

    caption: str
    text: str
    kind: Literal["rewrite-text"] = "rewrite-text"

    def names(self) -> frozenset[str]:
        return frozenset({self.caption})


def set_text(track: Track, edit: SetText) -> Applied:
    caption = held(track, edit.caption)
    changed = track.changed((), [replace(caption, spans=joined(edit.spans))])
    return Applied(changed, SetText(caption.id, caption.spans), edit.names())


def rewrite_text(track: Track, edit: RewriteText) -> Applied:
    spans = rewritten(held(track, edit.caption).spans, edit.text)
    return set_text(track, SetText(edit.caption, spans))
