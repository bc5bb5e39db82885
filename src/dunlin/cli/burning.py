"""The commands that draw captions: into a film, and one frame as it will be burned."""

import re
from dataclasses import replace
from pathlib import Path
from typing import get_args

import click

from dunlin.cli.files import kept_styles_here, know_fonts_here, note, read_captions, speaking_of
from dunlin.core.captions import Track
from dunlin.core.delivery.alone import Transparent
from dunlin.core.delivery.encoding import (
    CODECS,
    ENDINGS,
    Codec,
    Encoding,
    Passage,
    SoundWay,
    on_frames,
)
from dunlin.core.formats import Context, Document
from dunlin.core.messages import BadInput, message
from dunlin.core.styles import STYLES, Script, StyleSheet, sheet_with
from dunlin.core.styles.two_languages import both_in_picture
from dunlin.core.timecode import FrameRate, parse_rate
from dunlin.core.timing.typed import place_ms

__all__ = ["burn", "still"]


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("captions", type=click.Path(path_type=Path), nargs=-1, required=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--style", help="Of captions that name none; that of the file, where it has one")
@click.option("--crf", type=click.IntRange(0, 63), help="Of H.264 (20), HEVC (25) or VP9 (28).")
@click.option("--height", type=click.IntRange(64, 4320), help="Lines; the picture's shape stays.")
@click.option(
    "--fps", help="Frames a second, such as 25 or 30000/1001; as the film has, if not told."
)
@click.option(
    "--codec", type=click.Choice(CODECS), help="h264, if the ending does not tell another."
)
@click.option("--from", "from_", metavar="TIME", help="Begin there.")
@click.option("--to", metavar="TIME", help="End there.")
@click.option("--sound", type=click.Choice(get_args(SoundWay)), default="kept", show_default=True)
@click.option("--above", type=click.Path(path_type=Path), help="Captions of another language.")
@click.option(
    "--alone", is_flag=True, help="Captions on nothing: .mov, .webm, or a folder of PNGs."
)
def burn(
    media: Path, captions: tuple[Path, ...], output: Path, style: str | None, crf: int | None, height: int | None,
    fps: str | None, codec: Codec | None, from_: str | None, to: str | None, sound: SoundWay, above: Path | None,
    alone: bool,
) -> None:  # fmt: skip
    """Burn captions into a film: MP4 (H.264, HEVC), WebM (VP9) or MOV (ProRes).

    Several files of captions are drawn together. With --alone they are drawn on nothing, in the film's size.
    """
    from dunlin.media.alone import write_alone
    from dunlin.media.burn import burn as burned
    from dunlin.media.burn import scaled, script_size
    from dunlin.media.probe import early_end, picture_ends_ms
    from dunlin.media.probe import probe as probed

    # What is asked for is looked at before the film is, which may be large.
    form = _form_of(output) if alone else None
    wanted = codec or ("h264" if alone else _codec_of(output))
    if not alone and output.suffix.lower() != ENDINGS[wanted]:
        told = message("cli.other-ending", file=output, ending=ENDINGS[wanted], codec=wanted)
        raise BadInput(told)
    with speaking_of(media):
        facts = probed(media)
    know_fonts_here()
    documents = [read_captions(file, Context(facts.frame_rate), None) for file in captions]
    drawn = [caption for document in documents for caption in document.captions]
    if len(documents) > 1:
        # Ids are of files, and may be the same in two.
        drawn = [replace(caption, id=f"{number}") for number, caption in enumerate(drawn)]
    styles = {name: look for document in documents for name, look in document.styles.items()}
    document = replace(documents[0], styles=styles)
    sheet, picture = _sheet_called(style, document), script_size(facts)
    if above:
        other = read_captions(above, Context(facts.frame_rate), None)
        drawn, sheet = both_in_picture(
            Track.of(drawn), Track.of(other.captions), sheet, _sheet_called(None, other), picture,
            other.language or "en",
        )  # fmt: skip
    passage = _passage(from_, to, facts.duration_ms, facts.frame_rate)
    rate = parse_rate(fps) if fps else None
    if form:
        frames = rate or facts.frame_rate
        if height:
            picture = scaled(picture, height)
        with speaking_of(media):
            part = on_frames(passage, facts.duration_ms, frames)
            write_alone(drawn, sheet, picture, frames, part, form, output)
        return
    encoding = Encoding(wanted, crf=crf, height=height, rate=rate, passage=passage, sound=sound)
    with speaking_of(media):
        early = early_end(facts.duration_ms, None, picture_ends_ms(media))
        burned(media, facts, drawn, sheet, output, encoding)
    if early:
        note(early.message)


def _codec_of(output: Path) -> Codec:
    """The codec that an ending tells: the first of those that are written in such files."""
    ending = output.suffix.lower()
    found = next((codec for codec in CODECS if ENDINGS[codec] == ending), None)
    if found is None:
        raise BadInput(
            message("cli.film-is", file=output, endings=" ".join(dict.fromkeys(ENDINGS.values())))
        )
    return found


def _form_of(output: Path) -> Transparent:
    if not output.suffix:
        if output.exists():
            raise BadInput(message("cli.folder-is-there", folder=output))
        return "png"
    found: dict[str, Transparent] = {".mov": "prores", ".webm": "vp9"}
    if output.suffix.lower() not in found:
        raise BadInput(message("cli.alone-is", file=output))
    return found[output.suffix.lower()]


def _passage(
    from_: str | None, to: str | None, duration_ms: int, rate: FrameRate
) -> Passage | None:
    if from_ is None and to is None:
        return None
    begins = 0 if from_ is None else place_ms(from_, 0, rate)
    return Passage(begins, duration_ms if to is None else place_ms(to, 0, rate))


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
