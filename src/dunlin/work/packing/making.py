"""Things of packing lists, made: each is read as it stands at one moment, and then written."""

import tempfile
from collections.abc import Callable, Mapping
from dataclasses import replace
from pathlib import Path
from typing import TypeAlias

from dunlin.core.captions.flatten import flattened
from dunlin.core.delivery.encoding import needs_passage, on_frames
from dunlin.core.delivery.model import (
    BurnedFilm,
    CaptionFile,
    CaptionsAlone,
    FilmWithTracks,
    InsideTrack,
    Item,
    Playlist,
    Report,
    Thing,
    Timeline,
    Transcript,
    WordsAbout,
    tracks_in,
)
from dunlin.core.delivery.playlist import playlist_files
from dunlin.core.formats import FORMATS, Format
from dunlin.core.language.digest.writing import as_chapters
from dunlin.core.language.digest.writing import as_json as as_about_json
from dunlin.core.language.digest.writing import as_text as as_about_text
from dunlin.core.messages import BadInput, Message, Told, message
from dunlin.core.project.targets import TRACKS, versions_of
from dunlin.core.speech.transcript_files import as_docx, as_html, as_json, as_text
from dunlin.core.timeline.writing import written_timeline
from dunlin.media.alone import write_alone
from dunlin.media.archive import write_archive, write_folder_archive
from dunlin.media.burn import burn, scaled
from dunlin.media.drafts import whole_file
from dunlin.media.fonts import fonts_named
from dunlin.media.muxing import CodedTrack, caption_format, write_with_tracks
from dunlin.media.probe import probe_from
from dunlin.store.projects import Project
from dunlin.work.about import about_project, pieces_of, said_in_project
from dunlin.work.delivering import caption_file, document_of
from dunlin.work.films import needs_film
from dunlin.work.folder import DataFolder
from dunlin.work.packing.drawn import drawn_of
from dunlin.work.packing.sending import needs_destination
from dunlin.work.reporting import report_of
from dunlin.work.timelines import timeline_of

__all__ = ["Writer", "needs_parts", "prepared", "what_is_missing"]

Progress: TypeAlias = Callable[[float], None]
Cancelled: TypeAlias = Callable[[], bool]
Writer: TypeAlias = Callable[[Path, Progress, Cancelled], None]
"""Writes a thing to a path; it stands there only when it is whole."""


def what_is_missing(folder: DataFolder, project: Project, item: Item) -> Message | None:
    """Why a thing cannot be made now, would be empty, or cannot be sent; None when it can."""
    try:
        needs_parts(folder, project, item.thing)
        needs_destination(folder, project, item)
        for track in tracks_in(item.thing):
            if not len(folder.log.track(track)[0]):
                language = project.track(track).language
                raise BadInput(message("packing.no-captions", language=language))
    except Told as told:
        return told.message
    return None


def needs_parts(folder: DataFolder, project: Project, thing: Thing) -> None:
    """:raises Told: when a track, a version, the film or the words that a thing is made of are not there, or its passage is
    not in the film"""
    for track in tracks_in(thing):
        if track not in project.records[TRACKS]:
            raise BadInput(message("packing.no-track", track=track))
    match thing:
        case CaptionFile():
            if thing.format not in FORMATS:
                raise BadInput(message("formats.unknown", name=thing.format))
        case BurnedFilm() | CaptionsAlone():
            needs_film(project)
            if thing.version is not None:
                versions, _ = folder.log.record(project.id, versions_of(thing.track))
                if thing.version not in versions:
                    raise BadInput(message("versions.gone"))
            passage = thing.encoding.passage if isinstance(thing, BurnedFilm) else thing.passage
            needs_passage(passage, project.film.duration_ms)
        case FilmWithTracks():
            needs_film(project)
        case Transcript():
            if not folder.words.of(project.id, project.words_run, 0, 1):
                raise BadInput(message("words.none-there"))
        case WordsAbout():
            if not pieces_of(folder, project.id)[0] and not said_in_project(folder, project):
                raise BadInput(message("words.none-there"))
        case Timeline():
            timeline_of(folder, project, thing)


def prepared(
    folder: DataFolder,
    project: Project,
    thing: Thing,
    hashes: Mapping[str, str] | None = None,
    author: str = "",
) -> Writer:
    """What writes a thing as it stands now, whatever is changed meanwhile.

    :param hashes: SHA-256 of the files that are delivered with it, by their names, for a report
    :param author: who made it, for a report
    :raises Told: when it cannot be made
    """
    needs_parts(folder, project, thing)
    match thing:
        case BurnedFilm():
            return _burned(folder, project, thing)
        case CaptionsAlone():
            return _alone(folder, project, thing)
        case FilmWithTracks():
            return _with_tracks(folder, project, thing)
        case Playlist():
            return _playlist(folder, project, thing)
        case Report():
            return _bytes(report_of(folder, project, thing.track, hashes or {}, author).encode())
        case Timeline():
            return _bytes(written_timeline(timeline_of(folder, project, thing), thing.form))
        case Transcript():
            return _bytes(_transcript(folder, project, thing))
        case WordsAbout():
            return _bytes(_words_about(folder, project, thing))
        case CaptionFile():
            return _bytes(_captions(folder, project, thing))


def _bytes(data: bytes) -> Writer:
    def write(output: Path, progress: Progress, cancelled: Cancelled) -> None:
        with whole_file(output) as draft:
            draft.write_bytes(data)

    return write


def _captions(folder: DataFolder, project: Project, thing: CaptionFile) -> bytes:
    document = document_of(folder, project, thing.track)
    if thing.flatten:
        document = replace(document, captions=flattened(document.captions))
    return caption_file(project, thing.track, document, FORMATS[thing.format]).data


def _words_about(folder: DataFolder, project: Project, thing: WordsAbout) -> bytes:
    about = about_project(folder, project)
    match thing.form:
        case "text":
            return as_about_text(about)
        case "chapters":
            ends_ms = max(project.film.duration_ms, *(one.at_ms + 1 for one in about.chapters), 1)
            return as_chapters(about, ends_ms)
        case "json":
            return as_about_json(about)


def _transcript(folder: DataFolder, project: Project, thing: Transcript) -> bytes:
    words = folder.words.of(project.id, project.words_run)
    language = project.tracks[0].language
    match thing.form:
        case "text":
            return as_text(words).encode()
        case "docx":
            return as_docx(words, project.title)
        case "html":
            return as_html(words, project.title, language)
        case "words":
            return as_json(words, language)


def _burned(folder: DataFolder, project: Project, thing: BurnedFilm) -> Writer:
    drawn = drawn_of(folder, project, thing.track, version=thing.version, above=thing.above)
    film, facts = folder.film_file(project.film), probe_from(project.film.facts)

    def write(output: Path, progress: Progress, cancelled: Cancelled) -> None:
        burn(
            film, facts, drawn.captions, drawn.sheet, output, thing.encoding,
            version=drawn.version, progress=progress, cancelled=cancelled,
        )  # fmt: skip

    return write


def _alone(folder: DataFolder, project: Project, thing: CaptionsAlone) -> Writer:
    drawn = drawn_of(folder, project, thing.track, version=thing.version, above=thing.above)
    rate, picture = thing.rate or project.film.rate, drawn.picture
    if thing.height:
        picture = scaled(picture, thing.height)
    passage = on_frames(thing.passage, project.film.duration_ms, rate)
    asked = (drawn.captions, drawn.sheet, picture, rate, passage, thing.form)

    def write(output: Path, progress: Progress, cancelled: Cancelled) -> None:
        if thing.form != "png":
            write_alone(*asked, output, progress, cancelled)
            return
        with tempfile.TemporaryDirectory(
            prefix=f".{output.name}-", suffix=".part", dir=output.parent
        ) as name:
            pictures = Path(name) / "titles"
            write_alone(*asked, pictures, progress, cancelled)
            write_folder_archive(pictures, output)

    return write


def _with_tracks(folder: DataFolder, project: Project, thing: FilmWithTracks) -> Writer:
    format_ = FORMATS[caption_format(thing.container)]
    coded = [_coded(folder, project, inside, format_) for inside in thing.tracks]
    film, facts = folder.film_file(project.film), probe_from(project.film.facts)

    def write(output: Path, progress: Progress, cancelled: Cancelled) -> None:
        write_with_tracks(film, facts, coded, output, progress, cancelled)

    return write


def _coded(
    folder: DataFolder, project: Project, inside: InsideTrack, format_: Format
) -> CodedTrack:
    info = project.track(inside.track)
    document = document_of(folder, project, inside.track)
    # Inside a film they are as the container asks, whatever the client asks of files beside it.
    data = caption_file(project, inside.track, document, format_, as_asked=False).data
    return CodedTrack(
        data,
        format_.ENDINGS[0],
        info.language,
        info.name,
        inside.is_default,
        inside.is_forced,
        tuple(fonts_named(data.decode())) if format_.NAME == "ass" else (),
    )


def _playlist(folder: DataFolder, project: Project, thing: Playlist) -> Writer:
    documents = [
        (project.track(track).name, document_of(folder, project, track)) for track in thing.tracks
    ]
    length = max(
        project.film.duration_ms,
        *(caption.out_ms for _, document in documents for caption in document.captions),
    )
    files = playlist_files(documents, length, thing.segment_seconds * 1000, project.film.rate)

    def write(output: Path, progress: Progress, cancelled: Cancelled) -> None:
        write_archive(files, output)

    return write
