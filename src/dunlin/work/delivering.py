"""Caption files as they are sent: as the spec of their track asks for them."""

from dataclasses import dataclass, replace
from datetime import date

from dunlin.core.formats import BINARY, Context, Document, Format, written
from dunlin.core.formats.stl import asked_head, with_asked_head
from dunlin.core.specs import file_as_asked, file_name, for_language
from dunlin.media.burn import script_size
from dunlin.media.probe import probe_from
from dunlin.store.projects import Project
from dunlin.work.folder import DataFolder
from dunlin.work.styles import styles_of_speakers

__all__ = ["CaptionFile", "caption_file", "document_of"]


def _picture_of(project: Project) -> tuple[int, int]:
    """The film's, or until it is there that of a film as most are."""
    if not project.film.id:
        return Context().picture
    picture = script_size(probe_from(project.film.facts))
    return picture.width, picture.height


def document_of(folder: DataFolder, project: Project, track_id: str) -> Document:
    """A track as it goes into a file."""
    track, _ = folder.log.track(track_id)
    info = project.track(track_id)
    speakers = styles_of_speakers(project)
    return Document(tuple(track), info.language, info.extras, project.styles, info.style, speakers)


@dataclass(frozen=True)
class CaptionFile:
    name: str
    data: bytes


def caption_file(
    project: Project,
    track_id: str,
    document: Document,
    format_: Format,
    *,
    as_asked: bool = True,
) -> CaptionFile:
    """The file of a track that is sent today.

    :param document: the track as it goes into the file
    :param as_asked: whether text is in the encoding and has the line ends that the spec asks for
    :raises BadInput: when the encoding that the spec asks for has no place for some of its characters
    :raises FormatError: when the format has none for some of its times
    """
    spec = for_language(project.spec_of(track_id), project.track(track_id).language)
    head = asked_head(document)
    if spec.programme_start and "programme_start" not in head:
        head = head | {"programme_start": spec.programme_start}
        document = replace(document, extras=with_asked_head(document.extras, head))
    data = written(
        document,
        format_,
        Context(
            project.film.rate,
            title=project.title,
            picture=_picture_of(project),
            starts_at=spec.programme_start or Context().starts_at,
        ),
    )
    name = file_name(
        spec,
        title=project.title,
        language=document.language or "",
        made=date.today().isoformat(),
        ending=format_.ENDINGS[0],
    )
    keeps = format_.NAME in BINARY or not as_asked
    return CaptionFile(name, data if keeps else file_as_asked(data, spec))
