"""The command that writes captions in another format."""

from dataclasses import replace
from pathlib import Path

import click

from dunlin.cli.files import format_to_write, read_captions, write_captions
from dunlin.core.captions.flatten import flattened
from dunlin.core.formats import (
    Context,
)
from dunlin.core.timecode import parse_rate

__all__ = ["convert"]


@click.command()
@click.argument("source", metavar="IN", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option(
    "--fps", default="25", show_default=True, help="Frame rate of formats that count frames."
)
@click.option("--from", "from_format", help="Format of IN, if neither it nor its ending tells.")
@click.option("--to", "to_format", help="Format to write, if the ending does not tell.")
@click.option("--encoding", help="Text encoding of IN, such as cp1250; found out, if not told.")
@click.option(
    "--language", help="BCP 47 tag of the captions, if the file does not say, or is wrong."
)
@click.option("--flatten", is_flag=True, help="Stack captions that are shown together in one.")
def convert(
    source: Path,
    output: Path,
    fps: str,
    from_format: str | None,
    to_format: str | None,
    encoding: str | None,
    language: str | None,
    flatten: bool,
) -> None:
    """Write a caption file in another format."""
    context = Context(parse_rate(fps), encoding, title=source.stem, language=language)
    target = format_to_write(output, to_format)
    document = read_captions(source, context, from_format)
    if language:
        document = replace(document, language=language)
    if flatten:
        document = replace(document, captions=flattened(document.captions))
    write_captions(output, document, target, context)
