"""The same core from the shell."""

import contextlib
import json
import os
import sys
import tempfile
from collections.abc import Iterator
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any, get_args

import click

from dunlin.core.captions import Caption, Track, spans_of
from dunlin.core.captions.flatten import flattened
from dunlin.core.formats import (
    FORMATS,
    GREATEST_BYTES,
    READABLE,
    Context,
    Document,
    Format,
    FormatError,
    format_called,
    format_of_ending,
    losses,
    read_file,
    written,
)
from dunlin.core.specs import (
    RULES,
    Judge,
    Spec,
    SpecError,
    for_language,
    least_gap_ms,
    mend_all,
    read_spec,
    shipped_specs,
)
from dunlin.core.speech.activity import levels, speech_stretches
from dunlin.core.styles import STYLES
from dunlin.core.text.segmentation import segmented
from dunlin.core.timecode import FrameRate, clock, parse_rate, parse_time
from dunlin.core.timing.fitting import DOUBTFUL
from dunlin.core.timing.retiming import (
    BelowZero,
    Edges,
    Piece,
    RetimingError,
    rate_change,
    retimed,
    shift,
    through_anchors,
)
from dunlin.core.timing.sync import sync as find_sync
from dunlin.media.ffmpeg import MediaError

__all__ = ["main"]


class _Bad(click.ClickException):
    """Bad input: one line, exit 2."""

    exit_code = 2


def main() -> None:
    """Runs the command line. Bad input and usage end with one line on stderr and exit 2."""
    try:
        code = commands.main(standalone_mode=False)
    except click.exceptions.Abort:
        code = 130
    except click.ClickException as error:
        print(f"dunlin: {error.format_message()}", file=sys.stderr)
        code = 2
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        code = 0
    sys.exit(code if isinstance(code, int) else 0)


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
def commands() -> None:
    """From a film with speech to delivered captions."""


@commands.command()
@click.option("--demo", is_flag=True, help="Load the demo project, if it is not there.")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8600, show_default=True)
@click.option(
    "--data", type=click.Path(path_type=Path, file_okay=False), help="Folder to keep all in."
)
def serve(demo: bool, host: str, port: int, data: Path | None) -> None:
    """Serve the page, with a worker beside it."""
    from dunlin.serving import serve as run

    run(_settings(data), host=host, port=port, demo=demo)


@commands.command()
@click.option("--data", type=click.Path(path_type=Path, file_okay=False))
@click.option("--tied", is_flag=True, hidden=True)
def worker(data: Path | None, tied: bool) -> None:
    """Do the jobs that the page asks for."""
    from dunlin.serving import work

    work(_settings(data), tied=tied)


@commands.command()
@click.argument("file", type=click.Path(path_type=Path))
def probe(file: Path) -> None:
    """Print what a film is made of, as JSON."""
    from dunlin.media.probe import probe as probed

    with _speaking_of(file):
        _print_json(asdict(probed(file)))


@commands.command()
@click.argument("media", type=click.Path(path_type=Path))
@click.option("--engine", help="whisper or pocketsphinx; the best that is there.")
@click.option("--model", help="Name of the model; the first one for the language.")
@click.option("--language", default="en", show_default=True)
@click.option("--sound", default=1, show_default=True, type=click.IntRange(1))
@click.option("--voice-focus", is_flag=True, help="Hold music and rumble down.")
@click.option("--spec", "spec_name", default="streaming", show_default=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
def transcribe(
    media: Path,
    engine: str | None,
    model: str | None,
    language: str,
    sound: int,
    voice_focus: bool,
    spec_name: str,
    output: Path,
) -> None:
    """Recognise a film's speech, and write it as captions."""
    from dunlin.engines import EngineError, engine_called
    from dunlin.engines.aligner import aligns, sharpened_along
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import Hearing, speech_blocks
    from dunlin.store.settings import Settings

    hearing = Hearing(sound - 1, voice_focus)
    spec = _spec(spec_name)
    target = _format(output)
    with _speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError("there is no sound in it")
        if sound > facts.audio_streams:
            raise MediaError(f"there is no sound {sound} in it")
        try:
            recogniser = engine_called(engine, Settings().model_folders)
            blocks = speech_blocks(media, 30, hearing=hearing)
            words = list(recogniser.recognise(blocks, language, model))
        except EngineError as error:
            raise _Bad(str(error)) from None
        if aligns(language) and words:
            words = sharpened_along(words, speech_blocks(media, 30, hearing=hearing))
    cuts = segmented(words, for_language(spec, language), facts.frame_rate, language)
    captions = tuple(
        Caption(f"c{number}", cut.in_ms, cut.out_ms, spans_of("\n".join(cut.lines)))
        for number, cut in enumerate(cuts, 1)
    )
    context = Context(facts.frame_rate, title=media.stem)
    _write_captions(output, Document(captions, language), target, context)


@commands.command()
@click.argument("source", metavar="IN", type=click.Path(path_type=Path))
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option(
    "--fps", default="25", show_default=True, help="Frame rate of formats that count frames."
)
@click.option("--from", "from_format", help="Format of IN, if neither it nor its ending tells.")
@click.option("--to", "to_format", help="Format to write, if the ending does not tell.")
@click.option("--encoding", help="Text encoding of IN, such as cp1250; found out, if not told.")
@click.option("--flatten", is_flag=True, help="Stack captions that are shown together in one.")
def convert(
    source: Path,
    output: Path,
    fps: str,
    from_format: str | None,
    to_format: str | None,
    encoding: str | None,
    flatten: bool,
) -> None:
    """Write a caption file in another format."""
    context = Context(_rate(fps), encoding, title=source.stem)
    target = _format(output, to_format)
    document = _read(source, context, from_format)
    if flatten:
        document = replace(document, captions=flattened(document.captions))
    _write_captions(output, document, target, context)


@commands.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", required=True)
@click.option("--fps", default="25", show_default=True, help="Frame rate that gaps are counted at.")
@click.option("--language", help="BCP 47 tag, if the file does not say; else en.")
@click.option("--json", "as_json", is_flag=True)
def check(file: Path, spec_name: str, fps: str, language: str | None, as_json: bool) -> int:
    """Judge captions by a delivery spec; exit 1 when an error is found."""
    spec, rate = _spec(spec_name), _rate(fps)
    document = _read(file, Context(rate), None)
    judge = Judge.of(spec, rate, language or document.language or "en")
    found = list(judge.findings(Track.of(document.captions)))
    if as_json:
        told = [
            {key: value for key, value in asdict(finding).items() if key not in ("waived",)}
            for finding in found
        ]
        _print_json({"findings": told})
    else:
        for finding in found:
            click.echo(f"{clock(finding.in_ms)} {finding.weight} {finding.rule}: {finding.message}")
    return int(any(finding.weight == "error" for finding in found))


@commands.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--spec", "spec_name", required=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--only", "only", multiple=True, metavar="RULE", help="Mend this rule's findings.")
@click.option("--fps", default="25", show_default=True, help="Frame rate that edges are set to.")
@click.option("--language", help="BCP 47 tag, if the file does not say; else en.")
@click.option("--dry-run", is_flag=True, help="Say what would be done, and write nothing.")
def mend(
    file: Path,
    spec_name: str,
    output: Path,
    only: tuple[str, ...],
    fps: str,
    language: str | None,
    dry_run: bool,
) -> None:
    """Mend what breaks a delivery spec, and say what only a person can."""
    spec, rate = _spec(spec_name), _rate(fps)
    if unknown := sorted(set(only) - {rule.name for rule in RULES}):
        known = ", ".join(rule.name for rule in RULES)
        raise _Bad(f"there is no rule called {unknown[0]!r}; there are {known}")
    context, target = Context(rate, title=file.stem), _format(output)
    document = _read(file, context, None)
    judge = Judge.of(spec, rate, language or document.language or "en")
    mended = mend_all(Track.of(document.captions), judge, only=only)
    for done in mended.mends:
        click.echo(
            f"{clock(done.finding.in_ms)} {done.finding.rule}: {done.finding.message}: mended"
        )
    for left in mended.left:
        click.echo(
            f"{clock(left.finding.in_ms)} {left.finding.rule}: {left.finding.message}: left, {left.reason}"
        )
    click.echo(f"{len(mended.mends)} mended, {len(mended.left)} left")
    if not dry_run:
        _write_captions(output, replace(document, captions=tuple(mended.track)), target, context)


@commands.command()
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
        raise _Bad("say one of --by, --from-fps with --to-fps, or --anchor")
    target = _format(output)
    if by_ms is not None:
        pieces = shift(by_ms)
    elif anchors:
        try:
            pieces = through_anchors(_anchor(anchor) for anchor in anchors)
        except RetimingError as error:
            raise _Bad(str(error)) from None
    elif from_fps is None or to_fps is None:
        raise _Bad("--from-fps and --to-fps go together")
    else:
        pieces = rate_change(_rate(from_fps), _rate(to_fps))
    context = Context(_rate(to_fps or "25"), title=file.stem)
    _write_retimed(output, _read(file, context, None), pieces, target, context, edges, below_zero)


@commands.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--media", type=click.Path(path_type=Path), required=True)
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True)
@click.option("--json", "as_json", is_flag=True)
def sync(file: Path, media: Path, output: Path, as_json: bool) -> None:
    """Find out from the sound where captions belong, and put them there."""
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import speech_blocks

    target = _format(output)
    with _speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError("there is no sound in it to find captions by")
    context = Context(facts.frame_rate, title=file.stem)
    document = _read(file, context, None)
    with _speaking_of(media):
        speech = speech_stretches(levels(speech_blocks(media, 30)))
    found = find_sync(document.captions, speech)
    if as_json:
        told = asdict(found)
        last_ms = max([facts.duration_ms, *(c.out_ms for c in document.captions)])
        for piece in told["pieces"]:
            piece["to_ms"] = last_ms if piece["to_ms"] is None else piece["to_ms"]
        _print_json(told)
    if not found.pieces:
        raise _Bad(f"{file}: it cannot be told from the sound where these captions belong")
    if not as_json:
        for piece in found.pieces:
            drift = f", times {piece.rate:.5f}" if piece.rate != 1 else ""
            click.echo(f"from {clock(piece.from_ms)}: {piece.offset_ms:+.0f} ms{drift}")
        click.echo(f"agreement {found.agreement_before} % before, {found.agreement_after} % after")
    _write_retimed(output, document, found.pieces, target, context)


@commands.command()
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
    from dunlin.engines.fitting import fit_to_speech
    from dunlin.media.probe import probe as probed
    from dunlin.media.sound import speech_blocks
    from dunlin.store.settings import Settings

    spec, target = _spec(spec_name), _format(output)
    with _speaking_of(media):
        facts = probed(media)
        if not facts.audio_streams:
            raise MediaError("there is no sound in it")
    context = Context(facts.frame_rate, title=script.stem)
    document = _read(script, context, None)
    with _speaking_of(media):
        speech = speech_stretches(levels(speech_blocks(media, 30)))
        try:
            recogniser = engine_called(engine, Settings().model_folders)
            heard = list(recogniser.recognise(speech_blocks(media, 30), language, quick=True))
        except EngineError as error:
            if engine is not None:
                raise _Bad(str(error)) from None
            click.echo(f"note: {error}; timed by where somebody speaks alone", err=True)
            heard = []
    gap_ms = least_gap_ms(for_language(spec, language), facts.frame_rate)
    blocks = speech_blocks(media, 30)
    found = fit_to_speech(document.captions, heard, speech, blocks, language, gap_ms)
    for one in found:
        if one.sure < DOUBTFUL:
            click.echo(
                f"note: {clock(one.caption.in_ms)} is not sure: {one.caption.lines[0][:60]}",
                err=True,
            )
    captions = tuple(one.caption for one in found)
    _write_captions(output, Document(captions, language), target, context)


@commands.command()
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
        raise _Bad(f"{output}: the film is written as .mp4")
    if style not in STYLES:
        raise _Bad(f"there is no style called {style!r}; there are {', '.join(STYLES)}")
    with _speaking_of(media):
        facts = probed(media)
    document = _read(captions, Context(facts.frame_rate), None)
    with _speaking_of(media):
        burned(media, facts, document.captions, STYLES[style], output, crf=crf, height=height)


@commands.command()
@click.option("--json", "as_json", is_flag=True)
def specs(as_json: bool) -> None:
    """List the delivery specs."""
    _list({spec.id: spec.name for spec in shipped_specs().values()}, as_json,
          [spec.model_dump(mode="json") for spec in shipped_specs().values()])  # fmt: skip


@commands.command()
@click.option("--json", "as_json", is_flag=True)
def styles(as_json: bool) -> None:
    """List the styles."""
    _list({style.id: style.name for style in STYLES.values()}, as_json,
          [asdict(style) for style in STYLES.values()])  # fmt: skip


@commands.command()
@click.option("--json", "as_json", is_flag=True)
def formats(as_json: bool) -> None:
    """List the caption formats."""
    _list({name: f"{module.TITLE} {' '.join(module.ENDINGS)}" for name, module in FORMATS.items()},
          as_json,
          [{"name": name, "title": m.TITLE, "endings": list(m.ENDINGS), "reads": name in READABLE,
            "holds": sorted(m.HOLDS.features)} for name, m in FORMATS.items()],
    )  # fmt: skip


def _settings(data: Path | None) -> Any:
    from dunlin.store.settings import Settings

    return Settings() if data is None else Settings(data=data.absolute())


@contextlib.contextmanager
def _speaking_of(file: Path) -> Iterator[None]:
    """Says which file it was that could not be read."""
    try:
        yield
    except MediaError as error:
        raise _Bad(f"{file}: {error}") from None
    except OSError as error:
        raise _Bad(f"{error.filename or file}: {error.strerror or error}") from None


def _spec(name: str) -> Spec:
    if name in shipped_specs():
        return shipped_specs()[name]
    path = Path(name)
    if not path.is_file():
        raise _Bad(
            f"there is no spec called {name!r}; there are {', '.join(shipped_specs())}, or a path"
        )
    try:
        return read_spec(path.read_text("utf-8"))
    except (SpecError, UnicodeDecodeError) as error:
        raise _Bad(f"{path}: {error}") from None


def _rate(text: str) -> FrameRate:
    try:
        return parse_rate(text)
    except ValueError as error:
        raise _Bad(str(error)) from None


def _format(path: Path, name: str | None = None) -> Format:
    try:
        return format_called(name) if name else format_of_ending(str(path))
    except FormatError as error:
        raise _Bad(str(error) if name else f"{path}: {error}") from None


def _anchor(text: str) -> tuple[int, int]:
    """Two times of an anchor; whole numbers are milliseconds."""
    old, equals, new = text.partition("=")
    try:
        if not equals:
            raise ValueError(f"{text!r} is not an anchor such as 00:00:02=00:00:05")
        first, second = (int(t) if t.isdecimal() else parse_time(t) for t in (old, new))
    except ValueError as error:
        raise _Bad(str(error)) from None
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
        done = {"hold": "held at zero", "drop": "dropped", "less": "so all were moved less far"}
        click.echo(f"note: {count} captions would start below zero: {done[below_zero]}", err=True)
    _write_captions(path, replace(document, captions=moved.captions), target, context)


def _read(path: Path, context: Context, name: str | None) -> Document:
    """Captions of a file; what is odd about it is noted."""
    with _speaking_of(path), path.open("rb") as file:
        # A little more than the limit tells that it is over it, however large the file is.
        data = file.read(GREATEST_BYTES + 1)
    try:
        reading = read_file(data, path.name, context, name)
    except FormatError as error:
        place = f"{path}:{error.line}" if error.line else str(path)
        raise _Bad(f"{place}: {error}") from None
    for oddity in reading.oddities:
        click.echo(f"note: {path}:{oddity.line}: {oddity.message}", err=True)
    return reading.document


def _write_captions(path: Path, document: Document, target: Format, context: Context) -> None:
    """Writes captions; what the format cannot hold is noted."""
    for loss in losses(document, target, context.rate):
        count = len(loss.captions)
        click.echo(
            f"note: {target.TITLE} cannot hold {loss.what} ({count} captions): {_DONE[loss.done]}",
            err=True,
        )
    try:
        data = written(document, target, context)
    except FormatError as error:
        raise _Bad(f"{path}: {error}") from None
    _write(path, data)


_DONE = {"drop": "left out", "flatten": "stacked in one", "join": "put in one line",
         "round": "rounded", "nearest": "brought to the nearest", "replace": "replaced by ?"}  # fmt: skip


def _write(path: Path, data: bytes) -> None:
    """Writes a file beside its target and renames it, so that no half of it is ever there."""
    try:
        handle, draft = tempfile.mkstemp(dir=path.absolute().parent, prefix=f".{path.name}.")
    except OSError as error:
        raise _Bad(f"{path}: {error.strerror}") from None
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        Path(draft).chmod(0o644)
        Path(draft).replace(path)
    except OSError as error:
        Path(draft).unlink(missing_ok=True)
        raise _Bad(f"{path}: {error.strerror}") from None


def _print_json(data: Any) -> None:
    click.echo(json.dumps(data, indent=2, ensure_ascii=False))


def _list(names: dict[str, str], as_json: bool, data: list[Any]) -> None:
    if as_json:
        _print_json(data)
        return
    for name, title in names.items():
        click.echo(f"{name:<12} {title}")
