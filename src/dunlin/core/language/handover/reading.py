"""A translation that comes back, whatever kind of file it is."""

from io import BytesIO
from pathlib import PurePath

from dunlin.core.language.handover.model import Returned
from dunlin.core.language.handover.tables import read_csv, read_docx
from dunlin.core.language.handover.xliff import read_xliff
from dunlin.core.messages import BadInput, message

__all__ = ["read_returned"]


def read_returned(data: bytes, name: str) -> Returned:
    """What a file says, told by its content first.

    :param name: what it is called
    :raises BadInput: when it is none of the kinds, or is broken
    """
    if data.startswith(b"PK"):
        return read_docx(data)
    head = data[:200].lstrip(b"\xef\xbb\xbf \r\n\t")
    if head.startswith((b"<", b"\xff\xfe<", b"\xfe\xff\0<")):
        return read_xliff(BytesIO(data))
    if PurePath(name).suffix.lower() in (".csv", ".tsv", ".txt"):
        return read_csv(data)
    raise BadInput(message("handover.unknown-kind"))
