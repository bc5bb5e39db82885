"""What goes over the wire."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dunlin.core.captions import Operation, Span
from dunlin.core.specs import Finding, Measures, Spec
from dunlin.core.speech import Word

__all__ = [
    "BurnRequest",
    "CaptionView",
    "CaptionsRequest",
    "EditRequest",
    "EditView",
    "EngineView",
    "FilmView",
    "FormatView",
    "JobView",
    "LossView",
    "ModelView",
    "PeaksView",
    "Problem",
    "ProjectChange",
    "ProjectView",
    "RecogniseRequest",
    "SplitRequest",
    "StepRequest",
    "TrackView",
    "WordsView",
]


class View(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class Problem(View):
    """What was wrong with a request, in words."""

    detail: str


class RateView(View):
    numerator: int
    denominator: int


class FilmView(View):
    label: str
    size_bytes: int
    duration_ms: int
    frame_rate: RateView
    frame_rate_varies: bool
    width: int
    height: int
    has_picture: bool
    has_sound: bool
    playable: bool
    """False while it is converted."""
    ends_early_ms: int | None
    """Where the readable part ends, when that is before the film says it ends."""


class TrackInfoView(View):
    id: str
    name: str
    language: str
    revision: int


class JobView(View):
    id: str
    project_id: str
    kind: Literal["peaks", "copy", "recognise", "burn"]
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    progress: float
    step: str
    left_ms: int | None
    error: str | None
    attempts: int
    result: dict[str, Any] | None
    parameters: dict[str, Any]
    created_ms: int
    version: int


class ProjectView(View):
    id: str
    title: str
    created_ms: int
    opened_ms: int
    spec: Spec
    film: FilmView
    tracks: list[TrackInfoView]
    jobs: list[JobView]
    word_count: int
    caption_count: int


class ProjectChange(BaseModel):
    """What shall be different about a project; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Field(min_length=1, max_length=300)] | None = None
    spec_id: str | None = None
    language: Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")] | None = None


class CaptionView(View):
    """A caption with all that is computed from it."""

    id: str
    in_ms: int
    out_ms: int
    speaker: str | None
    spans: tuple[Span, ...]
    measures: Measures
    findings: list[Finding]
    script: str
    """Its lines in the render script."""


class TrackView(View):
    """A whole track, and the head of its render script."""

    id: str
    revision: int
    can_undo: bool
    can_redo: bool
    script_head: str
    captions: list[CaptionView]


class EditView(View):
    """What an edit changed: captions to put in place of those with their ids, and ids now gone."""

    track_id: str
    revision: int
    actor: str
    can_undo: bool
    can_redo: bool
    captions: list[CaptionView]
    removed: list[str]
    touched: list[str]


class EditRequest(BaseModel):
    """One gesture, or a part of one that goes on."""

    base_revision: Annotated[int, Field(ge=0)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]
    actor: Annotated[str, Field(min_length=1, max_length=64)]
    operation: Annotated[Operation, Field(discriminator="kind")]


class SplitRequest(BaseModel):
    """Splits at a character, or at a time; the spoken words tell the other."""

    base_revision: Annotated[int, Field(ge=0)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]
    actor: Annotated[str, Field(min_length=1, max_length=64)]
    caption: str
    new_id: Annotated[str, Field(min_length=1, max_length=64)]
    offset: Annotated[int, Field(ge=0)] | None = None
    at_ms: Annotated[int, Field(ge=0)] | None = None


class StepRequest(BaseModel):
    """Undoes or redoes."""

    actor: Annotated[str, Field(min_length=1, max_length=64)]


class RecogniseRequest(BaseModel):
    engine: str
    language: Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


class CaptionsRequest(BaseModel):
    """Makes captions of the words, by the project's spec."""

    actor: Annotated[str, Field(min_length=1, max_length=64)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class WordsView(View):
    run: str | None
    first: int
    words: list[Word]


class ModelView(View):
    name: str
    languages: tuple[str, ...]


class EngineView(View):
    name: str
    title: str
    models: list[ModelView]


class PeaksView(View):
    duration_ms: int
    counts: tuple[int, ...]
    pair_ms: tuple[float, ...]


class BurnRequest(BaseModel):
    crf: Annotated[int, Field(ge=0, le=51)] = 20
    height: Annotated[int, Field(ge=64, le=4320)] | None = None


class LossView(View):
    what: str
    captions: tuple[str, ...]


class FormatView(View):
    name: str
    title: str
    ending: str
    losses: list[LossView]
