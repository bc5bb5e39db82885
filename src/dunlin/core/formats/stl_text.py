"""The text field of EBU STL: words among control codes."""

from collections.abc import Iterable
from dataclasses import replace

from dunlin.core.captions.model import Span, joined, plain_text, sliced
from dunlin.core.formats.stl_characters import decoded_text, encoded_character

__all__ = ["PALETTE", "read_text_field", "text_fields"]

PALETTE = ("#000000", "#FF0000", "#00FF00", "#FFFF00", "#0000FF", "#FF00FF", "#00FFFF", "#FFFFFF")
"""Teletext's colours in the order of their codes."""

_FIELD = 112
_WHITE = 7
_END_BOX, _START_BOX, _NORMAL_HEIGHT, _DOUBLE_HEIGHT = 0x0A, 0x0B, 0x0C, 0x0D
_BLACK_BACKGROUND, _NEW_BACKGROUND = 0x1C, 0x1D
_ITALIC, _UNDERLINE, _BOXING, _NEW_LINE, _UNUSED = 0x80, 0x82, 0x84, 0x8A, 0x8F


def read_text_field(data: bytes, table: int, *, teletext: bool) -> tuple[Span, ...]:
    """Styled text of a subtitle's fields, put one behind the other."""
    spans: list[Span] = []
    style, run = Span(""), bytearray()

    def take() -> None:
        if run:
            spans.append(replace(style, text=decoded_text(bytes(run), table)))
            run.clear()

    for byte in data:
        if byte == _UNUSED:
            continue
        if not (byte < 0x20 or 0x7F <= byte < 0xA0):
            run.append(byte)
            continue
        take()
        if byte == _NEW_LINE:
            spans.append(replace(spans[-1] if spans else style, text="\n"))
            if teletext:
                # A row of teletext begins white on black, whatever the row before was.
                style = replace(style, colour=None, background=None)
        else:
            style = _styled(style, byte)
            # A teletext code takes a place of its own on the screen, seen as a space.
            if teletext and byte < 0x20 and _ends_in_word(spans):
                spans.append(Span(" "))
    take()
    return _tidied(spans)


def _styled(style: Span, code: int) -> Span:
    if code < 8:
        return replace(style, colour=None if code == _WHITE else PALETTE[code])
    if code == _NEW_BACKGROUND:
        return replace(style, background=style.colour or PALETTE[_WHITE])
    if code == _BLACK_BACKGROUND:
        return replace(style, background=None)
    if code in (_ITALIC, _ITALIC + 1):
        return replace(style, italic=code == _ITALIC)
    if code in (_UNDERLINE, _UNDERLINE + 1):
        return replace(style, underline=code == _UNDERLINE)
    if code in (_BOXING, _BOXING + 1):
        return replace(style, background=PALETTE[0] if code == _BOXING else None)
    return style


def _ends_in_word(spans: list[Span]) -> bool:
    return bool(spans) and not spans[-1].text.endswith((" ", "\n"))


def _tidied(spans: Iterable[Span]) -> tuple[Span, ...]:
    """Text without spaces at the ends of lines, and without empty lines between double rows."""
    result: tuple[Span, ...] = ()
    for line in _lines(tuple(spans)):
        text = plain_text(line)
        start, end = len(text) - len(text.lstrip(" ")), len(text.rstrip(" "))
        if start < end:
            line_break = [replace(result[-1], text="\n")] if result else []
            result = joined(result, line_break, sliced(line, start, end))
    return result


def text_fields(spans: tuple[Span, ...], table: int, *, teletext: bool) -> list[bytes]:
    """The fields, of 112 bytes each, that a subtitle's text takes."""
    data = bytearray()
    for number, line in enumerate(_lines(spans)):
        if number:
            data += bytes([_NEW_LINE] * (2 if teletext else 1))
        data += _row(line, table, teletext=teletext)
    # A field ends with at least one unused byte, so that its end is seen.
    pieces = [bytes(data[at : at + _FIELD - 1]) for at in range(0, max(len(data), 1), _FIELD - 1)]
    return [piece.ljust(_FIELD, bytes([_UNUSED])) for piece in pieces]


def _lines(spans: tuple[Span, ...]) -> list[list[Span]]:
    lines: list[list[Span]] = [[]]
    for span in spans:
        first, *more = span.text.split("\n")
        lines[-1].append(replace(span, text=first))
        lines += [[replace(span, text=text)] for text in more]
    return [[span for span in line if span.text] for line in lines if plain_text(line)]


def _row(line: list[Span], table: int, *, teletext: bool) -> bytes:
    row = bytearray([_DOUBLE_HEIGHT, _START_BOX, _START_BOX] if teletext else [])
    style = Span("")
    for span in line:
        codes = _change(style, span)
        text = span.text
        if teletext and codes and style.text:
            # A code is seen as a space: it takes the place of the one between the words.
            if row.endswith(b" "):
                del row[-1]
            elif text.startswith(" "):
                text = text[1:]
        row += codes
        for character in text:
            row += encoded_character(character, table) or b"?"
        style = span
    # A row of teletext begins white on black again by itself; italics go on until they end.
    after = replace(style, text="", italic=False, underline=False) if teletext else Span("")
    row += _change(style, after)
    if teletext:
        row += bytes([_END_BOX, _END_BOX])
    return bytes(row)


def _change(before: Span, after: Span) -> bytes:
    """Codes that lead from one style to another."""
    codes = bytearray()
    painted, to_paint = _painted(before), _painted(after)
    if to_paint is not None and to_paint != painted:
        codes += bytes([PALETTE.index(to_paint), _NEW_BACKGROUND])
    elif painted != to_paint:
        codes.append(_BLACK_BACKGROUND)
    if codes or before.colour != after.colour:
        codes.append(PALETTE.index(after.colour) if after.colour else _WHITE)
    for code, was, is_ in (
        (_ITALIC, before.italic, after.italic),
        (_UNDERLINE, before.underline, after.underline),
        (_BOXING, before.background == PALETTE[0], after.background == PALETTE[0]),
    ):
        if was != is_:
            codes.append(code if is_ else code + 1)
    return bytes(codes)


def _painted(span: Span) -> str | None:
    """The background that is a colour; a black one is a box."""
    return None if span.background == PALETTE[0] else span.background
