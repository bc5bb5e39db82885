"""Files that commands read and write, and how they say what is wrong."""

import contextlib
import json
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

from dunlin.core.formats import (
    GREATEST_BYTES,
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
from dunlin.core.messages import BadInput, message
from dunlin.core.specs import (
    Spec,
    SpecError,
    read_spec,
    shipped_specs,
)
from dunlin.core.timecode import FrameRate, parse_rate
from dunlin.media.ffmpeg import MediaError

__all__ = [
    "Bad",
    "format_to_write",
    "print_json",
    "rate_of",
    "read_captions",
    "speaking_of",
    "spec_called",
    "write_captions",
    "write_whole",
]


class Bad(click.ClickException):
    """Bad input: one line, exit 2."""

    exit_code = 2


@contextlib.contextmanager
def speaking_of(file: Path) -> Iterator[None]:
    """Says which file it was that could not be read."""
    try:
        yield
    except (MediaError, FormatError) as error:
        raise Bad(f"{file}: {error}") from None
    except OSError as error:
        raise Bad(f"{error.filename or file}: {error.strerror or error}") from None


def spec_called(name: str) -> Spec:
    if name in shipped_specs():
        return shipped_specs()[name]
    path = Path(name)
    if not path.is_file():
        raise BadInput(message("cli.no-such-spec", name=name, known=", ".join(shipped_specs())))
    try:
        return read_spec(path.read_text("utf-8"))
    except (SpecError, UnicodeDecodeError) as error:
        raise Bad(f"{path}: {error}") from None


def rate_of(text: str) -> FrameRate:
    return parse_rate(text)


def format_to_write(path: Path, name: str | None = None) -> Format:
    try:
        return format_called(name) if name else format_of_ending(str(path))
    except FormatError as error:
        raise Bad(str(error) if name else f"{path}: {error}") from None


def read_captions(path: Path, context: Context, name: str | None) -> Document:
    """Captions of a file; what is odd about it is noted."""
    with speaking_of(path), path.open("rb") as file:
        # A little more than the limit tells that it is over it, however large the file is.
        data = file.read(GREATEST_BYTES + 1)
    try:
        reading = read_file(data, path.name, context, name)
    except FormatError as error:
        place = f"{path}:{error.line}" if error.line else str(path)
        raise Bad(f"{place}: {error}") from None
    for oddity in reading.oddities:
        click.echo(f"note: {path}:{oddity.line}: {oddity.message}", err=True)
    return reading.document


_DONE = {"drop": "left out", "flatten": "stacked in one", "join": "put in one line",
         "round": "rounded", "nearest": "brought to the nearest", "replace": "replaced by ?"}  # fmt: skip


def write_captions(path: Path, document: Document, target: Format, context: Context) -> None:
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
        raise Bad(f"{path}: {error}") from None
    write_whole(path, data)


def write_whole(path: Path, data: bytes) -> None:
    """Writes a file beside its target and renames it, so that no half of it is ever there."""
    try:
        handle, draft = tempfile.mkstemp(dir=path.absolute().parent, prefix=f".{path.name}.")
    except OSError as error:
        raise Bad(f"{path}: {error.strerror}") from None
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        Path(draft).chmod(0o644)
        Path(draft).replace(path)
    except OSError as error:
        Path(draft).unlink(missing_ok=True)
        raise Bad(f"{path}: {error.strerror}") from None


def print_json(data: Any) -> None:
    click.echo(json.dumps(data, indent=2, ensure_ascii=False))
