"""How captions look on the picture, or would with changes that are not made yet: for hands that hold them."""

from collections.abc import Iterable
from dataclasses import replace
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from dunlin.api.services import Services
from dunlin.api.tracks.views import track_targets
from dunlin.api.wire import View
from dunlin.core.captions import Look, Track
from dunlin.core.captions.bounds import Milliseconds
from dunlin.core.captions.edits import Change, ChangeCaptions, apply
from dunlin.core.captions.look import StyleName
from dunlin.core.captions.model import Span, sliced
from dunlin.core.project.targets import SPEAKERS, STYLES, TRACKS
from dunlin.core.styles import StyleSheet, event_lines, raised_by, script_head
from dunlin.core.styles.contrast import Backdrop, Contrast, contrast_of
from dunlin.core.styles.holding import Frame, Level, frame_of, levels_of, whole_look, words_look
from dunlin.core.styles.moments import at_moment
from dunlin.core.styles.picture import Script, base_size
from dunlin.core.styles.render_script import held_lines
from dunlin.core.styles.shelf import families_of, is_there
from dunlin.media.backdrop import backdrop_in
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.log import Author
from dunlin.store.projects import Project
from dunlin.work.styles import sheet_of, styles_of_speakers

__all__ = ["LooksRequest", "LooksView", "looks_view"]

_MOST = 200
"""Captions that are asked about at once: those that are held, and those beside them on the screen."""


class Words(BaseModel):
    """A part of a caption's text, in characters from `start` to `end`."""

    model_config = ConfigDict(extra="forbid")

    start: Annotated[int, Field(ge=0)]
    end: Annotated[int, Field(ge=0)]

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        self.start, self.end = sorted((self.start, self.end))
        return self


class LooksRequest(BaseModel):
    """Captions by their ids. `changes` and `styles` are taken to be made, and are not: what is drawn with them is told.

    `words` are those of the first caption that its look is asked of; `at_ms` is the time of the film at which they are
    looked at: captions with moments of their own are told as they are then.
    """

    model_config = ConfigDict(extra="forbid")

    captions: Annotated[list[str], Field(max_length=_MOST)]
    words: Words | None = None
    at_ms: Milliseconds = 0
    changes: Annotated[list[Change], Field(max_length=_MOST)] = []
    styles: Annotated[dict[StyleName, Look], Field(max_length=20)] = {}


class LookView(View):
    """How one caption looks, or the words of it that were asked about."""

    id: str
    look: Look
    """All of it, whoever says it."""
    of_speaker: Look
    """How it would look if neither it nor its words said anything."""
    of_style: Look
    """The same without its speaker's style."""
    levels: dict[str, Level]
    """What says each property."""
    drawn_in: list[str]
    """The families that draw its letters, in their order: its own, and those that stand in for what that has none for."""
    font_missing: bool
    """Whether its own family is not there, and the Latin one stands in for it."""
    frame: Frame | None
    """None for one without words."""
    contrast: Contrast | None
    """Of the letters that were asked about, against what lies behind them; None where that is not known."""
    script: str
    """Its lines in the render script."""
    held: str
    """The same while a hand moves, turns or tilts it, by the numbers of `\\pos`, `\\org`, `\\frz`, `\\frx`, `\\fry`."""


class LooksView(View):
    revision: int
    """Of the track."""
    width: int
    height: int
    """Of the picture that places and frames are on, in pixels."""
    base: float
    """Pixels that sizes are parts of."""
    script_head: str
    can_undo: bool
    can_redo: bool
    """Whether something of captions and their looks can be taken back."""
    captions: list[LookView]


def looks_view(
    services: Services, project: Project, track_id: str, request: LooksRequest, author: Author
) -> LooksView:
    """How captions look, of those that still are in the track.

    :raises Conflict: when the changes cannot be made
    """
    track, revision = services.log.track(track_id)
    if request.changes:
        track = apply(track, ChangeCaptions(tuple(request.changes))).track
    picture = script_size(probe_from(project.film.facts))
    sheet = sheet_of(project, track_id, request.styles)
    backdrop = backdrop_in(services.film_folder(project.film))
    targets = [*track_targets(track_id), STYLES, SPEAKERS, TRACKS]
    can_undo, can_redo = services.log.history(project.id, targets, author.person)
    return LooksView(
        revision=revision,
        width=picture.width,
        height=picture.height,
        base=base_size(picture),
        script_head=script_head(sheet, picture),
        can_undo=can_undo,
        can_redo=can_redo,
        captions=list(_views(project, track_id, track, sheet, request, picture, backdrop)),
    )


def _text(spans: Iterable[Span]) -> str:
    return "".join(span.text for span in spans)


def _views(
    project: Project,
    track_id: str,
    track: Track,
    sheet: StyleSheet,
    request: LooksRequest,
    picture: Script,
    backdrop: Backdrop | None,
) -> Iterable[LookView]:
    named = {**project.styles, **request.styles}
    speakers = styles_of_speakers(project)
    default = project.track(track_id).style
    for number, id_ in enumerate(request.captions):
        if id_ not in track:
            continue
        caption = track.by_id[id_]
        raised = raised_by(track, track.index(id_), sheet, picture)
        words = request.words if number == 0 else None
        spans = sliced(caption.spans, words.start, words.end) if words else ()
        speaker = speakers.get(caption.speaker or "")
        whole = sheet.style_of(caption)
        at_ms = min(max(request.at_ms - caption.in_ms, 0), caption.out_ms - caption.in_ms)
        style = words_look(at_moment(whole, at_ms), spans)
        frame = frame_of(caption, sheet, picture, raised, at_ms)
        yield LookView(
            id=id_,
            look=whole_look(replace(style, moments=whole.moments)),
            of_speaker=whole_look(sheet.base_of(caption)),
            of_style=whole_look(sheet.named_of(caption)),
            drawn_in=families_of(_text(spans or caption.spans), style.language, style.font),
            font_missing=not is_there(style.font),
            levels=levels_of(caption, spans, named, default, speaker),
            frame=frame,
            contrast=contrast_of(caption, style, frame, picture, backdrop) if frame else None,
            script=event_lines(caption, sheet, picture, project.film.rate, raised),
            held=held_lines(caption, sheet, picture, project.film.rate, raised, at_ms),
        )
