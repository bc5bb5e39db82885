"""The command that makes captions of a transcript."""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import click

from dunlin.cli.files import (
    format_to_write,
    know_fonts_here,
    speaking_of,
    spec_called,
    write_captions,
)
from dunlin.cli.short_looks import UPRIGHT, document_in_look, look_called, with_words
from dunlin.core.captions import Caption
from dunlin.core.formats import Context, Document
from dunlin.core.making.remaking import captions_made
from dunlin.core.making.segmentation import Shape
from dunlin.core.messages import BadInput, message
from dunlin.core.specs import Spec, for_language
from dunlin.core.speech import Word
from dunlin.core.speech.transcript_files import words_of_json
from dunlin.core.timecode import FrameRate, parse_rate

__all__ = ["captions_of_words", "is_transcript", "make"]


@click.command()
@click.argument("transcript", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", help="Limits to keep; streaming.")
@click.option("--look", "look_name", help="In short form, in a look: its name, or a file.")
@click.option("--words", type=click.IntRange(1, 20), help="Words a line, whatever the spec says.")
@click.option("--lines", type=click.IntRange(1, 4), default=1, show_default=True)
@click.option("--fps", default="25", show_default=True, help="Frame rate that edges are set to.")
@click.option("--language", help="BCP 47 tag, if the transcript does not say; else en.")
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def make(
    transcript: Path,
    spec_name: str | None,
    look_name: str | None,
    words: int | None,
    lines: int,
    fps: str,
    language: str | None,
    output: Path,
) -> None:
    """Make captions of a transcript (JSON)."""
    rate, target = parse_rate(fps), format_to_write(output)
    if look_name and spec_name:
        raise BadInput(message("cli.look-or-spec"))
    spec, look = (
        spec_called(spec_name or "streaming"),
        look_called(look_name) if look_name else None,
    )
    with speaking_of(transcript):
        spoken, tag = words_of_json(transcript.read_bytes())
    if not spoken:
        raise BadInput(message("words.none-there"))
    language = language or tag or "en"
    context = Context(rate, title=transcript.stem.removesuffix(".words"))
    if look:
        look = with_words(look, words) if words else look
        know_fonts_here()
        context = replace(context, picture=(UPRIGHT.width, UPRIGHT.height))
        document = document_in_look(spoken, look, UPRIGHT, rate, language)
        write_captions(output, document, target, context)
        return
    shape = Shape(words, lines) if words else None
    captions = captions_of_words(spoken, for_language(spec, language), rate, language, shape=shape)
    write_captions(output, Document(captions, language), target, context)


def captions_of_words(
    words: Sequence[Word],
    spec: Spec,
    rate: FrameRate,
    language: str,
    *,
    shape: Shape | None = None,
    ends_ms: int | None = None,
) -> tuple[Caption, ...]:
    """Captions as the page makes them, numbered from c1.

    :param ends_ms: where the film ends, if there is one
    """
    made = captions_made(words, (), spec, rate, language, shape=shape, ends_ms=ends_ms)
    return tuple(
        replace(caption, id=f"c{number}", made=None)
        for number, caption in enumerate(made.captions, 1)
    )


def is_transcript(output: Path) -> bool:
    """Whether a file to write is to hold words, and not captions."""
    return output.name.endswith(".words.json")
