"""The command that burns captions into a film."""

from pathlib import Path

import click

from dunlin.cli.files import note, read_captions, speaking_of
from dunlin.core.formats import (
    Context,
)
from dunlin.core.messages import BadInput, message
from dunlin.core.styles import STYLES, StyleSheet

__all__ = ["burn"]


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("captions", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--style", default="house", show_default=True)
@click.option("--crf", type=click.IntRange(0, 51), default=20, show_default=True)
@click.option("--height", type=click.IntRange(64, 4320))
def burn(
    media: Path, captions: Path, output: Path, style: str, crf: int, height: int | None
) -> None:
    """Burn captions into a film (MP4)."""
    from dunlin.media.burn import burn as burned
    from dunlin.media.probe import early_end, picture_ends_ms
    from dunlin.media.probe import probe as probed

    if output.suffix.lower() != ".mp4":
        raise BadInput(message("cli.film-is-mp4", file=output))
    if style not in STYLES:
        raise BadInput(message("cli.no-such-style", name=style, known=", ".join(STYLES)))
    with speaking_of(media):
        facts = probed(media)
        early = early_end(facts.duration_ms, None, picture_ends_ms(media))
    document = read_captions(captions, Context(facts.frame_rate), None)
    sheet = StyleSheet(STYLES[style]).in_language(document.language or "en")
    with speaking_of(media):
        burned(media, facts, document.captions, sheet, output, crf=crf, height=height)
    if early:
        note(early.message)
