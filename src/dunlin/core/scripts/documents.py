"""The text of a document, paragraph by paragraph, whatever wrote it."""

import io
import zipfile
from collections.abc import Callable
from pathlib import PurePath

import docx
from docx.table import Table
from lxml import etree
from striprtf.striprtf import rtf_to_text

from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, FormatError
from dunlin.core.messages import message

__all__ = ["DOCUMENT_ENDINGS", "text_of_document"]

DOCUMENT_ENDINGS = (".txt", ".docx", ".rtf", ".odt")
# Packed documents grow when they are opened; no script is as long as this.
_GREATEST_BYTES = 64 * 2**20

_MOST_SPACES = 1000
"""That one element may stand for: it says a number, and takes no room itself."""

_TEXT = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"


def text_of_document(data: bytes, name: str) -> str:
    """The words of a text file, .docx, .rtf or .odt, with a line for each paragraph and line break.

    What kind it is, its content tells.

    :param name: what it is called, for messages
    :raises FormatError: when it is empty, damaged, or no document with text
    """
    if not data.strip():
        raise FormatError(message("files.empty"))
    try:
        text = _reader(data, name)(data)
    except FormatError:
        raise
    except Exception as error:
        # Of a damaged document the libraries raise whatever comes of it, from zlib's errors to assertions.
        raise FormatError(message("scripts.damaged")) from error
    if not text.strip():
        raise FormatError(message("scripts.no-text"))
    return text


def _reader(data: bytes, name: str) -> Callable[[bytes], str]:
    if data.startswith(b"{\\rtf"):
        return _of_rtf
    if not data.startswith(b"PK"):
        if PurePath(name).suffix.lower() in (".docx", ".odt"):
            raise FormatError(message("scripts.damaged"))
        return _of_text
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        if sum(entry.file_size for entry in package.infolist()) > _GREATEST_BYTES:
            raise FormatError(message("scripts.too-large", megabytes=_GREATEST_BYTES // 2**20))
        names = set(package.namelist())
    if "word/document.xml" in names:
        return _of_docx
    if "content.xml" in names:
        return _of_odt
    raise FormatError(message("scripts.unknown-ending", known=", ".join(DOCUMENT_ENDINGS)))


def _of_text(data: bytes) -> str:
    return decoded(data, Context())[0]


def _of_rtf(data: bytes) -> str:
    # The library is not typed.
    return str(rtf_to_text(data.decode("latin-1"), errors="ignore"))  # type: ignore[no-untyped-call]


def _of_docx(data: bytes) -> str:
    lines: list[str] = []
    for block in docx.Document(io.BytesIO(data)).iter_inner_content():
        if isinstance(block, Table):
            # Scripts are often kept in a table, who speaks beside what is said.
            for row in block.rows:
                cells = [cell.text.strip() for cell in row.cells]
                lines.append(": ".join(cell for cell in cells if cell))
        else:
            lines.append(block.text)
    return "\n".join(lines)


def _of_odt(data: bytes) -> str:
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        content = package.read("content.xml")
    root = etree.fromstring(content, etree.XMLParser(resolve_entities=False, no_network=True))
    return "\n".join("".join(_odt_pieces(block)) for block in root.iter(f"{_TEXT}p", f"{_TEXT}h"))


def _odt_pieces(element: etree._Element) -> list[str]:
    pieces = [element.text or ""]
    for child in element:
        if child.tag == f"{_TEXT}line-break":
            pieces.append("\n")
        elif child.tag == f"{_TEXT}tab":
            pieces.append("\t")
        elif child.tag == f"{_TEXT}s":
            pieces.append(" " * min(int(child.get(f"{_TEXT}c", "1")), _MOST_SPACES))
        elif child.tag not in (f"{_TEXT}note", f"{_TEXT}tracked-changes"):
            pieces += _odt_pieces(child)
        pieces.append(child.tail or "")
    return pieces
