"""Captions as rows of a table: what CSV and TSV share."""

import csv
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from dunlin.core.captions.model import Caption, spans_of
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Oddity
from dunlin.core.messages import Message, message
from dunlin.core.text.cells import field_in_file, field_of_file
from dunlin.core.timecode import FrameRate, clock, parse_time

__all__ = ["column_names", "read_rows", "written_rows"]

_COLUMNS = {
    "in": ("in", "start", "begin", "from", "start time", "timecode in", "tc in", "in time"),
    "out": ("out", "end", "to", "stop", "end time", "timecode out", "tc out", "out time"),
    "duration": ("duration", "length", "dur"),
    "speaker": ("speaker", "name", "character", "voice", "who"),
    "text": ("text", "caption", "subtitle", "dialogue", "words", "transcript", "line"),
}
# A cell longer than this is no caption, and the csv module's own limit is less.
_GREATEST_CELL = 1_000_000


def column_names(head: Iterable[str]) -> dict[str, int]:
    """Place of each column that has a name known here."""
    found: dict[str, int] = {}
    for place, cell in enumerate(head):
        name = " ".join(cell.strip().lower().replace("_", " ").split())
        for column, names in _COLUMNS.items():
            if name in names:
                found.setdefault(column, place)
    return found


@dataclass(frozen=True)
class _Row:
    cells: list[str]
    columns: dict[str, int]

    def __getitem__(self, column: str) -> str:
        place = self.columns.get(column)
        return self.cells[place] if place is not None and place < len(self.cells) else ""


def read_rows(
    data: bytes, context: Context, delimiter_of: Callable[[str], str]
) -> tuple[Document, list[Oddity]]:
    """Captions of a table with a head that names its columns.

    :param delimiter_of: what parts the cells, told by the head's line
    :raises FormatError: without columns for times and text
    """
    text, oddities = decoded(data, context)
    csv.field_size_limit(_GREATEST_CELL)
    reader = csv.reader(io.StringIO(text), delimiter=delimiter_of(text.split("\n", 1)[0]))
    captions: list[tuple[int, Caption]] = []
    columns: dict[str, int] = {}
    try:
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            if not columns:
                columns = column_names(cells)
                if "in" not in columns or "text" not in columns:
                    raise FormatError(message("formats.no-columns"), 1)
                continue
            _add(captions, _Row(cells, columns), reader.line_num, context.rate, oddities)
    except csv.Error as error:
        raise FormatError(message("formats.no-table", reason=error), reader.line_num) from None
    if not columns:
        raise FormatError(message("formats.no-columns"), 1)
    ordered, oddities = put_in_order(captions, oddities)
    return Document(ordered), oddities


def _add(
    captions: list[tuple[int, Caption]],
    row: _Row,
    line: int,
    rate: FrameRate,
    oddities: list[Oddity],
) -> None:
    def odd(told: Message) -> None:
        oddities.append(Oddity(line, told))

    try:
        in_ms = parse_time(row["in"], rate)
        if row["out"].strip():
            out_ms = parse_time(row["out"], rate)
        else:
            out_ms = in_ms + parse_time(row["duration"], rate)
    except ValueError as error:
        odd(message("oddities.left-out", reason=error))
        return
    text = "\n".join(
        line for line in field_of_file(row["text"].strip()).split("\n") if line.strip()
    )
    speaker = " ".join(field_of_file(row["speaker"]).split()) or None
    caption = Caption(numbered(len(captions)), in_ms, out_ms, spans_of(text), speaker)
    captions.append((line, mended_times(caption, odd)))


def written_rows(document: Document, delimiter: str) -> bytes:
    """A table with a head and a row a caption."""
    file = io.StringIO()
    table = csv.writer(file, delimiter=delimiter, lineterminator="\n")
    table.writerow(("number", "in", "out", "speaker", "text"))
    for number, caption in enumerate(document.captions, 1):
        times = clock(caption.in_ms), clock(caption.out_ms)
        table.writerow(
            (number, *times, field_in_file(caption.speaker or ""), field_in_file(caption.text))
        )
    # With a mark, for programmes that take a table without one to be in an old code page.
    return file.getvalue().encode("utf-8-sig")
