"""Captions as a film or a picture is drawn with: of one track or two, in a version or the film's own picture."""

from collections.abc import Sequence
from dataclasses import dataclass

from dunlin.core.captions import Caption
from dunlin.core.styles import Script, StyleSheet
from dunlin.core.styles.two_languages import both_in_picture
from dunlin.core.versions.model import Version
from dunlin.core.versions.window import picture_of
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.styles import sheet_of
from dunlin.work.versions import in_version

__all__ = ["Drawn", "drawn_of"]


@dataclass(frozen=True)
class Drawn:
    """Captions, what they look like, and the picture they are laid out on."""

    captions: Sequence[Caption]
    sheet: StyleSheet
    version: Version | None
    picture: Script
    languages: tuple[str, ...]


def drawn_of(
    folder: DataFolder,
    project: Project,
    track_id: str,
    *,
    version: str | None = None,
    above: str | None = None,
) -> Drawn:
    """A track as it is drawn.

    :param version: id of a version of it; None is the film's own picture
    :param above: id of a track whose captions are drawn above these
    :raises UnknownVersion: when the track has no such version
    """
    track, _ = folder.log.track(track_id)
    film = script_size(probe_from(project.film.facts))
    captions: Sequence[Caption] = list(track)
    sheet, picture, shown = sheet_of(project, track_id), film, None
    if version is not None:
        there = in_version(folder, project, track_id, version)
        track, captions, sheet, shown = (
            there.captions,
            list(there.captions),
            there.sheet,
            there.version,
        )
        picture = picture_of(shown, film)
    languages = [project.track(track_id).language]
    if above is not None:
        other = project.track(above)
        upper, _ = folder.log.track(above)
        captions, sheet = both_in_picture(
            track, upper, sheet, sheet_of(project, above), picture, other.language
        )
        languages.append(other.language)
    return Drawn(captions, sheet, shown, picture, tuple(languages))
