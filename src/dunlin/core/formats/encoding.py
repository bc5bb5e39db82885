"""Bytes into text, whatever they were written in."""

import codecs
from codecs import BOM_UTF8, BOM_UTF16_BE, BOM_UTF16_LE

from charset_normalizer import from_bytes

from dunlin.core.formats.letters import LATIN_PAGES, latin_page
from dunlin.core.formats.model import Context, FormatError, Oddity
from dunlin.core.messages import message

__all__ = ["ENCODINGS", "decoded", "encoding_of", "head_of"]

ENCODINGS = (
    "utf-8", "utf-16-le", "utf-16-be", "cp1250", "cp1251", "cp1252", "cp1253", "cp1254", "cp1255",
    "cp1256", "cp1257", "cp1258", "iso8859-2", "koi8-r", "big5", "gb18030", "shift_jis", "euc_jp",
    "euc_kr",
)  # fmt: skip
"""Encodings that caption files come in, by Python's names."""

_BOMS = ((BOM_UTF8, "utf-8"), (BOM_UTF16_LE, "utf-16-le"), (BOM_UTF16_BE, "utf-16-be"))
# Detection weighs byte statistics; more than this tells it nothing new and costs time.
_SAMPLE = 200_000
# What detection takes for each other when there are few letters beside a to z.
_LATIN = frozenset(
    {*LATIN_PAGES, "iso8859_1", "iso8859_2", "iso8859_4", "iso8859_9", "iso8859_10", "iso8859_13",
     "iso8859_15", "iso8859_16", "latin_1", "cp1258", "cp437", "cp850", "cp852", "cp775", "cp858",
     "mac_roman", "mac_latin2", "hp_roman8", "cp500", "cp037", "cp1140"}
)  # fmt: skip


def decoded(data: bytes, context: Context) -> tuple[str, list[Oddity]]:
    """The text of a file with plain newlines: in the encoding that the context says, or by its BOM,
    as UTF-8, or by detection.

    :raises FormatError: when it is empty or no text at all
    """
    if not data.strip():
        raise FormatError(message("files.empty"), 1)
    encoding, oddities = _encoding(data, context.encoding, context.language)
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError:
        text = data.decode(encoding, errors="replace")
        oddities.append(Oddity(1, message("oddities.wrong-bytes", encoding=encoding)))
    text = text.removeprefix("\N{ZERO WIDTH NO-BREAK SPACE}")
    if "\0" in text:
        raise FormatError(message("files.no-text"), 1)
    if "\r" not in text:
        return text, oddities
    if "\r\n" in text and "\n" in text.replace("\r\n", ""):
        oddities.append(Oddity(1, message("oddities.mixed-line-ends")))
    return text.replace("\r\n", "\n").replace("\r", "\n"), oddities


def encoding_of(data: bytes) -> str:
    """Python's name of the encoding that `decoded` finds out. :raises FormatError: when none fits"""
    return _encoding(data, None)[0]


def head_of(data: bytes) -> str:
    """The beginning of a file as text, whatever of it can be read; for telling its format."""
    for bom, encoding in _BOMS:
        if data.startswith(bom):
            return data[len(bom) :].decode(encoding, errors="replace")
    return data.decode(_bare_utf16(data) or "utf-8", errors="replace")


def _encoding(
    data: bytes, said: str | None, language: str | None = None
) -> tuple[str, list[Oddity]]:
    if said is not None:
        try:
            # A lookup alone would let through codecs that are not for text.
            "".encode(said)
            return codecs.lookup(said).name, []
        except LookupError:
            raise FormatError(message("files.no-such-encoding", name=said)) from None
    for bom, encoding in _BOMS:
        if data.startswith(bom):
            return encoding, []
    try:
        data.decode("utf-8")
        if b"\0" not in data:
            return "utf-8", []
    except UnicodeDecodeError:
        pass
    if (bare := _bare_utf16(data)) is not None:
        return bare, [Oddity(1, message("oddities.no-byte-order-mark", encoding=bare))]
    guess = from_bytes(data[:_SAMPLE]).best()
    if guess is None:
        raise FormatError(message("files.no-text"), 1)
    encoding = guess.encoding
    if encoding in _LATIN:
        # A few letters say little about bytes, but much about languages.
        encoding = latin_page(data[:_SAMPLE], language) or encoding
    return encoding, [Oddity(1, message("oddities.not-utf-8", encoding=encoding))]


def _bare_utf16(data: bytes) -> str | None:
    """UTF-16 without a BOM shows in digits and marks: every other byte is zero."""
    even, odd = data[:2000:2].count(0), data[1:2000:2].count(0)
    if max(even, odd) < len(data[:2000]) // 5:
        return None
    return "utf-16-be" if even > odd else "utf-16-le"
