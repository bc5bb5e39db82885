"""Commands that make what leaves the house: packing lists for many films, films with tracks inside, timelines."""

import tempfile
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING

import click
from pydantic import ValidationError

from dunlin.cli.files import (
    Bad,
    know_fonts_here,
    note,
    read_captions,
    speaking_of,
    spec_called,
    write_whole,
)
from dunlin.core.captions import InsertCaptions, Track
from dunlin.core.formats import FORMATS, Context, written
from dunlin.core.formats.otio import timeline_of_document
from dunlin.core.messages import BadInput, Told, message
from dunlin.core.project import SetEntries, captions_of
from dunlin.core.project.targets import PROJECT, SPECS
from dunlin.core.specs import Judge, Spec, for_language, mend_all
from dunlin.core.timecode import first_frame_from, parse_rate
from dunlin.core.timeline.model import FilmClip
from dunlin.core.timeline.writing import written_timeline

if TYPE_CHECKING:
    from dunlin.work.packing.lists import HouseList

__all__ = ["deliver", "mux", "timeline"]


@click.command()
@click.argument("films", type=click.Path(path_type=Path), nargs=-1, required=True)
@click.option(
    "--list",
    "list_file",
    type=click.Path(path_type=Path),
    required=True,
    help="A packing list, as the page saves it.",
)
@click.option(
    "--out",
    type=click.Path(path_type=Path, file_okay=False),
    default=Path(),
    help="A folder; that of each film below it.",
)
@click.option("--spec", "spec_name", default="streaming", show_default=True)
@click.option(
    "--language", default="auto", show_default=True, help="BCP 47 tag of what is spoken, or auto."
)
def deliver(
    films: tuple[Path, ...], list_file: Path, out: Path, spec_name: str, language: str
) -> int:
    """Recognise, make, check, mend and write all that is on a packing list, for each FILM; a line tells how each went.

    Words that stand beside a film, as FILM.words.json, are not recognised again. Exit 1 when a film has errors left that
    only a person can mend, 2 when one could not be delivered.
    """
    from dunlin.work.packing.lists import HOUSE_LIST

    spec = spec_called(spec_name)
    try:
        packing = HOUSE_LIST.validate_json(list_file.read_bytes())
    except OSError as error:
        raise Bad(f"{list_file}: {error.strerror}") from None
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(map(str, first["loc"])) or "list"
        raise BadInput(
            message("cli.no-list", file=list_file, place=place, reason=first["msg"])
        ) from None
    know_fonts_here()
    worst = 0
    for film in films:
        try:
            with speaking_of(film):
                done = _delivered(film, packing, spec, language, out / film.stem)
        except (Told, click.ClickException) as error:
            why = error.format_message() if isinstance(error, click.ClickException) else str(error)
            click.echo(message("cli.not-delivered", film=film, reason=why), err=True)
            worst = 2
            continue
        told = message(
            "cli.delivered",
            film=film,
            count=done.files,
            errors=done.errors,
            mended=done.mended,
            folder=out / film.stem,
        )
        click.echo(told)
        for reason in done.failed:
            note(f"{film}: {reason}")
        worst = max(worst, 2 if done.failed else int(done.errors > 0))
    return worst


@dataclass(frozen=True)
class _Done:
    """How a film was delivered."""

    files: int
    mended: int
    errors: int
    failed: tuple[str, ...]
    """Why things of the list could not be made."""


def _delivered(film: Path, packing: "HouseList", spec: Spec, language: str, out: Path) -> _Done:
    """Delivers one film, in a data folder of its own that is gone afterwards."""
    from dunlin.cli.hearing import Wanted, heard_in
    from dunlin.cli.making import captions_of_words
    from dunlin.core.speech.transcript_files import words_of_json
    from dunlin.jobs.context import JobContext
    from dunlin.jobs.packing import make_packing_list
    from dunlin.media.probe import probe
    from dunlin.settings import Settings
    from dunlin.store.films import Film
    from dunlin.store.log import Author, Step
    from dunlin.work.folder import open_folder
    from dunlin.work.packing.lists import delivery_of, keep_house_list, take_house_list
    from dunlin.work.transcript import take_words

    facts = probe(film)
    known = film.with_name(f"{film.stem}.words.json")
    if known.is_file():
        words, said = words_of_json(known.read_bytes())
        tag = said or ("en" if language == "auto" else language)
    else:
        heard, tag, _ = heard_in(film, Wanted(language=language))
        words = tuple(heard)
    captions = captions_of_words(
        words, for_language(spec, tag), facts.frame_rate, tag, ends_ms=facts.duration_ms
    )
    mended = mend_all(Track.of(captions), Judge.of(for_language(spec, tag), facts.frame_rate, tag))
    author = Author("dunlin")
    out.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix=".dunlin-", dir=out) as data:
        folder = open_folder(Settings(data=Path(data)))
        try:
            kept = Film(film.name, film.stat().st_size, asdict(facts))
            project = folder.projects.add(film.stem, kept, language=tag)
            place = folder.film_file(project.film)
            place.parent.mkdir(parents=True, exist_ok=True)
            place.symlink_to(film.absolute())
            steps = [
                Step(SPECS, SetEntries({spec.id: spec.model_dump(mode="json")})),
                Step(PROJECT, SetEntries({"spec": spec.id})),
                Step(captions_of(project.tracks[0].id), InsertCaptions(tuple(mended.track))),
            ]
            folder.log.edit(project.id, steps, author)
            take_words(folder, folder.projects.get(project.id), words, author)
            keep_house_list(folder, "list", packing, author)
            delivery = take_house_list(folder, folder.projects.get(project.id), "list", author)
            items = delivery_of(folder, project.id, delivery).items
            wanted = [id_ for id_, item in items.items() if not item.left_out]
            asked = {"delivery": delivery, "items": wanted, "anew": False, "author": ""}
            job = folder.jobs.add(project.id, "pack", asked, project.film.id)
            result = make_packing_list(JobContext(job, folder))
            made = folder.made.of(project.id, delivery)
            for one in made.values():
                (folder.settings.results / one.file).replace(out / one.name)
        finally:
            folder.engine.dispose()
            folder.memory.close()
    errors = sum(left.finding.weight == "error" for left in mended.left)
    failed = tuple(
        str(message(told["code"], **told["values"])) for told in result["failed"].values()
    )
    return _Done(len(made), len(mended.mends), errors, failed)


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("captions", nargs=-1, required=True, metavar="CAPTIONS[:TAG[:default|forced]]...")
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def mux(media: Path, captions: Sequence[str], output: Path) -> None:
    """Put caption tracks into a film without drawing them: MP4, Matroska or WebM, as the ending says."""
    from dunlin.media.fonts import fonts_named
    from dunlin.media.muxing import CONTAINERS, CodedTrack, caption_format, write_with_tracks
    from dunlin.media.probe import probe

    container = output.suffix.lower().removeprefix(".")
    if container not in CONTAINERS:
        endings = " ".join(f".{name}" for name in CONTAINERS)
        raise BadInput(message("cli.film-is", file=output, endings=endings))
    with speaking_of(media):
        facts = probe(media)
    know_fonts_here()
    format_, tracks = FORMATS[caption_format(container)], []
    for asked in captions:
        path, tag, shown = _asked_track(asked)
        document = read_captions(path, Context(facts.frame_rate), None)
        language = tag or document.language or "und"
        data = written(replace(document, language=language), format_, Context(facts.frame_rate))
        fonts = tuple(fonts_named(data.decode())) if format_.NAME == "ass" else ()
        tracks.append(
            CodedTrack(
                data, format_.ENDINGS[0], language, "", shown == "default", shown == "forced", fonts
            )
        )
    with speaking_of(media):
        write_with_tracks(media, facts, tracks, output)


def _asked_track(asked: str) -> tuple[Path, str | None, str | None]:
    """A file, the language behind it and whether it is shown by default, or forced."""
    path, _, told = asked.partition(":")
    tag, _, shown = told.partition(":")
    if Path(asked).is_file():
        return Path(asked), None, None
    if shown not in ("", "default", "forced"):
        raise BadInput(message("cli.no-such-flag", text=asked, flag=shown))
    return Path(path), tag or None, shown or None


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("captions", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--fps", help="Frames a second of the timeline; those of the film, if not told.")
@click.option(
    "--start",
    default="01:00:00:00",
    show_default=True,
    metavar="TIMECODE",
    help="Of the film's first frame.",
)
def timeline(media: Path, captions: Path, output: Path, fps: str | None, start: str) -> None:
    """Put a film and its captions on a timeline: OpenTimelineIO (.otio) or CMX 3600 (.edl)."""
    from dunlin.media.probe import probe

    form = output.suffix.lower().removeprefix(".")
    if form not in ("otio", "edl"):
        raise BadInput(message("cli.timeline-is", file=output))
    with speaking_of(media):
        facts = probe(media)
    rate = parse_rate(fps) if fps else facts.frame_rate
    document = read_captions(captions, Context(facts.frame_rate), None)
    film = FilmClip(
        media.name, first_frame_from(facts.duration_ms, rate), facts.video_codec is not None,
        facts.audio_streams > 0,
    )  # fmt: skip
    context = Context(rate, title=media.stem, starts_at=start)
    told = replace(timeline_of_document(document, context), film=film)
    write_whole(output, written_timeline(told, "edl" if form == "edl" else "otio"))
