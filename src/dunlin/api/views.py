"""Stored things as the page sees them."""

from dunlin.api.schemas import CaptionView, EditView, FilmView, JobView, ProjectView, TrackView
from dunlin.api.services import Services
from dunlin.core.captions import Track
from dunlin.core.specs import Spec, findings_of, measures
from dunlin.core.styles import STYLES, event_lines, script_head
from dunlin.core.timecode import FrameRate
from dunlin.jobs.context import facts_of
from dunlin.media.burn import script_size
from dunlin.store.edits import Edited
from dunlin.store.projects import Film, Project

__all__ = ["edit_view", "film_view", "project_view", "track_view"]

# A sound that stops this long before its film says so was cut off.
_CUT_OFF_MS = 1500


def film_view(film: Film) -> FilmView:
    facts = facts_of(film.facts)
    ends = film.sound_ends_ms
    early = ends is not None and ends < facts.duration_ms - _CUT_OFF_MS
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
            "ends_early_ms": ends if early else None,
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
            "tracks": project.tracks,
            "jobs": [JobView.model_validate(job) for job in services.jobs.of_project(project.id)],
            "word_count": services.words.count(project.id, project.words_run),
            "caption_count": services.projects.caption_count(project.id),
        }
    )


def _caption_view(track: Track, index: int, spec: Spec, rate: FrameRate) -> CaptionView:
    caption = track.at(index)
    assert caption is not None
    # Built of values that are right by type already: nothing to check again at typing speed.
    return CaptionView.model_construct(
        id=caption.id,
        in_ms=caption.in_ms,
        out_ms=caption.out_ms,
        speaker=caption.speaker,
        spans=caption.spans,
        measures=measures(track, index),
        findings=findings_of(track, index, spec, rate),
        script=event_lines(caption, rate),
    )


def track_view(services: Services, project: Project, track_id: str) -> TrackView:
    track, revision = services.edits.track(track_id)
    can_undo, can_redo = services.edits.history(track_id)
    spec, rate = services.projects.spec_of(project), project.film.rate
    head = script_head(STYLES["house"], script_size(facts_of(project.film.facts)))
    return TrackView.model_construct(
        id=track_id,
        revision=revision,
        can_undo=can_undo,
        can_redo=can_redo,
        script_head=head,
        captions=[_caption_view(track, index, spec, rate) for index in range(len(track))],
    )


def edit_view(
    services: Services,
    project: Project,
    track_id: str,
    edited: Edited,
    actor: str,
) -> EditView:
    """The touched captions, and their neighbours, whose gaps and overlaps may be others now."""
    spec, rate = services.projects.spec_of(project), project.film.rate
    track = edited.track
    places = sorted(track.index(id_) for id_ in edited.touched | edited.near if id_ in track)
    can_undo, can_redo = services.edits.history(track_id)
    return EditView.model_construct(
        track_id=track_id,
        revision=edited.revision,
        actor=actor,
        can_undo=can_undo,
        can_redo=can_redo,
        captions=[_caption_view(track, place, spec, rate) for place in places],
        removed=sorted(id_ for id_ in edited.touched if id_ not in track),
        touched=sorted(edited.touched),
    )
