"""Stored things as the page sees them."""

from collections.abc import Iterable

from fastapi import Response
from pydantic import BaseModel

from dunlin.api.schemas import CaptionView, EditView, FilmView, JobView, ProjectView, TrackView
from dunlin.api.services import Services
from dunlin.core.captions import Times, Track
from dunlin.core.captions.letter_case import shown_spans
from dunlin.core.formats import Document
from dunlin.core.specs import Judge, Setting, Spec, for_language
from dunlin.core.styles import STYLES, event_lines, script_head
from dunlin.jobs.context import facts_of
from dunlin.media.burn import script_size
from dunlin.store.edits import Edited
from dunlin.store.projects import Film, Project
from dunlin.store.waivers import Waiver, with_waivers

__all__ = [
    "caption_views",
    "document_of",
    "edit_view",
    "film_view",
    "json_answer",
    "judge_of",
    "project_view",
    "track_view",
]

# More captions than this in one answer would hold the page up while it takes them in.
_AT_ONCE = 1000
# What stops this long before its film says so is missing.
_CUT_OFF_MS = 1500


def film_view(film: Film) -> FilmView:
    facts = facts_of(film.facts)
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
            "title": project.title,
            "created_ms": project.created_ms,
            "opened_ms": project.opened_ms,
            "spec": services.projects.spec_of(project),
            "film": film_view(project.film),
            "shots": project.film.shots,
            "tracks": project.tracks,
            "jobs": [JobView.model_validate(job) for job in services.jobs.of_project(project.id)],
            "speakers": project.speakers,
            "word_count": services.words.count(project.id, project.words_run),
            "caption_count": services.projects.caption_count(project.id),
        }
    )


def judge_of(
    services: Services, project: Project, track_id: str, spec: Spec | None = None
) -> Judge:
    """The judge of a track: its spec in its language, and what is known of its film.

    :param spec: another spec to judge it by
    """
    language = project.track(track_id).language
    spec = spec or services.projects.spec_of(project, track_id)
    return Judge(
        Setting(
            for_language(spec, language),
            project.film.rate,
            language,
            tuple(project.film.shots or ()),
            script_size(facts_of(project.film.facts)),
        )
    )


def document_of(services: Services, project: Project, track_id: str) -> Document:
    """A track as it goes into a file."""
    track, _ = services.edits.track(track_id)
    info = project.track(track_id)
    return Document(tuple(track), info.language, info.extras)


def caption_views(
    track: Track, places: Iterable[int], judge: Judge, waivers: dict[tuple[str, str], Waiver]
) -> list[CaptionView]:
    """The captions at places in a track's order, with all that is computed from them."""
    setting, style = judge.setting, STYLES["house"]
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
                script=event_lines(caption, style, setting.picture, setting.rate),
            )
        )
    return views


def track_view(services: Services, project: Project, track_id: str) -> TrackView:
    track, revision = services.edits.track(track_id)
    can_undo, can_redo = services.edits.history(track_id)
    judge, waivers = judge_of(services, project, track_id), services.waivers.of(track_id, track)
    return TrackView.model_construct(
        id=track_id,
        revision=revision,
        can_undo=can_undo,
        can_redo=can_redo,
        spec=judge.setting.spec,
        script_head=script_head(STYLES["house"], judge.setting.picture),
        captions=caption_views(track, range(len(track)), judge, waivers),
    )


def edit_view(
    services: Services,
    project: Project,
    track_id: str,
    edited: Edited,
    actor: str,
) -> EditView:
    """The touched captions, and those beside them that may be judged otherwise now."""
    track = edited.track
    judge, waivers = judge_of(services, project, track_id), services.waivers.of(track_id, track)
    touched = {track.index(id_) for id_ in edited.touched | edited.near if id_ in track}
    beside = {place + off for place in touched for off in range(1, judge.reach)}
    places = sorted(touched | {place for place in beside if place < len(track)})
    further = [caption for place in places[_AT_ONCE:] if (caption := track.at(place))]
    can_undo, can_redo = services.edits.history(track_id)
    return EditView.model_construct(
        track_id=track_id,
        revision=edited.revision,
        actor=actor,
        can_undo=can_undo,
        can_redo=can_redo,
        captions=caption_views(track, places[:_AT_ONCE], judge, waivers),
        further=[Times(caption.id, caption.in_ms, caption.out_ms) for caption in further],
        removed=sorted(id_ for id_ in edited.touched if id_ not in track),
        touched=sorted(edited.touched),
    )


def json_answer(view: BaseModel, status: int = 200) -> Response:
    """A view as it is; it was built of checked values, and checking thousands again takes time."""
    return Response(view.model_dump_json(), status, media_type="application/json")
