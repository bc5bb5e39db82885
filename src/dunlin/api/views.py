"""Stored things as the page sees them."""

from collections.abc import Iterable

from fastapi import Response
from pydantic import BaseModel

from dunlin.api.schemas import (
    CaptionView,
    ChangesView,
    EditView,
    FilmView,
    JobView,
    ProjectView,
    TrackView,
)
from dunlin.api.services import Services
from dunlin.core.captions import Times, Track
from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.formats import Document
from dunlin.core.project import Target, captions_of, waivers_of
from dunlin.core.specs import Judge
from dunlin.core.styles import event_lines, script_head
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.log import Author, Done
from dunlin.store.projects import Film, Project
from dunlin.store.waivers import Waivers, with_waivers
from dunlin.work.judging import judge_of, shots_of, waivers_in
from dunlin.work.specs import is_newer_in_house

__all__ = [
    "caption_views",
    "changes_view",
    "document_of",
    "edit_view",
    "film_view",
    "json_answer",
    "project_view",
    "track_targets",
    "track_view",
]

# More captions than this in one answer would hold the page up while it takes them in.
_AT_ONCE = 1000
# What stops this long before its film says so is missing.
_CUT_OFF_MS = 1500


def film_view(film: Film) -> FilmView:
    facts = probe_from(film.facts)
    ends, nearly = film.sound_ends_ms, facts.duration_ms - _CUT_OFF_MS
    early = ends is not None and ends < nearly
    goes_on = (film.picture_ends_ms or 0) >= nearly
    return FilmView.model_validate(
        {
            "label": film.label,
            "size_bytes": film.size_bytes,
            "duration_ms": max(facts.duration_ms, ends or 0),
            "frame_rate": facts.frame_rate,
            "frame_rate_varies": facts.frame_rate_varies,
            "width": script_size(facts).width,
            "height": script_size(facts).height,
            "has_picture": facts.video_codec is not None,
            "has_sound": film.has_sound,
            "playable": facts.browser_plays or film.has_copy,
            "ends_early_ms": ends if early and not goes_on else None,
            "sound_ends_early_ms": ends if early and goes_on else None,
        }
    )


def project_view(services: Services, project: Project) -> ProjectView:
    return ProjectView.model_validate(
        {
            "id": project.id,
            "revision": project.revision,
            "title": project.title,
            "created_ms": project.created_ms,
            "opened_ms": project.opened_ms,
            "spec": project.spec_of(),
            "spec_is_older": is_newer_in_house(services, project),
            "film": film_view(project.film),
            "shots": shots_of(services, project.id),
            "tracks": project.tracks,
            "jobs": [JobView.model_validate(job) for job in services.jobs.of_project(project.id)],
            "speakers": project.speakers,
            "word_count": services.words.count(project.id, project.words_run),
            "caption_count": services.projects.caption_count(project),
        }
    )


def document_of(services: Services, project: Project, track_id: str) -> Document:
    """A track as it goes into a file."""
    track, _ = services.log.track(track_id)
    info = project.track(track_id)
    return Document(tuple(track), info.language, info.extras)


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
                shown=shown_spans(caption) if caption.case else None,
                measures=place.measures,
                findings=with_waivers(judge.findings_at(place), waivers),
                script=event_lines(caption, setting.sheet, setting.picture, setting.rate),
            )
        )
    return views


def track_targets(track_id: str) -> list[str]:
    """What a view of a track shows, and undo there is about."""
    return [captions_of(track_id), waivers_of(track_id)]


def track_view(services: Services, project: Project, track_id: str, author: Author) -> TrackView:
    """A track with all that is computed of it."""
    track, revision = services.log.track(track_id)
    targets = track_targets(track_id)
    can_undo, can_redo = services.log.history(project.id, targets, author.person)
    judge, waivers = (
        judge_of(services, project, track_id),
        waivers_in(services, project.id, track_id, track),
    )
    return TrackView.model_construct(
        id=track_id,
        revision=revision,
        can_undo=can_undo,
        can_redo=can_redo,
        spec=judge.setting.spec,
        script_head=script_head(judge.setting.sheet, judge.setting.picture),
        captions=caption_views(track, range(len(track)), judge, waivers),
    )


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
    # In this order: what is touched after the track was read is told of another time.
    track, revision = services.log.track(track_id)
    since, _ = services.log.since(project.id, address, base)
    waived = done.changed.get(waivers_of(track_id))
    judged = {key.split(" ", 1)[1] for key in waived.touched} if waived else set()
    judge = judge_of(services, project, track_id)
    touched = {track.index(id_) for id_ in since.touched | since.near | judged if id_ in track}
    beside = {place + off for place in touched for off in range(1, judge.reach)}
    places = sorted(touched | {place for place in beside if place < len(track)})
    further = [caption for place in places[_AT_ONCE:] if (caption := track.at(place))]
    person = done.author.person
    can_undo, can_redo = services.log.history(project.id, track_targets(track_id), person)
    return EditView.model_construct(
        track_id=track_id,
        base=base,
        revision=revision,
        actor=person,
        targets=sorted(done.changed),
        can_undo=can_undo,
        can_redo=can_redo,
        captions=caption_views(
            track, places[:_AT_ONCE], judge, waivers_in(services, project.id, track_id, track)
        ),
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


def json_answer(view: BaseModel, status: int = 200) -> Response:
    """A view as it is; it was built of checked values, and checking thousands again takes time."""
    return Response(view.model_dump_json(), status, media_type="application/json")
