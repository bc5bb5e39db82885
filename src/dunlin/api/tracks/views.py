"""Tracks, captions and edits as they go over the wire."""

from collections.abc import Iterable, Iterator
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from dunlin.api.services import Services
from dunlin.api.wire import Language, View
from dunlin.core.captions import Caption, Case, Operation, Placement, Span, Times, Track
from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.captions.look import Look
from dunlin.core.delivery.encoding import AS_THE_FILM, Encoding
from dunlin.core.project import Target, captions_of, waivers_of
from dunlin.core.specs import Finding, Judge, Measures, Setting, Spec
from dunlin.core.styles import event_lines, raised_by, script_head, telling
from dunlin.core.text.direction import Direction, base_direction
from dunlin.media.muxing import Container
from dunlin.store.log import Author, Done
from dunlin.store.projects import Project, TrackInfo
from dunlin.store.waivers import Waivers, with_waivers
from dunlin.work.judging import judge_of, waivers_in
from dunlin.work.specs import is_newer_in_house
from dunlin.work.splitting import Lines

__all__ = [
    "BurnRequest",
    "CaptionView",
    "CaptionsAsked",
    "CaptionsView",
    "ChangesView",
    "EditRequest",
    "EditView",
    "GestureRequest",
    "LinesView",
    "OwnView",
    "PageRequest",
    "SplitRequest",
    "TrackChange",
    "TrackInfoView",
    "TrackRequest",
    "TrackView",
    "TracksInsideRequest",
    "TracksOutRequest",
    "caption_views",
    "changes_view",
    "edit_view",
    "lines_of",
    "track_info_view",
    "track_pieces",
    "track_targets",
    "track_view",
]

# More captions than this in one answer would hold the page up while it takes them in.
_AT_ONCE = 1000
# As many as are in sight when a track is opened, and as many as are read without being felt.
_FIRST, _A_PIECE = 100, 500


class TrackInfoView(View):
    id: str
    name: str
    language: str
    spec_id: str | None
    """The spec it is judged by, where that is not the project's."""
    spec_is_older: bool
    """Whether the house has a newer one by now of the spec that it is judged by."""
    style: str | None
    """The style of captions that name none, where that is not the one that ships."""
    translates: str | None
    """The track that it is a translation of."""


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
    look: Look | None
    """What it says of its look itself, beside its place and case."""
    shown: tuple[Span, ...] | None
    """The spans with their letters as they are shown, where that is not how they are written."""
    direction: Direction
    """The side its lines run from, by its language and its letters."""
    measures: Measures
    findings: list[Finding]
    script: str | None
    """Its lines in the render script; null where its words are told one by one, which takes many: those are read apart, when
    they are to be drawn."""


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


class OwnView(View):
    """What a window has done itself: the tracks, and the revision that it brought them to."""

    revision: int
    tracks: list[str]


class CaptionsAsked(BaseModel):
    captions: Annotated[list[str], Field(max_length=1000)]


class CaptionsView(View):
    """Some captions of a track, as they are at a revision."""

    revision: int
    captions: list[CaptionView]


class LinesView(View):
    """The lines of captions in the render script, by their ids, as they are at a revision."""

    revision: int
    lines: dict[str, str]


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


class LinesRequest(GestureRequest):
    """Breaks the lines of captions anew by their spec, or makes one line of each."""

    captions: Annotated[list[str], Field(min_length=1)]
    lines: Lines


class BurnRequest(BaseModel):
    encoding: Encoding = AS_THE_FILM
    version: str | None = None
    """Id of the version of the track that is drawn; null is the film's own picture."""
    above: str | None = None
    """Id of another track whose captions are drawn above these; null is none."""


class TracksInsideRequest(BaseModel):
    """A film with caption tracks inside, which players show or hide."""

    container: Container = "mp4"
    tracks: Annotated[list[str], Field(min_length=1, max_length=40)]
    """Their ids, in the order in which players list them."""
    default: str | None = None
    """The one that players show unless somebody turns it off."""
    forced: list[str] = []
    """Those that they show although captions are turned off."""


class TracksOutRequest(BaseModel):
    """Takes caption tracks out of the film."""

    streams: Annotated[
        list[Annotated[int, Field(ge=0, le=1000)]], Field(min_length=1, max_length=60)
    ]
    """Their places among the film's caption tracks, from 0."""


class TrackRequest(BaseModel):
    """A new track, empty or with a copy of another's captions."""

    name: Annotated[str, Field(max_length=200)] = ""
    language: Language = "en"
    copy_of: str | None = None
    """Id of the track of this project whose captions it begins with."""


class TrackChange(BaseModel):
    """What shall be different about a track; what is left out stays."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=200)] | None = None
    language: Language | None = None
    spec_id: str | None = None


def caption_views(
    track: Track, places: Iterable[int], judge: Judge, waivers: Waivers
) -> list[CaptionView]:
    """The captions at places in a track's order, with all that is computed from them."""
    setting = judge.setting
    views = []
    for index in places:
        place = judge.place(track, index)
        caption = place.caption
        # Built of values that are right by type already: nothing to check again at typing speed.
        views.append(
            CaptionView.model_construct(
                id=caption.id,
                in_ms=caption.in_ms,
                out_ms=caption.out_ms,
                speaker=caption.speaker,
                placement=caption.placement,
                style=caption.style,
                spans=caption.spans,
                locked=caption.locked,
                case=caption.case,
                look=caption.look,
                shown=shown_spans(caption) if caption.case else None,
                direction=base_direction(place.text, setting.language),
                measures=place.measures,
                findings=with_waivers(judge.findings_at(place), waivers),
                script=None if is_told(setting, caption) else lines_drawn(track, index, setting),
            )
        )
    return views


def is_told(setting: Setting, caption: Caption) -> bool:
    """Whether the words of a caption are told one by one."""
    known = any(span.spoken for span in caption.spans)
    return known and telling.is_told(setting.sheet.style_of(caption), caption.spans)


def lines_of(track: Track, captions: Iterable[str], setting: Setting) -> dict[str, str]:
    """The lines of the render script of captions that still are in a track, by their ids."""
    return {id_: lines_drawn(track, track.index(id_), setting) for id_ in captions if id_ in track}


def lines_drawn(track: Track, index: int, setting: Setting) -> str:
    """The lines of the render script of the caption at a place in a track's order."""
    caption = track.at(index)
    assert caption is not None
    raised = raised_by(track, index, setting.sheet, setting.picture)
    return event_lines(caption, setting.sheet, setting.picture, setting.rate, raised)


def track_targets(track_id: str) -> list[str]:
    """What a view of a track shows, and undo there is about."""
    return [captions_of(track_id), waivers_of(track_id)]


def track_info_view(services: Services, project: Project, info: TrackInfo) -> TrackInfoView:
    """A track without its captions, and whether its spec is the newest."""
    older = is_newer_in_house(services, project, info.id)
    return TrackInfoView(
        id=info.id,
        name=info.name,
        language=info.language,
        spec_id=info.spec_id,
        spec_is_older=older,
        style=info.style,
        translates=info.translates,
    )


def track_view(services: Services, project: Project, track_id: str, author: Author) -> TrackView:
    """A track with all that is computed of it."""
    head, *further = track_pieces(services, project, track_id, author)
    assert isinstance(head, TrackView)
    captions = [caption for piece in (head, *further) for caption in piece.captions]
    return head.model_copy(update={"captions": captions})


def track_pieces(
    services: Services, project: Project, track_id: str, author: Author
) -> Iterator[TrackView | CaptionsView]:
    """A track as it is now in pieces: its head with the captions that are in sight first, then the others,
    so many at a time that neither end is held up by one piece."""
    track, revision = services.log.track(track_id)
    targets = track_targets(track_id)
    can_undo, can_redo = services.log.history(project.id, targets, author.person)
    judge, waivers = (
        judge_of(services, project, track_id),
        waivers_in(services, project.id, track_id, track),
    )
    yield TrackView.model_construct(
        id=track_id,
        revision=revision,
        can_undo=can_undo,
        can_redo=can_redo,
        spec=judge.setting.spec,
        script_head=script_head(judge.setting.sheet, judge.setting.picture),
        captions=caption_views(track, range(min(_FIRST, len(track))), judge, waivers),
    )
    for start in range(_FIRST, len(track), _A_PIECE):
        places = range(start, min(start + _A_PIECE, len(track)))
        views = caption_views(track, places, judge, waivers)
        yield CaptionsView.model_construct(revision=revision, captions=views)


def edit_view(
    services: Services,
    project: Project,
    track_id: str,
    done: Done,
    base: int | None = None,
) -> EditView:
    """What an edit changed in a track, and all that changed there since its maker last looked.

    :param base: the revision that its maker had seen; None is the one before the edit
    """
    address = captions_of(track_id)
    own = done.changed.get(address)
    if base is None:
        base = own.before if own else done.revision
    waived = done.changed.get(waivers_of(track_id))
    judged = {key.split(" ", 1)[1] for key in waived.touched} if waived else set()
    person = done.author.person
    with services.log.moment(project.id):
        track, revision = services.log.track_of(project.id, track_id)
        since = services.log.since(project.id, address, base)
        judge = judge_of(services, project, track_id)
        waivers = waivers_in(services, project.id, track_id, track)
        can_undo, can_redo = services.log.history(project.id, track_targets(track_id), person)
    touched = {track.index(id_) for id_ in since.touched | since.near | judged if id_ in track}
    beside = {place + off for place in touched for off in range(1, judge.reach)}
    beside = {place for place in beside if place < len(track)}
    # What has a shape for its neighbour has another behind it.
    shapes = [place for place in touched if (one := track.at(place)) and one.is_shape]
    beside |= {other for place in shapes for other in judge.judged_with(track, place)}
    places = sorted(touched | beside)
    further = [caption for place in places[_AT_ONCE:] if (caption := track.at(place))]
    return EditView.model_construct(
        track_id=track_id,
        base=base,
        revision=revision,
        actor=person,
        targets=sorted(done.changed),
        can_undo=can_undo,
        can_redo=can_redo,
        captions=caption_views(track, places[:_AT_ONCE], judge, waivers),
        further=[Times(caption.id, caption.in_ms, caption.out_ms) for caption in further],
        removed=sorted(id_ for id_ in since.touched if id_ not in track),
        touched=sorted(own.touched) if own else [],
    )


def changes_view(services: Services, done: Done, windows: Iterable[str]) -> ChangesView:
    """What a gesture changed, in all tracks that it touched."""
    tracks: list[EditView] = []
    if named := {track for address in done.changed if (track := Target.at(address).track)}:
        project = services.projects.get(done.project_id)
        there = [info.id for info in project.tracks if info.id in named]
        tracks = [edit_view(services, project, track_id, done) for track_id in there]
    return ChangesView.model_construct(
        project_id=done.project_id,
        revision=done.revision,
        actor=done.author.person,
        windows=sorted(windows),
        targets=sorted(done.changed),
        tracks=tracks,
    )
