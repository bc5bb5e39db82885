"""Documents of two columns for whoever has no tool for translators: CSV, and a table in a .docx."""

import copy
import csv
import io
import zipfile
from collections.abc import Sequence
from typing import Any

import docx
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Cm, Pt
from docx.table import Table
from docx.text.paragraph import Paragraph
from lxml import etree

from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context
from dunlin.core.language.handover.model import HandedOver, Returned, Row, Unit
from dunlin.core.messages import BadInput, message
from dunlin.core.text.cells import delimiter_of, field_in_file, field_of_file
from dunlin.core.text.direction import direction_of_language
from dunlin.core.text.xml import in_xml
from dunlin.core.timecode import clock, parse_time

__all__ = ["docx_of", "read_csv", "read_docx", "written_csv"]

_FIXED = ("caption", "number", "in", "out", "speaker", "room")
_MOST_BYTES = 64 * 2**20
"""What a document may grow to when it is opened."""


def written_csv(given: HandedOver) -> str:
    """A row for each caption, in UTF-8 with a byte order mark, by which spreadsheets know that: two columns of words, headed by
    their languages, behind its id, number, times, speaker and the characters there is time for."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    writer.writerow([*_FIXED, f"source {given.language}", f"target {given.target}"])
    for number, unit in enumerate(given.units, start=1):
        room = "" if unit.most is None else unit.most
        words = (unit.speaker, room, unit.source, unit.target)
        told = [field_in_file(str(word)) for word in words]
        writer.writerow([unit.id, number, clock(unit.in_ms), clock(unit.out_ms), *told])
    return "\ufeff" + out.getvalue()


def read_csv(data: bytes) -> Returned:
    """The rows of a file, whose fields are parted by commas, semicolons or tabs.

    :raises BadInput: when it has no columns of a source and a target
    """
    text, _ = decoded(data, Context())
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter_of(text))
    try:
        head = [name.strip().lower() for name in next(rows, [])]
        source = next((n for n, name in enumerate(head) if name.startswith("source")), None)
        target = next((n for n, name in enumerate(head) if name.startswith("target")), None)
        if source is None or target is None:
            raise BadInput(message("handover.no-columns"))
        at = {name: head.index(name) for name in _FIXED if name in head}
        found = [
            Row(
                _lines(field_of_file(_cell(row, source))), _lines(field_of_file(_cell(row, target))),
                _cell(row, at.get("caption")).strip(), _ms(_cell(row, at.get("in"))),
            )
            for row in rows
        ]  # fmt: skip
    except csv.Error:
        raise BadInput(message("handover.no-columns")) from None
    tags = [head[n].split(" ", 1)[1] if " " in head[n] else None for n in (source, target)]
    return Returned(found, *tags)


def _cell(row: Sequence[str], at: int | None) -> str:
    return row[at] if at is not None and at < len(row) else ""


def _lines(text: str) -> str:
    return "\n".join(line.strip() for line in text.replace("\r\n", "\n").split("\n")).strip("\n")


def _ms(text: str) -> int | None:
    try:
        return parse_time(text.strip()) if text.strip() else None
    except BadInput:
        return None


def docx_of(given: HandedOver) -> bytes:
    """A document with a table: number and time, the source, and the target to be written."""
    document = docx.Document()
    for section in document.sections:
        section.left_margin = section.right_margin = Cm(1.8)
    document.add_heading(in_xml(given.title), level=1)
    table = document.add_table(rows=2, cols=3)
    table.style = "Table Grid"
    head, first = table.rows
    for cell, text in zip(head.cells, ("", given.language, given.target), strict=True):
        cell.paragraphs[0].add_run(text).bold = True
    widths = (Cm(3.2), Cm(7.1), Cm(7.1))
    for row in (head, first):
        for cell, width in zip(row.cells, widths, strict=True):
            cell.width = width
    for cell, size in zip(first.cells, (Pt(9), Pt(11), Pt(11)), strict=True):
        cell.paragraphs[0].add_run("").font.size = size
    for cell, language in zip(first.cells[1:], (given.language, given.target), strict=True):
        if direction_of_language(language) == "rtl":
            _turn_round(cell.paragraphs[0])
    # A table of thousands is written by copying one row: asking the library for each cell counts all of them again.
    pattern = first._tr
    table._tbl.remove(pattern)
    for number, unit in enumerate(given.units, start=1):
        row = copy.deepcopy(pattern)
        for run, text in zip(row.iter(qn("w:r")), _cells(number, unit), strict=True):
            _write(run, text)
        table._tbl.append(row)
    data = io.BytesIO()
    document.save(data)
    return data.getvalue()


def _turn_round(paragraph: Paragraph) -> None:
    """Has a paragraph be written from right to left (ECMA-376-1, 17.3.1.6 and 17.3.2.30)."""
    paragraph._p.get_or_add_pPr().append(OxmlElement("w:bidi"))
    for run in paragraph.runs:
        run._r.get_or_add_rPr().append(OxmlElement("w:rtl"))


def _cells(number: int, unit: Unit) -> tuple[str, str, str]:
    room = "" if unit.most is None else f"\n≤ {unit.most}"
    return f"{number}\n{clock(unit.in_ms)}{room}", unit.source, unit.target


def _write(run: Any, text: str) -> None:
    for n, line in enumerate(in_xml(text).split("\n")):
        if n:
            etree.SubElement(run, qn("w:br"))
        part = etree.SubElement(run, qn("w:t"))
        part.text = line
        part.set("{http://www.w3.org/XML/1998/namespace}space", "preserve")


def read_docx(data: bytes) -> Returned:
    """The rows of the first table that has three columns. :raises BadInput: when there is none"""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as package:
            if sum(entry.file_size for entry in package.infolist()) > _MOST_BYTES:
                raise BadInput(message("scripts.too-large", megabytes=_MOST_BYTES // 2**20))
        tables = docx.Document(io.BytesIO(data)).tables
    except BadInput:
        raise
    except Exception as error:
        # Of a damaged document the library raises whatever comes of it.
        raise BadInput(message("scripts.damaged")) from error
    table = next((one for one in tables if len(one.columns) == 3), None)
    if table is None:
        raise BadInput(message("handover.no-table"))
    head, *rows = _rows(table)
    found = [
        Row(source, target, in_ms=_ms(next((p for p in place.split("\n") if ":" in p), "")))
        for place, source, target in rows
    ]
    return Returned(found, head[1].strip() or None, head[2].strip() or None)


def _rows(table: Table) -> list[tuple[str, str, str]]:
    found = []
    for row in table._tbl.iter(qn("w:tr")):
        cells = [_text(cell) for cell in row.iter(qn("w:tc"))]
        if len(cells) == 3:
            found.append((cells[0], cells[1], cells[2]))
    return found


def _text(cell: Any) -> str:
    lines = []
    for paragraph in cell.iter(qn("w:p")):
        parts = [
            "\n" if one.tag in (qn("w:br"), qn("w:cr")) else one.text or ""
            for one in paragraph.iter(qn("w:t"), qn("w:br"), qn("w:cr"))
        ]
        lines.append("".join(parts))
    return _lines("\n".join(lines))
