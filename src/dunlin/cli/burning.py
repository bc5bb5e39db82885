"""The commands that draw captions: into a film, and one frame as it will be burned."""

import re
from dataclasses import replace
from pathlib import Path

import click

from dunlin.cli.files import kept_styles_here, know_fonts_here, note, read_captions, speaking_of
from dunlin.core.captions import Track
from dunlin.core.formats import Context, Document
from dunlin.core.messages import BadInput, message
from dunlin.core.styles import STYLES, Script, StyleSheet, sheet_with
from dunlin.core.styles.two_languages import both_in_picture
from dunlin.core.timecode import FrameRate
from dunlin.core.timing.typed import place_ms

__all__ = ["burn", "still"]


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("captions", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--style", help="Of captions that name none; that of the file, where it has one")
@click.option("--crf", type=click.IntRange(0, 51), default=20, show_default=True)
@click.option("--height", type=click.IntRange(64, 4320))
@click.option("--above", type=click.Path(path_type=Path), help="Captions of another language.")
def burn(
    media: Path, captions: Path, output: Path, style: str | None, crf: int, height: int | None,
    above: Path | None,
) -> None:  # fmt: skip
    """Burn captions into a film (MP4)."""
    from dunlin.media.burn import burn as burned
    from dunlin.media.burn import script_size
    from dunlin.media.probe import early_end, picture_ends_ms
    from dunlin.media.probe import probe as probed

    if output.suffix.lower() != ".mp4":
        raise BadInput(message("cli.film-is-mp4", file=output))
    with speaking_of(media):
        facts = probed(media)
    know_fonts_here()
    document = read_captions(captions, Context(facts.frame_rate), None)
    sheet = _sheet_called(style, document)
    drawn = list(document.captions)
    if above:
        other = read_captions(above, Context(facts.frame_rate), None)
        drawn, sheet = both_in_picture(
            Track.of(drawn), Track.of(other.captions), sheet, _sheet_called(None, other),
            script_size(facts), other.language or "en",
        )  # fmt: skip
    with speaking_of(media):
        early = early_end(facts.duration_ms, None, picture_ends_ms(media))
        burned(media, facts, drawn, sheet, output, crf=crf, height=height)
    if early:
        note(early.message)


def _sheet_called(style: str | None, document: Document) -> StyleSheet:
    """The styles that a file brings along, with another in the place of its default if one is named: of the file, or
    kept for all projects."""
    sheet = sheet_with(document.styles, document.style)
    if style is not None:
        known = {**STYLES, **sheet_with(kept_styles_here()).styles, **sheet.styles}
        if style not in known:
            raise BadInput(message("cli.no-such-style", name=style, known=", ".join(known)))
        sheet = replace(sheet, default=known[style])
    return sheet.in_language(document.language or "en")


class _Size(click.ParamType[Script]):
    name = "WxH"

    def convert(self, value: str, param: object, ctx: object) -> Script:
        match = re.fullmatch(r"(\d{2,5})x(\d{2,5})", value)
        if match is None or not all(16 <= int(side) <= 16_384 for side in match.groups()):
            raise BadInput(message("cli.no-size", text=value))
        return Script(int(match[1]), int(match[2]))


@click.command()
@click.argument("files", type=click.Path(path_type=Path), nargs=-1, required=True)
@click.option("--at", required=True, help="A time of the film, such as 57.48 or 00:00:57.480")
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--alone", type=_Size(), help="On nothing, with transparency, in so many pixels")
@click.option("--style", help="Of captions that name none; that of the file, where it has one")
def still(
    files: tuple[Path, ...], at: str, output: Path, alone: Script | None, style: str | None
) -> None:
    """Write one frame of FILM with CAPTIONS as it will be burned (PNG).

    With --alone only the captions are drawn, and there need be no film.
    """
    from dunlin.media.probe import probe as probed
    from dunlin.media.still import draw_alone, draw_still

    if output.suffix.lower() != ".png":
        raise BadInput(message("cli.still-is-png", file=output))
    film, captions = (files[0], files[-1]) if len(files) == 2 else (None, files[0])
    if len(files) > 2 or (film is None and alone is None):
        raise BadInput(message("cli.still-of-what"))
    facts = None
    if film:
        with speaking_of(film):
            facts = probed(film)
    rate = facts.frame_rate if facts else FrameRate(25)
    at_ms = place_ms(at, 0, rate)
    know_fonts_here()
    document = read_captions(captions, Context(rate), None)
    sheet = _sheet_called(style, document)
    with speaking_of(film or captions):
        if alone:
            draw_alone(document.captions, sheet, alone, rate, at_ms, output)
        elif film and facts:
            if not 0 <= at_ms < facts.duration_ms:
                raise BadInput(message("cli.not-in-film", at=at))
            draw_still(film, facts, document.captions, sheet, at_ms, output)
