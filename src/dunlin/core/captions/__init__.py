"""Captions, the track they stand in, and the edits that change it."""

from dunlin.core.captions.edits import (
    Applied,
    Conflict,
    DeleteCaptions,
    InsertCaptions,
    MergeCaptions,
    Operation,
    ReplaceCaptions,
    RetimeCaptions,
    RewriteText,
    SetText,
    SplitCaption,
    Times,
    apply,
    captions_named,
)
from dunlin.core.captions.model import Caption, Span, Track, plain_text, spans_of

__all__ = [
    "Applied",
    "Caption",
    "Conflict",
    "DeleteCaptions",
    "InsertCaptions",
    "MergeCaptions",
    "Operation",
    "ReplaceCaptions",
    "RetimeCaptions",
    "RewriteText",
    "SetText",
    "Span",
    "SplitCaption",
    "Times",
    "Track",
    "apply",
    "captions_named",
    "plain_text",
    "spans_of",
]
