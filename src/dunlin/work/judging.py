"""Captions of a project judged: by its spec, with its shot changes, and with what was waived."""

from dunlin.core.captions import Track
from dunlin.core.project import shots_in, waivers_of
from dunlin.core.specs import Judge, Setting, Spec, for_language
from dunlin.media.backdrop import backdrop_in
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.media.speech import speech_in
from dunlin.store.films import Film
from dunlin.store.projects import Project
from dunlin.store.waivers import Waivers, waivers_that_stand
from dunlin.work.against import translation_of
from dunlin.work.folder import DataFolder
from dunlin.work.spelling import spelling_of
from dunlin.work.styles import sheet_of

__all__ = ["judge_of", "shots_of", "waivers_in"]


def shots_of(folder: DataFolder, film: Film) -> tuple[int, ...] | None:
    """Milliseconds of a film's shot changes, in order; None until they were looked for."""
    if not film.id:
        return None
    record, changed = folder.log.record(film.project_id, shots_in(film.id))
    return None if changed is None else tuple(sorted(map(int, record)))


def judge_of(
    folder: DataFolder, project: Project, track_id: str, spec: Spec | None = None
) -> Judge:
    """The judge of a track: its spec in its language, and what is known of its film.

    :param spec: another spec to judge it by
    """
    language = project.track(track_id).language
    asked = for_language(spec or project.spec_of(track_id), language)
    speech = None
    if asked.speech_without_caption_ms:
        speech = speech_in(folder.film_folder(project.film))
    return Judge(
        Setting(
            asked,
            project.film.rate,
            language,
            shots_of(folder, project.film) or (),
            script_size(probe_from(project.film.facts)),
            [(stretch.start_ms, stretch.end_ms) for stretch in speech or ()],
            project.film.duration_ms or None,
            sheet_of(project, track_id),
            backdrop_in(folder.film_folder(project.film)) if asked.least_contrast else None,
            translation_of(folder, project, track_id),
            spelling_of(folder, project, track_id) if asked.spelled else None,
        )
    )


def waivers_in(folder: DataFolder, project_id: str, track_id: str, track: Track) -> Waivers:
    """The findings of a track that are waived, as far as their captions are what they were."""
    record, _ = folder.log.record(project_id, waivers_of(track_id))
    return waivers_that_stand(record, track)
