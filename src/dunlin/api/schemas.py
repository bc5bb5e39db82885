"""What goes over the wire."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dunlin.core.captions import Case, Operation, Placement, Span, Times
from dunlin.core.specs import Finding, Measures, RuleName, Spec, Weight
from dunlin.core.speech import Word
from dunlin.core.speech.activity import Stretch
from dunlin.core.timing.cueing import Cueing, Key
from dunlin.core.timing.retiming import BelowZero, Edges
from dunlin.core.timing.typed import TypedField

__all__ = [
    "BurnRequest",
    "By",
    "CaptionView",
    "CaptionsAsked",
    "CaptionsRequest",
    "CaptionsView",
    "ChangesView",
    "CueRequest",
    "CueView",
    "EditRequest",
    "EditView",
    "EngineView",
    "FilmView",
    "FindingKey",
    "FitRequest",
    "FormatInfoView",
    "FormatView",
    "GestureRequest",
    "HearRequest",
    "InPieces",
    "JobView",
    "JudgementView",
    "LineTyped",
    "LossView",
    "MakingChoice",
    "MakingView",
    "MendRequest",
    "MendView",
    "MendedView",
    "MendsView",
    "ModelView",
    "NamedCount",
    "OddityView",
    "OfferView",
    "OffersView",
    "PageRequest",
    "PassageView",
    "PeaksView",
    "PreviewView",
    "Problem",
    "ProjectChange",
    "ProjectView",
    "ReadingView",
    "RecogniseRequest",
    "RetimingRequest",
    "RetimingView",
    "RuleCount",
    "RuleView",
    "ScriptView",
    "ShapeChoice",
    "ShotRequest",
    "ShotsView",
    "SoundView",
    "SpeakersRequest",
    "SpeechView",
    "SplitRequest",
    "StepRequest",
    "TermsRequest",
    "ThroughAnchors",
    "TrackChange",
    "TrackInfoView",
    "TrackRequest",
    "TrackView",
    "TranscriptEdit",
    "TypedRequest",
    "WaiverRequest",
    "WordsView",
    "WouldBeView",
]


Language = Annotated[str, Field(pattern=r"^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]


# A hundred hours: no film, and no slip of the hand, is longer.
MOST_MS = 360_000_000


# More words than a day of talk has.
MOST_WORDS = 300_000


class View(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class Problem(View):
    """What was wrong with a request, in words; `code` names it where a page can do something about it."""

    detail: str
    code: str | None = None
    values: dict[str, Any] = {}


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
    sound_ends_early_ms: int | None
    """Where the sound ends, when the picture goes on without it."""


class TrackInfoView(View):
    id: str
    name: str
    language: str
    spec_id: str | None
    """The spec it is judged by, where that is not the project's."""


class JobView(View):
    id: str
    project_id: str
    kind: Literal[
        "peaks",
        "copy",
        "recognise",
        "burn",
        "shots",
        "speech",
        "sync",
        "fit",
        "fit-words",
        "guess-speakers",
        "hear-again",
    ]
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


class Speaker(BaseModel):
    """Somebody who speaks in the film."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    colour: Annotated[str, Field(pattern=r"^#[0-9A-Fa-f]{6}$")]


class ProjectView(View):
    id: str
    revision: int
    title: str
    created_ms: int
    opened_ms: int
    spec: Spec
    spec_is_older: bool
    """Whether the house has a newer spec of that name than the project took."""
    film: FilmView
    shots: list[int] | None
    """Milliseconds of the shot changes; None until they were looked for."""
    tracks: list[TrackInfoView]
    jobs: list[JobView]
    speakers: list[Speaker]
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
    locked: bool
    case: Case | None
    shown: tuple[Span, ...] | None
    """The spans with their letters as they are shown, where that is not how they are written."""
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
    """What changed in a track: captions to put in place of those with their ids, and ids now gone.

    It tells all that was touched after the revision `base`, by whomever, so that whoever had seen
    that has seen `revision` then. Of thousands of captions only the first are whole; of `further` ones
    the times are told, and the rest is read apart.
    """

    track_id: str
    base: int
    revision: int
    actor: str
    """The person whose edit it is; `can_undo` and `can_redo` are about that person."""
    targets: list[str]
    """Addresses of all that the same gesture touched in the project."""
    can_undo: bool
    can_redo: bool
    captions: list[CaptionView]
    further: list[Times]
    removed: list[str]
    touched: list[str]
    """What the edit itself touched."""


class ChangesView(View):
    """What changed in a project: the addresses of its targets, and the captions of its tracks.

    `windows` are those that it was done in.
    """

    project_id: str
    revision: int
    actor: str
    windows: list[str]
    targets: list[str]
    tracks: list[EditView]


class CaptionsAsked(BaseModel):
    captions: Annotated[list[str], Field(max_length=1000)]


class CaptionsView(View):
    """Some captions of a track, as they are at a revision."""

    revision: int
    captions: list[CaptionView]


class GestureRequest(BaseModel):
    """One gesture, or a part of one that goes on, made of the track as it was at a revision."""

    base_revision: Annotated[int, Field(ge=0)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class EditRequest(GestureRequest):
    """A gesture that is an operation."""

    operation: Annotated[Operation, Field(discriminator="kind")]


class PageRequest(GestureRequest):
    """Texts, one for each caption that shall be, in the place of captions that stand in a row.

    `after` is the caption behind which they come where they take the place of none; null is the start.
    """

    captions: Annotated[list[str], Field(max_length=50_000)]
    after: str | None = None
    texts: Annotated[list[Annotated[str, Field(max_length=5_000)]], Field(max_length=50_000)]


class SplitRequest(GestureRequest):
    """Splits at a character, or at a time; the spoken words tell the other."""

    caption: str
    new_id: Annotated[str, Field(min_length=1, max_length=64)]
    offset: Annotated[int, Field(ge=0)] | None = None
    at_ms: Annotated[int, Field(ge=0)] | None = None


class StepRequest(BaseModel):
    """Undoes or redoes the newest gesture that touched one of these targets, which are in view."""

    targets: Annotated[
        list[Annotated[str, Field(max_length=200)]], Field(min_length=1, max_length=50)
    ]


class RecogniseRequest(BaseModel):
    """What hears the speech, and in which of the film's sounds; `model` null is the first one for
    the language."""

    engine: str
    language: Language
    model: Annotated[str, Field(max_length=200)] | None = None
    stream: Annotated[int, Field(ge=0, le=1000)] = 0
    voice_focus: bool = False


class HearRequest(RecogniseRequest):
    """Hears a part of the film again, to be compared with the transcript's words there: `count` of
    them, from `first` on."""

    from_ms: Annotated[int, Field(ge=0)]
    to_ms: Annotated[int, Field(ge=0)]
    first: Annotated[int, Field(ge=0, le=2**31)]
    count: Annotated[int, Field(ge=0, le=2**31)]


class ShapeChoice(BaseModel):
    """Captions of so many words a line, and so many lines."""

    words_per_line: Annotated[int, Field(ge=1, le=20)]
    lines: Annotated[int, Field(ge=1, le=4)]


class MakingChoice(BaseModel):
    """How captions are made of the words: by a spec's limits, or in a shape."""

    model_config = ConfigDict(extra="forbid")

    spec_id: str | None = None
    """None is the spec the track is judged by."""
    shape: ShapeChoice | None = None
    case: Case | None = None
    keep: bool = True
    """Whether captions that were timed or written by hand stay where their words did."""


class CaptionsRequest(MakingChoice):
    """Makes captions of the words, in place of those in the track."""

    looked_at: "LookedAt | None" = None
    """None makes all changes, whatever they are now."""
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class LookedAt(BaseModel):
    """A preview, and the changes of it that are made, by their numbers."""

    revision: int
    """The track's, when it was looked at."""
    words_revision: int
    """The transcript's, when it was looked at."""
    changes: Annotated[list[Annotated[int, Field(ge=0)]], Field(max_length=MOST_WORDS)]


class WouldBeView(View):
    """A caption as it would be: `rules` are those it would break."""

    in_ms: int
    out_ms: int
    text: str
    speaker: str | None
    change: int | None
    """The change it belongs to; None when it is in the track already."""
    goes: bool
    """Whether it is in the track now and would not be, with nothing in its place."""
    rules: list[RuleName]


class RuleCount(View):
    rule: RuleName
    weight: Weight
    count: int


class TermsRequest(BaseModel):
    """Names and terms as they are spelled, in place of those there are."""

    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the list was made of; None is the newest."""
    terms: Annotated[
        list[Annotated[str, Field(min_length=1, max_length=80, pattern=r"\S")]],
        Field(max_length=500),
    ]


class OfferView(View):
    """A term that `count` words of the transcript, from the one at index `first` on, may stand for."""

    first: int
    count: int
    said: str
    term: str
    put: str
    """The term with the marks that stand around the words."""
    likeness: float


class OffersView(View):
    revision: int
    """Of the transcript that was searched."""
    terms: list[str]
    offers: list[OfferView]


class PassageView(View):
    """A passage to type by ear, and the times of its caption."""

    from_ms: int
    to_ms: int
    in_ms: int
    out_ms: int


class LineTyped(BaseModel):
    """A line typed by ear, and the times of its caption."""

    text: Annotated[str, Field(min_length=1, max_length=2000, pattern=r"\S")]
    in_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    out_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    new_id: Annotated[str, Field(min_length=1, max_length=64)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class NamedCount(View):
    name: str
    count: int


class ScriptView(View):
    """What a script says, and what would come of it."""

    passage_count: int
    speakers: list[NamedCount]
    """Who speaks, with the number of passages of each, the most first."""
    description_count: int
    spoken_ms: int
    """How long it takes to say, at a usual pace."""
    language: str | None
    """What it is written in, where that can be told and is not the track's language."""
    caption_count: int
    captions: list["PreviewView"]
    """The first of them."""


class MakingView(View):
    """What would be made, and what would become of the captions there are."""

    revision: int
    words_revision: int
    captions: list[WouldBeView]
    gone: list[int]
    """How many captions each change takes away."""
    rules: list[RuleCount]


class WordsView(View):
    run: str | None
    revision: int
    can_undo: bool
    can_redo: bool
    first: int
    words: list[Word]


class WrittenWord(BaseModel):
    """A word as it stands in the text: with the time of the word it was, or without one."""

    text: Annotated[str, Field(pattern=r"^\S+$", max_length=2000)]
    start_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None
    end_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None
    confidence: Annotated[float, Field(ge=0, le=1)] = 1.0
    speaker: Annotated[str, Field(max_length=80)] | None = None
    begins: bool = False
    """Whether a paragraph begins with it."""
    guessed: bool = False
    """Whether its time was shared out, and not heard."""
    italic: bool = False
    bold: bool = False
    underline: bool = False


class TranscriptEdit(BaseModel):
    """Words written in the place of `count` others, from the one at index `first` on."""

    base_revision: Annotated[int, Field(ge=0)]
    first: Annotated[int, Field(ge=0, le=2**31)]
    count: Annotated[int, Field(ge=0, le=2**31)]
    words: Annotated[list[WrittenWord], Field(max_length=MOST_WORDS)]
    gesture: Annotated[str, Field(min_length=1, max_length=64)] | None = None
    """Edits in a row with the same name are undone together."""


class NamedSpeaker(Speaker):
    was: str | None = None
    """The name it had, when it is another now."""


class SpeakersRequest(BaseModel):
    """All who speak, in the order of their keys."""

    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the list was made of; None is the newest."""
    speakers: Annotated[list[NamedSpeaker], Field(max_length=100)]


class SoundView(View):
    """One of a film's sounds; language and title as the film says, if it does."""

    language: str | None
    title: str | None
    channels: int


class ModelView(View):
    """A model that was found: `languages` is empty when it knows many, `size_bytes` null when its
    engine carries it."""

    name: str
    languages: tuple[str, ...]
    size_bytes: int | None


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
    spans: tuple[Span, ...]


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
    base_revision: Annotated[int, Field(ge=0)] | None = None
    """The project's revision that the window had seen of the track; None is the newest."""
    chosen: Annotated[list[FindingKey], Field(max_length=20_000)] | None = None
    only: list[RuleName] = []


class MendedView(View):
    """What mending did."""

    mended: int
    left: int
    edit: EditView | None


class WaiverRequest(FindingKey):
    reason: Annotated[str, Field(min_length=1, max_length=500)]


class SpeechView(View):
    """Where somebody speaks."""

    stretches: list[Stretch]


class ShotRequest(BaseModel):
    at_ms: Annotated[int, Field(ge=0, le=MOST_MS)]


class ShotsView(View):
    """Milliseconds of the shot changes."""

    shots: list[int]


class By(BaseModel):
    """Later by an amount such as `+500ms`, `-3f` or `2.5`, or earlier by a negative one."""

    kind: Literal["by"] = "by"
    amount: Annotated[str, Field(max_length=40)]


class Anchor(BaseModel):
    old_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    new_ms: Annotated[int, Field(ge=0, le=MOST_MS)]


class ThroughAnchors(BaseModel):
    """Stretched so that each anchor's old time becomes its new one."""

    kind: Literal["anchors"] = "anchors"
    anchors: Annotated[list[Anchor], Field(min_length=1, max_length=200)]


class RateChange(BaseModel):
    """Made for a film at one frame rate, shown with it at another; `25`, `29.97`, `30000/1001`."""

    kind: Literal["rate"] = "rate"
    from_fps: str
    to_fps: str


class PieceView(View):
    """From `from_ms` until `to_ms`, or the end, a time becomes `time * rate + offset_ms`."""

    from_ms: Annotated[int, Field(ge=0, le=MOST_MS)]
    to_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None
    offset_ms: Annotated[float, Field(ge=-MOST_MS, le=MOST_MS)]
    rate: Annotated[float, Field(ge=0.2, le=5)] = 1.0


class InPieces(BaseModel):
    """Each piece by an amount of its own."""

    kind: Literal["pieces"] = "pieces"
    pieces: Annotated[list[PieceView], Field(min_length=1, max_length=1000)]


class RetimingRequest(BaseModel):
    """How captions shall be moved; nothing is, until the times that are answered are edited in."""

    way: Annotated[By | ThroughAnchors | RateChange | InPieces, Field(discriminator="kind")]
    captions: list[str] | None = None
    """Only these."""
    from_ms: int | None = None
    """Only those that come in at this time or later."""
    to_ms: int | None = None
    """Only those that come in before this time."""
    edges: Edges = "both"
    below_zero: BelowZero = "hold"


class RetimingView(View):
    """New times, those that would have started below zero, and those that are dropped for it."""

    times: list[Times]
    below_zero: list[str]
    dropped: list[str]


class TypedRequest(BaseModel):
    """A time typed for a caption: `62.5`, `1:02.5`, `00:01:02:12`, or an amount such as `-3f`."""

    caption: str
    field: TypedField
    text: Annotated[str, Field(max_length=40)]


class FitRequest(BaseModel):
    """Which captions are fitted to which part of the sound; all of it, if it is not said."""

    captions: list[str] | None = None
    from_ms: Annotated[int, Field(ge=0, le=MOST_MS)] = 0
    to_ms: Annotated[int, Field(ge=0, le=MOST_MS)] | None = None


class CueRequest(BaseModel):
    """A key pressed while cueing along, and the hand that pressed it."""

    state: Cueing
    key: Key
    at_ms: Annotated[float, Field(ge=-1000, le=MOST_MS)]
    reaction_ms: Annotated[int, Field(ge=-500, le=1000)] = 0
    snap_ms: Annotated[int, Field(ge=0, le=1000)] = 0
    gesture: Annotated[str, Field(min_length=1, max_length=64)]


class CueView(View):
    """Where cueing stands, and the edit that the key made, if it made one."""

    state: Cueing
    edit: EditView | None
    ended: bool
