"""The character code tables of EBU STL."""

import unicodedata
from functools import cache

from dunlin.core.formats.model import Document

__all__ = [
    "decoded_text",
    "encoded_character",
    "spelled_characters",
    "table_for",
    "unheld_characters",
]

# ISO 6937 as Tech 3264, appendix 2, prints it, from A0 on; `` ` `` stands where there is none.
_LATIN = {
    0x24: "¤", 0xA0: "\N{NO-BREAK SPACE}", 0xA1: "¡", 0xA2: "¢", 0xA3: "£", 0xA4: "$", 0xA5: "¥",
    0xA6: "#", 0xA7: "§", 0xA9: "‘", 0xAA: "“", 0xAB: "«", 0xAC: "←", 0xAD: "↑", 0xAE: "→",
    0xAF: "↓", 0xB0: "°", 0xB1: "±", 0xB2: "²", 0xB3: "³", 0xB4: "×", 0xB5: "µ", 0xB6: "¶",
    0xB7: "·", 0xB8: "÷", 0xB9: "’", 0xBA: "”", 0xBB: "»", 0xBC: "¼", 0xBD: "½", 0xBE: "¾",
    0xBF: "¿", 0xD0: "—", 0xD1: "¹", 0xD2: "®", 0xD3: "©", 0xD4: "™", 0xD5: "♪", 0xD6: "¬",
    0xD7: "¦", 0xDC: "⅛", 0xDD: "⅜", 0xDE: "⅝", 0xDF: "⅞", 0xE0: "Ω", 0xE1: "Æ", 0xE2: "Đ",
    0xE3: "ª", 0xE4: "Ħ", 0xE6: "Ĳ", 0xE7: "Ŀ", 0xE8: "Ł", 0xE9: "Ø", 0xEA: "Œ", 0xEB: "º",
    0xEC: "Þ", 0xED: "Ŧ", 0xEE: "Ŋ", 0xEF: "ŉ", 0xF0: "ĸ", 0xF1: "æ", 0xF2: "đ", 0xF3: "ð",
    0xF4: "ħ", 0xF5: "ı", 0xF6: "ĳ", 0xF7: "ŀ", 0xF8: "ł", 0xF9: "ø", 0xFA: "œ", 0xFB: "ß",
    0xFC: "þ", 0xFD: "ŧ", 0xFE: "ŋ", 0xFF: "\N{SOFT HYPHEN}",
}  # fmt: skip
# Marks that stand before their letter, and the combining marks that stand behind it in Unicode.
_MARKS = {
    0xC1: "\u0300", 0xC2: "\u0301", 0xC3: "\u0302", 0xC4: "\u0303", 0xC5: "\u0304", 0xC6: "\u0306",
    0xC7: "\u0307", 0xC8: "\u0308", 0xCA: "\u030a", 0xCB: "\u0327", 0xCD: "\u030b", 0xCE: "\u0328",
    0xCF: "\u030c",
}  # fmt: skip
SPELLED = {"…": "...", "–": "-", "―": "—", "‐": "-", "‑": "-", "€": "EUR", "„": "“", "‚": "‘"}
"""Characters that the Latin table does not have, and how they are written with those it has."""
_MARK_CODES = {mark: code for code, mark in _MARKS.items()}
_LATIN_CODES = {character: code for code, character in _LATIN.items()}
_CODECS = {1: "iso8859-5", 2: "iso8859-6", 3: "iso8859-7", 4: "iso8859-8"}


def decoded_text(data: bytes, table: int) -> str:
    """Text of bytes that are no control codes.

    :param table: 0 Latin, 1 Cyrillic, 2 Arabic, 3 Greek, 4 Hebrew
    """
    if table in _CODECS:
        return data.decode(_CODECS[table], errors="replace")
    if data.isascii() and b"$" not in data:
        return data.decode("ascii")
    result: list[str] = []
    mark = ""
    for byte in data:
        if byte in _MARKS:
            mark = _MARKS[byte]
            continue
        ascii_character = chr(byte) if 0x20 <= byte < 0x7F else "\N{REPLACEMENT CHARACTER}"
        character = _LATIN.get(byte, ascii_character)
        result.append(unicodedata.normalize("NFC", character + mark) if mark else character)
        mark = ""
    return "".join(result)


@cache
def encoded_character(character: str, table: int) -> bytes | None:
    """Code of a character, or None when the table has none."""
    if table in _CODECS:
        try:
            code = character.encode(_CODECS[table])
        except UnicodeEncodeError:
            return None
        return None if 0x7F <= code[0] < 0xA0 else code
    if character in _LATIN_CODES:
        return bytes([_LATIN_CODES[character]])
    if " " <= character <= "~" and character != "$":
        return character.encode("ascii")
    decomposed = unicodedata.normalize("NFD", character)
    base, marks = decomposed[:1], decomposed[1:]
    if len(marks) == 1 and marks in _MARK_CODES and base.isascii() and base.isalpha():
        return bytes([_MARK_CODES[marks], ord(base)])
    return None


def table_for(text: str) -> int:
    """The table that has most of a text's characters."""
    distinct = set(text) - {"\n"}
    return max(
        (0, *_CODECS),
        key=lambda table: (sum(encoded_character(c, table) is not None for c in distinct), -table),
    )


def unheld_characters(document: Document) -> frozenset[str]:
    """Characters that the table chosen for a document has no code for, and no other way to write."""
    return _without_code(document) - SPELLED.keys()


def spelled_characters(document: Document) -> dict[str, str]:
    """Characters that the table chosen for a document has no code for, and how they are written."""
    return {c: SPELLED[c] for c in _without_code(document) & SPELLED.keys()}


def _without_code(document: Document) -> frozenset[str]:
    text = "".join(caption.text for caption in document.captions)
    table = table_for(text)
    return frozenset(c for c in set(text) if c != "\n" and encoded_character(c, table) is None)
