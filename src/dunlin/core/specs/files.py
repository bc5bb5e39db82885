"""What a spec asks of the file itself: its name, its encoding, its line ends."""

import codecs
import re

from dunlin.core.messages import BadInput, message
from dunlin.core.specs.model import Spec

__all__ = ["file_as_asked", "file_name"]

_MARKS = {
    "utf-8": codecs.BOM_UTF8, "utf-16-le": codecs.BOM_UTF16_LE, "utf-16-be": codecs.BOM_UTF16_BE,
}  # fmt: skip
_DECLARED = re.compile(r'(<\?xml[^>]*encoding=")[^"]*(")')
# What no common file system has in a name.
_UNFIT = re.compile(r'[\x00-\x1f/\\:*?"<>|]')


def file_as_asked(data: bytes, spec: Spec) -> bytes:
    """A text file, written in UTF-8, in the encoding and with the line ends that a spec asks for.

    :raises BadInput: when the encoding has no place for some of its characters
    """
    encoding = spec.file_encoding or "utf-8"
    had_mark = data.startswith(codecs.BOM_UTF8)
    text = data.removeprefix(codecs.BOM_UTF8).decode()
    if spec.file_line_ends == "crlf":
        text = text.replace("\r\n", "\n").replace("\n", "\r\n")
    if encoding != "utf-8":
        text = _DECLARED.sub(rf"\g<1>{encoding}\2", text, count=1)
    try:
        encoded = text.encode(encoding)
    except UnicodeEncodeError as error:
        lost = sorted(set(text[error.start : error.end]))
        told = message("specs.not-in-encoding", encoding=encoding, characters=" ".join(lost))
        raise BadInput(told) from None
    wants_mark = had_mark if spec.file_byte_order_mark is None else spec.file_byte_order_mark
    return (_MARKS.get(encoding, b"") if wants_mark else b"") + encoded


def file_name(spec: Spec, *, title: str, language: str, made: str, ending: str) -> str:
    """The name of a file that is sent.

    :param made: the day, as it shall stand in the name
    :param ending: with its dot
    """
    pattern = spec.file_name or "{title}.{language}"
    values = {"title": title, "language": language, "date": made, "spec": spec.name}
    named = re.sub(r"\{(\w+)\}", lambda field: values.get(field[1], field[0]), pattern)
    return f"{_UNFIT.sub('_', named)}{ending}"
