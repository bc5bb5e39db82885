"""Commands that make what leaves the house: packing lists for many films, films with tracks inside, timelines."""

import tempfile
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

import click
from pydantic import ValidationError

from dunlin.cli.files import (
    Bad,
    fonts_here,
    know_fonts_here,
    note,
    read_captions,
    speaking_of,
    spec_called,
    write_whole,
)
from dunlin.core.formats import FORMATS, Context, written
from dunlin.core.formats.otio import timeline_of_document
from dunlin.core.messages import BadInput, message
from dunlin.core.project import SetEntries
from dunlin.core.project.targets import FONTS
from dunlin.core.timecode import first_frame_from, parse_rate
from dunlin.core.timeline.model import FilmClip
from dunlin.core.timeline.writing import written_timeline
from dunlin.settings import Settings

if TYPE_CHECKING:
    from dunlin.jobs.many_films import FilmDelivered, FilmNotDelivered
    from dunlin.work.folder import DataFolder

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

    Films go through a queue of their own, each told of when it is done. Words that stand beside a film, as FILM.words.json,
    are not recognised again. Exit 1 when a film has errors left that
    only a person can mend, 2 when one could not be delivered.
    """
    from dunlin.jobs.many_films import Plan, deliver_films
    from dunlin.jobs.worker import worker_beside
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
    worst = 0
    with _data_folder(out) as folder, worker_beside(folder.settings):
        for done in deliver_films(folder, films, Plan(packing, spec, language)):
            worst = max(worst, _tell(done, out))
    return worst


@contextmanager
def _data_folder(out: Path) -> Iterator["DataFolder"]:
    """A data folder for a while, with the fonts and models that this user has added."""
    from dunlin.store.house import HOUSE
    from dunlin.store.log import Author, Step
    from dunlin.work.folder import open_folder

    mine = Settings()
    out.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix=".dunlin-", dir=out) as data:
        # Workers elsewhere would look for its jobs in a folder of theirs.
        settings = mine.model_copy(update={"data": Path(data).absolute(), "queue_url": None})
        for shared in ("fonts", "models"):
            (settings.data / shared).symlink_to((mine.data / shared).absolute())
        folder = open_folder(settings)
        try:
            if fonts := fonts_here():
                folder.log.edit(HOUSE, [Step(FONTS, SetEntries(dict(fonts)))], Author("dunlin"))
            yield folder
        finally:
            folder.engine.dispose()
            folder.memory.close()


def _tell(done: "FilmDelivered | FilmNotDelivered", out: Path) -> int:
    """Puts what was made of a film in its place, and says how it went; its exit status."""
    from dunlin.jobs.many_films import FilmNotDelivered

    if isinstance(done, FilmNotDelivered):
        told = message("cli.not-delivered", film=done.film, reason=str(done.reason))
        click.echo(told, err=True)
        return 2
    folder = out / done.film.stem
    folder.mkdir(parents=True, exist_ok=True)
    for name, file in done.files.items():
        file.replace(folder / name)
    told = message(
        "cli.delivered", film=done.film, count=len(done.files), errors=done.errors, mended=done.mended, folder=folder
    )  # fmt: skip
    click.echo(told)
    for reason in done.failed:
        note(f"{done.film}: {reason}")
    return 2 if done.failed else int(done.errors > 0)


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
