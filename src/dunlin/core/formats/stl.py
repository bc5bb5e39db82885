"""EBU STL, the binary exchange format of broadcasters (EBU Tech 3264-E, 1991)."""

import base64
import binascii
import json
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from dunlin.core.captions.model import Caption, Extras, Placement, extra, with_extra
from dunlin.core.formats.cues import mended_times, numbered, put_in_order
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.formats.stl_characters import (
    spelled_characters,
    table_for,
    unheld_characters,
)
from dunlin.core.formats.stl_languages import code_of_language, language_of_code
from dunlin.core.formats.stl_text import PALETTE, read_text_field, text_fields
from dunlin.core.messages import Message, message
from dunlin.core.timecode import FrameRate, first_frame_from, parse_time, timecode

__all__ = [
    "ENDINGS", "HEAD_FIELDS", "HOLDS", "NAME", "TITLE", "asked_head", "counted_rate", "is_file",
    "is_teletext", "read", "recognises", "with_asked_head", "write", "written_stl",
]  # fmt: skip

NAME, TITLE, ENDINGS = "stl", "EBU STL (open)", (".stl",)

_GSI, _TTI = 1024, 128
_COMMENT, _LAST_BLOCK, _USER_DATA = 0x01, 0xFF, 0xFE
_JUSTIFIED = {1: "left", 2: "center", 3: "right"}
# Where the General Subtitle Information block says what, and in how many bytes (Tech 3264, 3).
_TOLD = {
    "title": (16, 32), "translated_title": (80, 32), "translator": (144, 32), "created": (224, 6),
    "revised": (230, 6), "country": (274, 3), "publisher": (277, 32),
}  # fmt: skip
HEAD_FIELDS = (*_TOLD, "programme_start", "teletext_level")
_DFC = re.compile(rb"STL(\d\d)\.01")


def counted_rate(rate: FrameRate) -> FrameRate:
    """The rate that a film's frames are counted in: its own, or half of it; the format has no others than
    25 and 30, so of all other films times are rounded to frames of 25."""
    if rate.nominal in (25, 30):
        return rate
    if rate.nominal in (50, 60):
        return FrameRate(rate.numerator, rate.denominator * 2)
    return FrameRate(25)


HOLDS = Holds(
    frozenset({"italic", "underline", "boxes", "alignment", "heights", "overlap", "lines", "language"}),
    precision="frames",
    frame_rate=counted_rate,
    counts_frames=True,
    # A box is black.
    palette=PALETTE[:1],
    lost_characters=unheld_characters,
    spelled_characters=spelled_characters,
)  # fmt: skip


def is_teletext(data: bytes) -> bool:
    """Whether a file's display standard code is one of teletext's levels."""
    return data[11:12] in (b"1", b"2")


def is_file(data: bytes) -> bool:
    """Whether a file begins as one of EBU STL does."""
    return _DFC.match(data[3:11]) is not None


def recognises(data: bytes, text: str) -> bool:
    return is_file(data) and not is_teletext(data)


@dataclass(frozen=True)
class _Head:
    """What the General Subtitle Information block says."""

    rate: FrameRate
    table: int
    teletext: bool
    rows: int
    start_ms: int
    language: str | None


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Subtitles of a file. An oddity's line is the number of the text block."""
    head = _read_head(data, context)
    oddities: list[Oddity] = []
    blocks = range(_GSI, len(data) - _TTI + 1, _TTI)
    if rest := (len(data) - _GSI) % _TTI:
        oddities.append(Oddity(len(blocks) + 1, message("oddities.no-whole-block", bytes=rest)))
    captions: list[tuple[int, Caption]] = []
    pending: list[bytes] = []
    comments = 0
    for number, at in enumerate(blocks, 1):
        block = data[at : at + _TTI]

        def odd(told: Message, number: int = number) -> None:
            oddities.append(Oddity(number, told))

        if block[3] == _USER_DATA:
            continue
        if block[15] == _COMMENT:
            comments += 1
            continue
        pending.append(block)
        if block[3] == _LAST_BLOCK:
            captions.append((number, _caption(pending, len(captions), head, odd)))
            pending = []
    if pending:
        captions.append((len(blocks), _caption(pending, len(captions), head, lambda message: None)))
        oddities.append(Oddity(len(blocks), message("oddities.no-last-block")))
    if comments:
        oddities.append(Oddity(1, message("oddities.comment-blocks", count=comments)))
    captions = _from_start(captions, head, oddities)
    ordered, oddities = put_in_order(captions, oddities)
    kept = base64.b64encode(data[:_GSI]).decode()
    return Document(ordered, head.language, (("stl:gsi", kept),)), oddities


def _read_head(data: bytes, context: Context) -> _Head:
    if len(data) < _GSI:
        raise FormatError(message("formats.stl-too-short"), 1)
    dfc = _DFC.match(data[3:11])
    if dfc is None:
        raise FormatError(message("formats.stl-no-code"), 1)
    nominal = int(dfc[1])
    counted = counted_rate(context.rate)
    # The code only counts: whether 30 means 29.97 is for the film to say.
    rate = counted if counted.nominal == nominal else FrameRate(max(nominal, 1))
    teletext = is_teletext(data)
    table = int(data[12:14]) if data[12:14].strip().isdigit() else 0
    rows = int(data[253:255]) if data[253:255].strip().isdigit() else 23
    code = data[14:16].decode("ascii", "replace").strip()
    try:
        language = language_of_code(int(code, 16))
    except ValueError:
        language = None
    digits = data[256:264].decode("ascii", "replace")
    start_ms = 0
    if digits.isdecimal():
        start_ms = _time_of(bytes(int(digits[n : n + 2]) for n in (0, 2, 4, 6)), rate)
    return _Head(rate, table, teletext, max(rows, 1), start_ms, language)


def _time_of(digits: bytes, rate: FrameRate) -> int:
    hour, minute, second, frame = digits
    mark = ";" if rate.counts_drop_frame else ":"
    frame = min(frame, rate.nominal - 1)
    return parse_time(f"{hour}:{min(minute, 59)}:{min(second, 59)}{mark}{frame}", rate)


def _caption(
    blocks: list[bytes], index: int, head: _Head, odd: Callable[[Message], None]
) -> Caption:
    first = blocks[0]
    for name, at in (("in", 5), ("out", 9)):
        if first[at + 1] > 59 or first[at + 2] > 59 or first[at + 3] >= head.rate.nominal:
            odd(
                message(
                    "oddities.stl-no-time", edge=name, time=":".join(map(str, first[at : at + 4]))
                )
            )
    in_ms, out_ms = _time_of(first[5:9], head.rate), _time_of(first[9:13], head.rate)
    field = b"".join(block[16:] for block in blocks)
    spans = read_text_field(field, head.table, teletext=head.teletext)
    lines = "".join(span.text for span in spans).count("\n") + 1
    place = _placement(first[13], first[14], lines, head)
    extras: Extras = (("stl:vp", str(first[13])),)
    if first[4]:
        extras += (("stl:cs", str(first[4])),)
    caption = Caption(numbered(index), in_ms, out_ms, spans, None, place, None, extras)
    return mended_times(caption, odd)


def _placement(row: int, justification: int, lines: int, head: _Head) -> Placement | None:
    """Where rows from `row` on stand. Near the lower edge is where captions usually are; what stands in
    the lower half is placed by its lower edge, so that it stays there in formats without heights."""
    align = _JUSTIFIED.get(justification, "center")
    height = lines * (2 if head.teletext else 1)
    place = Placement(align=align)  # type: ignore[arg-type]
    last = row + height - 1
    if last < head.rows - 2:
        if row + last > head.rows:
            place = replace(place, y=round(last / head.rows, 4))
        else:
            place = replace(place, anchor="top")
            if row > 2:
                place = replace(place, y=round((row - 1) / head.rows, 4))
    return None if place == Placement() else place


def _from_start(
    captions: list[tuple[int, Caption]], head: _Head, oddities: list[Oddity]
) -> list[tuple[int, Caption]]:
    """Captions with times from the start of the programme, which need not be at zero."""
    start = head.start_ms
    if not start or any(caption.in_ms < start for _, caption in captions):
        return captions
    oddities.append(Oddity(1, message("oddities.programme-start", time=timecode(start, head.rate))))
    return [(n, replace(c, in_ms=c.in_ms - start, out_ms=c.out_ms - start)) for n, c in captions]


def write(document: Document, context: Context) -> bytes:
    """:raises FormatError: when a caption ends after 24 hours, which the format cannot count"""
    return written_stl(document, context, teletext=False)


def written_stl(document: Document, context: Context, *, teletext: bool) -> bytes:
    """The file for open subtitling, or for teletext.

    :raises FormatError: when a caption ends after 24 hours, which the format cannot count
    """
    kept = _kept_head(document)
    rate = counted_rate(context.rate)
    asked = asked_head(document)
    table = table_for("".join(caption.text for caption in document.captions))
    base = _read_head(kept, context) if kept else _Head(rate, table, False, 23, 0, None)
    head = replace(base, rate=rate, table=table, teletext=teletext)
    if start := asked.get("programme_start"):
        head = replace(head, start_ms=parse_time(start, rate))
    blocks = [
        block
        for number, caption in enumerate(document.captions, 1)
        for block in _blocks(number, caption, head)
    ]
    return b"".join([_written_head(document, head, len(blocks), kept, asked, context), *blocks])


def asked_head(document: Document) -> dict[str, str]:
    """What somebody wants the file's head to say, by the names of `HEAD_FIELDS`."""
    try:
        found = json.loads(extra(document.extras, "stl:head") or "{}")
    except ValueError:
        return {}
    return {name: str(found[name]) for name in HEAD_FIELDS if found.get(name)}


def with_asked_head(extras: Extras, head: Mapping[str, str]) -> Extras:
    """What is kept of a track, with this as what the file's head is to say."""
    return with_extra(extras, "stl:head", json.dumps(head))


def _kept_head(document: Document) -> bytes | None:
    try:
        kept = base64.b64decode(extra(document.extras, "stl:gsi") or "", validate=True)
    except binascii.Error:
        return None
    return kept if len(kept) == _GSI and _DFC.match(kept[3:11]) else None


def _written_head(
    document: Document,
    head: _Head,
    blocks: int,
    kept: bytes | None,
    asked: Mapping[str, str],
    context: Context,
) -> bytes:
    gsi = bytearray(kept or b" " * _GSI)
    first = document.captions[0].in_ms if document.captions else 0
    code = code_of_language(document.language or "")
    fields = {
        0: b"850", 3: f"STL{head.rate.nominal:02}.01".encode(), 12: f"{head.table:02}".encode(),
        238: f"{min(blocks, 99999):05}".encode(),
        243: f"{min(len(document.captions), 99999):05}".encode(),
        256: _digits(head.start_ms, head.rate).encode(),
        264: _digits(head.start_ms + first, head.rate).encode(),
    }  # fmt: skip
    level = asked.get("teletext_level") or ("2" if kept and kept[11:12] == b"2" else "1")
    fields[11] = level.encode() if head.teletext else b"0"
    if kept is None:
        fields |= {
            248: b"001", 251: b"40", 253: b"23", 255: b"1",
            272: b"1", 273: b"1",
            236: b"00",
            16: context.title.encode("cp850", "replace")[:32].ljust(32),
        }  # fmt: skip
    # What the file it came from said is nearer than nothing.
    if kept is None or code:
        fields[14] = f"{code:02X}".encode()
    for name, (at, length) in _TOLD.items():
        if name in asked:
            fields[at] = asked[name].encode("cp850", "replace")[:length].ljust(length)
    for at, value in fields.items():
        gsi[at : at + len(value)] = value
    return bytes(gsi)


def _digits(ms: int, rate: FrameRate) -> str:
    drop = rate.counts_drop_frame
    return "".join(re.findall(r"\d+", timecode(_on_frame(ms, rate), rate, drop_frame=drop)))[:8]


def _on_frame(ms: int, rate: FrameRate) -> int:
    """A time inside the frame from which on a caption is seen."""
    frame = first_frame_from(ms, rate)
    return (frame * 2 + 1) * 500 * rate.denominator // rate.numerator


def _blocks(number: int, caption: Caption, head: _Head) -> list[bytes]:
    """The text blocks of a caption: one, or more where its text is long."""
    if caption.out_ms + head.start_ms >= 24 * 3_600_000:
        raise FormatError(message("formats.stl-too-late", number=number))
    times = b"".join(
        bytes(int(part) for part in re.findall("..", _digits(time + head.start_ms, head.rate)))
        for time in (caption.in_ms, caption.out_ms)
    )
    fields = text_fields(caption.spans, head.table, teletext=head.teletext)
    cumulative = int(extra(caption.extras, "stl:cs") or 0)
    result = []
    for index, field in enumerate(fields):
        last = index == len(fields) - 1
        block = bytes(
            [0, number & 0xFF, number >> 8 & 0xFF, 0xFF if last else index, cumulative & 0xFF]
        )
        result.append(block + times + _place_bytes(caption, head) + b"\0" + field)
    return result


def _place_bytes(caption: Caption, head: _Head) -> bytes:
    place = caption.placement or Placement()
    lines = caption.text.count("\n") + 1
    code = next(code for code, align in _JUSTIFIED.items() if align == place.align)
    kept = extra(caption.extras, "stl:vp")
    row = int(kept) if kept and kept.isdecimal() else 100
    if row < 100 and _placement(row, code, lines, head) == caption.placement:
        return bytes([row, code])
    height = lines * (2 if head.teletext else 1)
    lowest = max(1, head.rows - height)
    if place.y is not None:
        up = {"top": 0.0, "middle": height / 2, "bottom": float(height)}[place.anchor]
        row = round(place.y * head.rows - up) + 1
    else:
        row = {"top": 1, "middle": (head.rows - height) // 2 + 1, "bottom": lowest}[place.anchor]
    return bytes([min(max(row, 1), lowest), code])
