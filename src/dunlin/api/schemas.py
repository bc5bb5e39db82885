"""What goes over the wire."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dunlin.core.captions import Operation, Placement, Span
from dunlin.core.specs import Finding, Measures, RuleName, Spec
from dunlin.core.speech import Word

__all__ = [
    "BurnRequest",
    "CaptionView",
    "CaptionsRequest",
    "EditRequest",
    "EditView",
    "EngineView",
    "FilmView",
    "FindingKey",
    "FormatInfoView",
    "FormatView",
    "JobView",
    "JudgementView",
    "LossView",
    "MendRequest",
    "MendView",
    "MendedView",
    "MendsView",
    "ModelView",
    "PeaksView",
    "Problem",
    "ProjectChange",
    "ProjectView",
    "ReadingView",
    "RecogniseRequest",
    "RuleView",
    "SplitRequest",
    "StepRequest",
    "TrackChange",
    "TrackInfoView",
    "TrackRequest",
    "TrackView",
    "WaiverRequest",
    "WordsView",
]


Language = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


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
    spec_id: str | None
    """The spec it is judged by, where that is not the project's."""


class JobView(View):
    id: str
    project_id: str
    kind: Literal["peaks", "copy", "recognise", "burn", "shots"]
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
    shots: list[int] | None
    """Milliseconds of the shot changes; None until they were looked for."""
    tracks: list[TrackInfoView]
    jobs: list[JobView]
    word_count: int
    caption_count: int


class ProjectChange(BaseModel):
    """What shall be different about a project; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    title: Annotated[str, Field(min_length=1, max_length=300)] | None = None
    spec_id: str | None = None
    language: Language | None = None


class CaptionView(View):
    """A caption with all that is computed from it."""

    id: str
    in_ms: int
    out_ms: int
    speaker: str | None
    placement: Placement | None
    style: str | None
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
    spec: Spec
    """What it is judged by: its own spec or the project's, as it is for the track's language."""
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
    language: Language


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
    done: str
    """What writing does about it: drop, flatten, join, round, nearest or replace."""


class FormatView(View):
    name: str
    title: str
    ending: str
    losses: list[LossView]


class FormatInfoView(View):
    """A format that can be read."""

    name: str
    title: str
    endings: tuple[str, ...]


class OddityView(View):
    line: int
    message: str


class PreviewView(View):
    """A caption of a file, as it would be taken in."""

    in_ms: int
    out_ms: int
    speaker: str | None
    text: str


class ReadingView(View):
    """What a caption file holds, before anything of it is taken in."""

    format: str
    title: str
    encoding: str | None
    """How it was read; None for a file that is no text."""
    encodings: tuple[str, ...]
    counts_frames: bool
    language: str | None
    caption_count: int
    ends_ms: int
    captions: list[PreviewView]
    """The first of them."""
    oddity_count: int
    oddities: list[OddityView]
    """The first of them, in order of lines."""


class TrackRequest(BaseModel):
    """A new track, empty or with a copy of another's captions."""

    name: Annotated[str, Field(max_length=200)] = ""
    language: Language = "en"


class TrackChange(BaseModel):
    """What shall be different about a track; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=200)] | None = None
    language: Language | None = None
    spec_id: str | None = None


class RuleView(View):
    """A rule, the limits of a spec it goes by, and whether a machine can mend what it finds."""

    name: RuleName
    limits: tuple[str, ...]
    unit: str
    mends: bool


class DistributionView(View):
    """How many captions have a value from `start + n * step` on, for each `n`."""

    measure: str
    start: float
    step: float
    counts: tuple[int, ...]


class JudgementView(View):
    """A track judged by a spec that is being tried out."""

    caption_count: int
    broken: dict[str, int]
    """How many captions break each rule."""
    distributions: list[DistributionView]


class ShapeView(View):
    """A caption as it is, or would be, with its measures."""

    id: str
    in_ms: int
    out_ms: int
    text: str
    measures: Measures


class MendView(View):
    """A finding, and what can be done about it."""

    rule: RuleName
    caption: str
    before: list[ShapeView]
    after: list[ShapeView]
    reason: str | None
    """Why nothing can be done; None when something can."""


class MendsView(View):
    revision: int
    mends: list[MendView]


class FindingKey(BaseModel):
    rule: RuleName
    caption: str


class MendRequest(BaseModel):
    """Mends the chosen findings, or all of the rules named, or all there are."""

    gesture: Annotated[str, Field(min_length=1, max_length=64)]
    actor: Annotated[str, Field(min_length=1, max_length=64)]
    chosen: Annotated[list[FindingKey], Field(max_length=20_000)] | None = None
    only: list[RuleName] = []


class MendedView(View):
    """What mending did."""

    mended: int
    left: int
    edit: EditView | None


class WaiverRequest(BaseModel):
    rule: RuleName
    caption: str
    reason: Annotated[str, Field(min_length=1, max_length=500)]
