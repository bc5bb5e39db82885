"""Files that commands read and write, and how they say what is wrong."""

import contextlib
import json
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

from dunlin.core.captions.look import Look, look_of_stored
from dunlin.core.formats import (
    GREATEST_BYTES,
    Context,
    Document,
    Format,
    FormatError,
    format_called,
    format_of_ending,
    losses,
    missing_fonts,
    read_file,
    written,
)
from dunlin.core.messages import BadInput, message
from dunlin.core.project.records import Record
from dunlin.core.project.targets import FONTS, STYLES
from dunlin.core.specs import (
    Spec,
    SpecError,
    read_spec,
    shipped_specs,
)
from dunlin.media.ffmpeg import MediaError
from dunlin.settings import Settings

__all__ = [
    "Bad",
    "fonts_here",
    "format_to_write",
    "kept_styles_here",
    "know_fonts_here",
    "note",
    "print_json",
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
    except FormatError as error:
        place = f"{file}:{error.line}" if error.line else str(file)
        raise Bad(f"{place}: {error}") from None
    except MediaError as error:
        raise Bad(f"{file}: {error}") from None
    except OSError as error:
        raise Bad(f"{error.filename or file}: {error.strerror or error}") from None


def note(told: object) -> None:
    """Says what is worth knowing about something that went well."""
    click.echo(f"note: {told}", err=True)


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


def kept_styles_here() -> dict[str, Look]:
    """What the styles say that are kept for all projects, in the data folder of this user; none where there is none yet."""
    entries = _house_record(STYLES)
    return {name: look_of_stored(entry["look"]) for name, entry in sorted(entries.items())}


def fonts_here() -> Record:
    """The fonts that were added for all projects, in the data folder of this user."""
    return _house_record(FONTS)


def know_fonts_here() -> None:
    """Has captions be drawn in those fonts."""
    if entries := fonts_here():
        from dunlin.core.styles.shelf import take_added
        from dunlin.work.fonts import font_paths

        take_added(font_paths(Settings().fonts, entries))


def _house_record(target: str) -> Record:
    from dunlin.store.database import open_database
    from dunlin.store.house import HOUSE
    from dunlin.store.log.records import read_record

    folder = Settings().data
    if not (folder / "dunlin.db").is_file():
        return {}
    with open_database(folder).connect() as connection:
        return read_record(connection, HOUSE, target)


def format_to_write(path: Path, name: str | None = None) -> Format:
    try:
        return format_called(name) if name else format_of_ending(str(path))
    except FormatError as error:
        raise Bad(str(error) if name else f"{path}: {error}") from None


def read_captions(path: Path, context: Context, name: str | None) -> Document:
    """Captions of a file; what is odd about it is noted."""
    with speaking_of(path), path.open("rb") as file:
        # A little more than the limit tells that it is over it, however large the file is.
        reading = read_file(file.read(GREATEST_BYTES + 1), path.name, context, name)
    for oddity in [*missing_fonts(reading.document), *reading.oddities]:
        note(f"{path}:{oddity.line}: {oddity.message}")
    return reading.document


def write_captions(path: Path, document: Document, target: Format, context: Context) -> None:
    """Writes captions; what the format cannot hold is noted."""
    for loss in losses(document, target, context.rate):
        told = message(
            f"losses.{loss.done}", format=target.TITLE, what=loss.what, captions=len(loss.captions)
        )
        note(told)
    with speaking_of(path):
        data = written(document, target, context)
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
