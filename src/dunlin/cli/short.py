"""The command that makes a captioned short of a film."""

from pathlib import Path

import click

from dunlin.cli.files import know_fonts_here, note, speaking_of
from dunlin.cli.hearing import Wanted, heard_in
from dunlin.cli.short_looks import document_in_look, look_called, with_words
from dunlin.core.delivery.encoding import Encoding
from dunlin.core.messages import BadInput, message
from dunlin.core.short.looks import FIRST
from dunlin.core.styles import sheet_with
from dunlin.core.versions.window import picture_of, version_called

__all__ = ["short"]


@click.command()
@click.argument("film", type=click.Path(path_type=Path))
@click.option("--look", "look_name", default=FIRST, show_default=True, help="Its name, or a file.")
@click.option(
    "--words", type=click.IntRange(1, 20), help="So many at once, whatever the look says."
)
@click.option("--window", help="An upright part of it, such as 9:16, or 9:16@0.4 off its middle.")
@click.option("--language", default="en", show_default=True, help="BCP 47 tag, or auto.")
@click.option("--crf", type=click.IntRange(0, 51), default=20, show_default=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def short(
    film: Path,
    look_name: str,
    words: int | None,
    window: str | None,
    language: str,
    crf: int,
    output: Path,
) -> None:
    """Recognise a film's speech, and burn it in as short captions, each word told as it is spoken (MP4)."""
    from dunlin.media.burn import burn as burned
    from dunlin.media.burn import script_size

    if output.suffix.lower() != ".mp4":
        raise BadInput(message("cli.film-is-mp4", file=output))
    look = look_called(look_name)
    look = with_words(look, words) if words else look
    version = version_called(window) if window else None
    spoken, told, facts = heard_in(film, Wanted(language=language))
    if not spoken:
        note(message("words.none-there"))
    know_fonts_here()
    picture = picture_of(version, script_size(facts)) if version else script_size(facts)
    document = document_in_look(
        spoken, look, picture, facts.frame_rate, told, ends_ms=facts.duration_ms
    )
    sheet = sheet_with(document.styles, document.style).in_language(told)
    with speaking_of(film):
        burned(film, facts, document.captions, sheet, output, Encoding(crf=crf), version=version)
