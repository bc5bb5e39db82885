"""Line 21 captions (ANSI/CTA-608-E): characters, rows and codes of the first channel, as pairs of bytes without parity."""

from collections.abc import Mapping
from types import MappingProxyType

__all__ = [
    "COLUMNS",
    "CONTROL",
    "HELD",
    "PALETTE",
    "ROWS",
    "SPELLED",
    "Style",
    "address_code",
    "basic_character",
    "character_codes",
    "mid_row_code",
    "read_address",
    "read_character",
    "read_mid_row",
    "tab_code",
    "with_parity",
    "word_style",
]

COLUMNS, ROWS = 32, 15

PALETTE = ("#FFFFFF", "#00FF00", "#0000FF", "#00FFFF", "#FF0000", "#FFFF00", "#FF00FF")
"""Colours of letters, in the order of their codes."""

CONTROL: Mapping[str, int] = MappingProxyType({
    "resume-loading": 0x1420, "backspace": 0x1421, "delete-to-end": 0x1424, "roll-up-2": 0x1425, "roll-up-3": 0x1426,
    "roll-up-4": 0x1427, "resume-direct": 0x1429, "text-restart": 0x142A, "text-resume": 0x142B, "erase-displayed": 0x142C,
    "return": 0x142D, "erase-loaded": 0x142E, "end-of-caption": 0x142F,
})  # fmt: skip

# Standard characters are those of ASCII, but for these (table 50).
_BASIC = {
    0x2A: "á",
    0x5C: "é",
    0x5E: "í",
    0x5F: "ó",
    0x60: "ú",
    0x7B: "ç",
    0x7C: "÷",
    0x7D: "Ñ",
    0x7E: "ñ",
    0x7F: "█",
}
# Special ones (table 49); the tenth is a space that is seen through, read as a space.
_SPECIAL = "®°½¿™¢£♪à\N{NO-BREAK SPACE}èâêîôû"
# Extended ones (tables 5 to 10): each takes the place of a standard one that is sent before it, for old decoders.
_EXTENDED = {
    0x12: "ÁÉÓÚÜü‘¡*’—©℠•“”ÀÂÇÈÊËëÎÏïÔÙùÛ«»",
    0x13: "ÃãÍÌìÒòÕõ{}\\^_|~ÄäÖöß¥¤¦ÅåØø┌┐└┘",
}
_INSTEAD = {
    "‘": "'", "’": "'", "“": '"', "”": '"', "—": "-", "«": '"', "»": '"', "*": "x", "\\": "/", "_": "-", "|": "/", "¦": "/", "~": "-", "{": "(", "}": ")",
    "Á": "A", "É": "E", "Ó": "O", "Ú": "U", "Ü": "U", "ü": "u", "À": "A", "Â": "A", "Ç": "C", "È": "E", "Ê": "E", "Ë": "E",
    "ë": "e", "Î": "I", "Ï": "I", "ï": "i", "Ô": "O", "Ù": "U", "ù": "u", "Û": "U", "Ã": "A", "ã": "a", "Í": "I", "Ì": "I",
    "ì": "i", "Ò": "O", "ò": "o", "Õ": "O", "õ": "o", "Ä": "A", "ä": "a", "Ö": "O", "ö": "o", "ß": "s", "Å": "A", "å": "a", "Ø": "O", "ø": "o",
}  # fmt: skip

SPELLED: Mapping[str, str] = MappingProxyType({"…": "...", "–": "-", "‐": "-", "„": '"', "‚": "'", "œ": "oe", "Œ": "OE", "æ": "ae", "Æ": "AE", "\N{NO-BREAK SPACE}": " ", "\N{NARROW NO-BREAK SPACE}": " "})  # fmt: skip
"""Characters that there is no code for, and how they are written."""

_CHARACTERS = {chr(code): code << 8 for code in range(0x20, 0x80) if code not in _BASIC}
_CHARACTERS |= {character: code << 8 for code, character in _BASIC.items()}
_TWO_BYTES = {
    0x1130 + n: character for n, character in enumerate(_SPECIAL) if character.strip()
} | {(lead << 8) + 0x20 + n: c for lead, all_ in _EXTENDED.items() for n, c in enumerate(all_)}
_CODES_OF_TWO = {character: code for code, character in reversed(_TWO_BYTES.items())}

HELD = frozenset(_CHARACTERS) | frozenset(_CODES_OF_TWO) | {"\n"}
"""Characters that there is a code for."""

# First byte of the address of a row, and whether its second byte has 0x20 (table 53).
_ROW_CODES = (
    (0x11, 0), (0x11, 1), (0x12, 0), (0x12, 1), (0x15, 0), (0x15, 1), (0x16, 0), (0x16, 1), (0x17, 0), (0x17, 1),
    (0x10, 0), (0x13, 0), (0x13, 1), (0x14, 0), (0x14, 1),
)  # fmt: skip
_ROW_OF = {code: row for row, code in enumerate(_ROW_CODES, 1)}

Style = tuple[int, bool, bool]
"""Of words: the place of their colour in the palette, whether they are italic, whether underlined."""


def word_style(colour: str | None, italic: bool, underline: bool) -> Style:
    """Italic words are white, as the code for italics is one of the colours'."""
    return (0 if italic or colour not in PALETTE else PALETTE.index(colour), italic, underline)


def with_parity(byte: int) -> int:
    """A byte of seven bits with an eighth that makes the number of ones odd."""
    return byte | (0x80 if byte.bit_count() % 2 == 0 else 0)


def character_codes(character: str) -> list[int]:
    """The codes of a character: of standard ones a single byte, as the upper one; else two bytes each."""
    if (code := _CHARACTERS.get(character)) is not None:
        return [code]
    code = _CODES_OF_TWO[character]
    # Extended ones take the place of what was sent before.
    return [_CHARACTERS[_INSTEAD.get(character, " ")], code] if code >= 0x1200 else [code]


def read_character(code: int) -> tuple[str, bool] | None:
    """The character of two bytes, and whether it takes the place of the one before; None of other codes."""
    character = _TWO_BYTES.get(code)
    if character is None:
        return (" ", False) if code == 0x1139 else None
    return character, code >= 0x1200


def basic_character(byte: int) -> str:
    """The character of a single byte from 0x20 on."""
    return _BASIC.get(byte, chr(byte))


def address_code(row: int, *, indent: int | None = None, style: Style = (0, False, False)) -> int:
    """The code that goes to a row: to a column that four divides, in plain white, or to the first, in a style.

    :param row: from 1 to 15
    """
    lead, second = _ROW_CODES[row - 1]
    low = 0x10 | (indent // 4) << 1 if indent is not None else _style_bits(style) | style[2]
    return lead << 8 | 0x40 | second << 5 | low


def _style_bits(style: Style) -> int:
    return 0x0E if style[1] else style[0] << 1


def read_address(code: int) -> tuple[int, int, Style] | None:
    """Row, column and style of an address; None of other codes."""
    lead, second = code >> 8, code & 0xFF
    row = _ROW_OF.get((lead, second >> 5 & 1)) if second & 0x40 else None
    if lead == 0x10:
        row = 11 if second & 0x40 else None
    if row is None or not 0x10 <= lead <= 0x17:
        return None
    low, underline = second & 0x1E, bool(second & 1)
    if low & 0x10:
        return row, (low & 0x0E) * 2, (0, False, underline)
    return row, 0, (0, True, underline) if low == 0x0E else (low >> 1, False, underline)


def mid_row_code(style: Style) -> int:
    """The code that begins a style within a row; it takes the place of a space."""
    return 0x1120 | _style_bits(style) | style[2]


def read_mid_row(code: int) -> Style | None:
    """The style that a code within a row begins; None of other codes."""
    if code & 0xFFF0 != 0x1120:
        return None
    low, underline = code & 0x0E, bool(code & 1)
    return (0, True, underline) if low == 0x0E else (low >> 1, False, underline)


def tab_code(columns: int) -> int:
    """The code that goes one to three columns on."""
    return 0x1720 + columns
