"""The command that burns captions into a film."""

from pathlib import Path

import click

from dunlin.cli.files import Bad, read_captions, speaking_of
from dunlin.core.formats import (
    Context,
)
from dunlin.core.styles import STYLES

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
    from dunlin.media.probe import probe as probed

    if output.suffix.lower() != ".mp4":
        raise Bad(f"{output}: the film is written as .mp4")
    if style not in STYLES:
        raise Bad(f"there is no style called {style!r}; there are {', '.join(STYLES)}")
    with speaking_of(media):
        facts = probed(media)
    document = read_captions(captions, Context(facts.frame_rate), None)
    with speaking_of(media):
        burned(media, facts, document.captions, STYLES[style], output, crf=crf, height=height)
