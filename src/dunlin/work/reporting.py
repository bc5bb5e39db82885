"""The report for the client about a track."""

from collections.abc import Mapping
from datetime import date

from dunlin.core.specs.report import FilmFacts, figures_of, report_page
from dunlin.media.fingerprint import film_hash
from dunlin.store.projects import Project
from dunlin.store.waivers import with_waivers
from dunlin.work.folder import DataFolder
from dunlin.work.judging import judge_of, waivers_in

__all__ = ["report_of"]


def report_of(
    folder: DataFolder, project: Project, track_id: str, hashes: Mapping[str, str], author: str = ""
) -> str:
    """The report as a page of HTML.

    :param hashes: SHA-256 of the files that go with it, by their names; the film's comes besides
    :param author: who made it
    """
    track, _ = folder.log.track(track_id)
    judge = judge_of(folder, project, track_id)
    found = with_waivers(judge.findings(track), waivers_in(folder, project.id, track_id, track))
    film = project.film
    film_hashes = {film.label: film_hash(folder.film_file(film))} if film.id else {}
    return report_page(
        title=project.title,
        language=project.track(track_id).language,
        made=date.today().isoformat(),
        author=author,
        film=FilmFacts(film.label, film.duration_ms, film.rate),
        spec=judge.setting.spec,
        figures=figures_of(track, judge),
        track=track,
        findings=found,
        hashes={**hashes, **film_hashes},
        is_translation=judge.setting.translation is not None,
    )
