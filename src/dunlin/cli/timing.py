"""Commands that give captions their times: by an amount, by the sound, by a script."""

from dataclasses import asdict, replace
from pathlib import Path
from typing import get_args

import click

from dunlin.cli.files import (
    Bad,
    format_to_write,
    note,
    print_json,
    read_captions,
    speaking_of,
    spec_called,
    write_captions,
)
from dunlin.core.formats import (
    Context,
    Document,
    Format,
)
from dunlin.core.messages import BadInput, Message, message
from dunlin.core.specs import (
    for_language,
    least_gap_ms,
)
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.timecode import clock, parse_rate, parse_time
from dunlin.core.timing.fitting import DOUBTFUL, is_another_text, script_tokens
from dunlin.core.timing.retiming import (
    BelowZero,
    Edges,
    Piece,
    rate_change,
    retimed,
    shift,
    through_anchors,
)
from dunlin.core.timing.sync import sync as find_sync
from dunlin.media.ffmpeg import MediaError

__all__ = ["align", "retime", "sync"]


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option(
    "--by", "by_ms", type=int, metavar="MS", help="Later by so much; earlier if below zero."
)
@click.option("--from-fps", help="Frame rate that the times were made for.")
@click.option("--to-fps", help="Frame rate that the film has.")
@click.option("--anchor", "anchors", multiple=True, metavar="OLD=NEW", help="A time, and which it becomes: in milliseconds, or as 00:01:02.500.")  # fmt: skip
@click.option("--edges", type=click.Choice(get_args(Edges)), default="both", show_default=True)
@click.option("--below-zero", type=click.Choice(get_args(BelowZero)), default="hold", show_default=True,
              help="Hold captions at zero, drop them, or move all of them less far.")  # fmt: skip
def retime(
    file: Path,
    output: Path,
    by_ms: int | None,
    from_fps: str | None,
    to_fps: str | None,
    anchors: tuple[str, ...],
    edges: Edges,
    below_zero: BelowZero,
) -> None:
    """Move captions in time: by an amount, through anchors, or from a frame rate to another."""
    ways = [by_ms is not None, from_fps is not None or to_fps is not None, bool(anchors)]
    if sum(ways) != 1:
        raise BadInput(message("cli.one-way-to-retime"))
    target = format_to_write(output)
    if by_ms is not None:
        pieces = shift(by_ms)
    elif anchors:
        pieces = through_anchors(_anchor(anchor) for anchor in anchors)
    elif from_fps is None or to_fps is None:
        raise BadInput(message("cli.rates-go-together"))
    else:
        pieces = rate_change(parse_rate(from_fps), parse_rate(to_fps))
    context = Context(parse_rate(to_fps or "25"), title=file.stem)
    _write_retimed(
        output, read_captions(file, context, None), pieces, target, context, edges, below_zero
    )


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--media", type=click.Path(path_type=Path), required=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--json", "as_json", is_flag=True)
def sync(file: Path, media: Path, output: Path, as_json: bool) -> None:
    """Find out from the sound where captions belong, and put them there."""
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import speech_blocks

    target = format_to_write(output)
    with speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError(message("sound.none-to-find-by"))
    context = Context(facts.frame_rate, title=file.stem)
    document = read_captions(file, context, None)
    with speaking_of(media):
        speech = speech_stretches(levels(speech_blocks(media, 30)))
    found = find_sync(document.captions, speech)
    if as_json:
        told = asdict(found)
        last_ms = max([facts.duration_ms, *(c.out_ms for c in document.captions)])
        for piece in told["pieces"]:
            piece["to_ms"] = last_ms if piece["to_ms"] is None else piece["to_ms"]
            if not piece["absent"]:
                del piece["absent"]
        print_json(told)
    if not found.pieces:
        raise BadInput(message("cli.place-not-told", file=file))
    if not as_json:
        for piece in found.pieces:
            click.echo(_told(piece))
        click.echo(
            message("cli.agreement", before=found.agreement_before, after=found.agreement_after)
        )
    _write_retimed(output, document, found.pieces, target, context)


@click.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.argument("script", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", default="streaming", show_default=True)
@click.option("--engine", help="whisper or pocketsphinx; the best that is there.")
@click.option("--language", default="en", show_default=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def align(
    media: Path, script: Path, spec_name: str, engine: str | None, language: str, output: Path
) -> None:
    """Time a script, one caption a line, by the sound of a film."""
    from dunlin.engines import EngineError, engine_called
    from dunlin.engines.aligning import aligner_for
    from dunlin.engines.fitting import fit_to_speech, words_for_script
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import speech_blocks
    from dunlin.settings import Settings

    spec, target = spec_called(spec_name), format_to_write(output)
    with speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError(message("sound.none-in-it"))
    context = Context(facts.frame_rate, title=script.stem)
    document = read_captions(script, context, None)
    tokens = script_tokens(document.captions)
    with speaking_of(media):
        speech = speech_stretches(levels(speech_blocks(media, 30)))
        try:
            recogniser = engine_called(engine, Settings().model_folders)
            heard = words_for_script(
                recogniser,
                language,
                tokens,
                lambda model: list(
                    recogniser.recognise(speech_blocks(media, 30), language, model, quick=True)
                ),
            )
        except EngineError as error:
            if engine is not None:
                raise Bad(str(error)) from None
            note(message("cli.without-words", why=error))
            heard = []
    gap_ms = least_gap_ms(for_language(spec, language), facts.frame_rate)
    blocks = speech_blocks(media, 30)
    if is_another_text(tokens, heard):
        raise Bad(str(message("timing.another-text")))
    aligner = aligner_for(language, Settings().model_folders)
    found = fit_to_speech(document.captions, heard, speech, blocks, aligner, gap_ms)
    for one in found:
        if one.sure < DOUBTFUL:
            line = one.caption.lines[0][:60]
            note(message("cli.not-sure", time=clock(one.caption.in_ms), line=line))
    captions = tuple(one.caption for one in found)
    write_captions(output, Document(captions, language), target, context)


def _told(piece: Piece) -> Message:
    """What is done with the times from somewhere on."""
    time, offset = clock(piece.from_ms), f"{piece.offset_ms:+.0f}"
    if piece.absent:
        return message("cli.piece-absent", time=time)
    if piece.rate == 1:
        return message("cli.piece", time=time, offset=offset)
    return message("cli.piece-drifts", time=time, offset=offset, rate=f"{piece.rate:.5f}")


def _anchor(text: str) -> tuple[int, int]:
    """Two times of an anchor; whole numbers are milliseconds."""
    old, equals, new = text.partition("=")
    if not equals:
        raise BadInput(message("cli.no-anchor", text=text))
    first, second = (int(t) if t.isdecimal() else parse_time(t) for t in (old, new))
    return first, second


def _write_retimed(
    path: Path,
    document: Document,
    pieces: tuple[Piece, ...],
    target: Format,
    context: Context,
    edges: Edges = "both",
    below_zero: BelowZero = "hold",
) -> None:
    """Writes captions at their new times; what would have started below zero is noted."""
    moved = retimed(document.captions, pieces, edges=edges, below_zero=below_zero)
    if count := len(moved.below_zero):
        note(message(f"cli.below-zero-{below_zero}", count=count))
    if count := len(moved.absent):
        note(message("cli.absent", count=count))
    write_captions(path, replace(document, captions=moved.captions), target, context)
