"""SCC: line 21 captions (CEA-608) as words of two bytes, one a frame, behind the timecode of the first."""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from itertools import groupby

from dunlin.core.captions.model import Caption, Placement, Span, joined
from dunlin.core.formats.cea608 import (
    COLUMNS,
    CONTROL,
    HELD,
    PALETTE,
    ROWS,
    SPELLED,
    Style,
    address_code,
    basic_character,
    character_codes,
    mid_row_code,
    read_address,
    read_character,
    read_mid_row,
    tab_code,
    with_parity,
    word_style,
)
from dunlin.core.formats.cues import numbered
from dunlin.core.formats.encoding import decoded
from dunlin.core.formats.model import Context, Document, FormatError, Holds, Oddity
from dunlin.core.messages import BadInput, message
from dunlin.core.timecode import (
    FrameRate,
    first_frame_from,
    frame_at,
    parse_time,
    start_of_frame,
    timecode,
)

__all__ = ["ENDINGS", "HOLDS", "NAME", "TITLE", "read", "recognises", "write"]

NAME, TITLE, ENDINGS = "scc", "SCC (CEA-608)", (".scc",)

_HEAD = "Scenarist_SCC V1.0"
"""What every file of the format begins with."""
_LINE = re.compile(r"(\d{1,3}:\d{2}:\d{2}[:;.]\d{2})\s+((?:[0-9A-Fa-f]{4}\s*)+)")
_PLAIN: Style = (0, False, False)
_HOUR_MS = 3_600_000


def counted_rate(rate: FrameRate) -> FrameRate:
    """The rate that words are sent at: a film's own where it has 30 or 29.97 frames a second, else 29.97."""
    return rate if rate.nominal == 30 else FrameRate(30000, 1001)


def _lost(document: Document) -> frozenset[str]:
    return _used(document) - HELD - SPELLED.keys()


def _spelled(document: Document) -> dict[str, str]:
    return {c: SPELLED[c] for c in _used(document) & SPELLED.keys()}


def _used(document: Document) -> frozenset[str]:
    return frozenset().union(*(caption.text for caption in document.captions))


# Fitting: lines of 32, up to 15 of them, styles that begin with a word, and time to be sent.


def fitted(captions: Sequence[Caption], rate: FrameRate) -> tuple[Caption, ...]:
    """Captions as they can be sent: wrapped to the grid, in styles that begin with a word, and as early as the words of two
    bytes get through, one a frame."""
    on_grid = [found for caption in captions if (found := _on_grid(caption))]
    counted = counted_rate(rate)
    sent = list(_schedule(on_grid, counted))
    return tuple(
        caption
        if (sending.first, sending.end) == _frames(caption, counted)
        else replace(
            caption,
            in_ms=start_of_frame(sending.first, counted),
            out_ms=start_of_frame(sending.end, counted),
        )
        for caption, sending in zip(on_grid, sent, strict=True)
    )


def _on_grid(caption: Caption) -> Caption | None:
    """A caption with lines that fit; None where it says nothing."""
    rows = [row for line in _styled_lines(caption) for row in _wrapped(line)][:ROWS]
    if not rows:
        return None
    spans = _spans_of(rows)
    return replace(caption, spans=spans, placement=_plain_place(caption.placement, rows))


Cell = tuple[str, Style]
"""A word and its style."""


def _styled_lines(caption: Caption) -> Iterator[list[Cell]]:
    """Words of each line with the style of their first letter."""
    letters = [
        (letter, word_style(span.colour, span.italic, span.underline))
        for span in caption.spans
        for letter in span.text
    ]
    for is_break, line in groupby(letters, lambda cell: cell[0] == "\n"):
        if not is_break:
            words = groupby(line, lambda cell: cell[0].isspace())
            found = [list(word) for is_space, word in words if not is_space]
            yield [("".join(letter for letter, _ in word), word[0][1]) for word in found]


def _wrapped(line: Sequence[Cell]) -> Iterator[list[Cell]]:
    """A line in rows that are not too long; a word that is gets a row for each part."""
    row: list[Cell] = []
    width = 0
    for text, style in line:
        for at in range(0, len(text), COLUMNS):
            part = text[at : at + COLUMNS]
            if row and width + 1 + len(part) > COLUMNS:
                yield row
                row, width = [], 0
            width += len(part) + bool(row)
            row.append((part, style))
    if row:
        yield row


def _spans_of(rows: Sequence[Sequence[Cell]]) -> tuple[Span, ...]:
    """Rows as styled text; what parts two words has their style where it is one."""
    spans: list[Span] = []
    before: Style | None = None
    for number, row in enumerate(rows):
        for place, (text, style) in enumerate(row):
            if before is not None:
                between = "\n" if place == 0 and number else " "
                spans.append(_span(between, style if style == before else _PLAIN))
            spans.append(_span(text, style))
            before = style
    return joined(spans)


def _span(text: str, style: Style) -> Span:
    colour, italic, underline = style
    return Span(
        text, italic=italic, underline=underline, colour=PALETTE[colour] if colour else None
    )


def _width(row: Sequence[Cell]) -> int:
    return sum(len(text) for text, _ in row) + len(row) - 1


def _column(row: Sequence[Cell], align: str) -> int:
    room = COLUMNS - _width(row)
    return {"left": 0, "right": room}.get(align, room // 2)


def _first_row(count: int, anchor: str) -> int:
    return {"top": 1, "middle": (ROWS - count) // 2 + 1}.get(anchor, ROWS + 1 - count)


def _plain_place(place: Placement | None, rows: Sequence[Sequence[Cell]]) -> Placement | None:
    """A place as far as it makes a difference: lines that fill a row are not at one of its sides."""
    if place is None:
        return None
    align, anchor = place.align, place.anchor
    if all(_column(row, align) == _column(row, "center") for row in rows):
        align = "center"
    count = len(rows)
    for other in ("bottom", "top"):
        if _first_row(count, anchor) == _first_row(count, other):
            anchor = other
            break
    found = Placement(anchor=anchor, align=align)
    return None if found == Placement() else found


# Writing.


@dataclass(frozen=True)
class _Sending:
    """A caption on its way: the frames it is on, and the frame of each word, of its loading and of its ends."""

    first: int
    end: int
    words: tuple[tuple[int, int], ...]


def _frames(caption: Caption, rate: FrameRate) -> tuple[int, int]:
    return first_frame_from(caption.in_ms, rate), first_frame_from(caption.out_ms, rate)


def _schedule(captions: Sequence[Caption], rate: FrameRate) -> Iterator[_Sending]:
    """When words are sent. A caption is loaded while the one before it is shown, and shown at once by a code, sent twice as
    all codes are; where it cannot be loaded in time it comes as soon as it is."""
    free_from = 0
    shown: _Sending | None = None
    for caption in captions:
        wanted, end = _frames(caption, rate)
        load = _load(caption)
        erased = (shown.end, shown.end + 1) if shown else ()
        first = _earliest(wanted, len(load), free_from, erased)
        if shown:
            # What is shown is taken away at its end, while the next is being loaded; or the next takes its place.
            is_erased = first - shown.end >= 2
            erased = erased if is_erased else ()
            words = (*shown.words, *_at(erased, "erase-displayed"))
            yield replace(shown, end=shown.end if is_erased else first, words=words)
        words = (
            *_around(load, free_from, first, erased),
            *_at((first, first + 1), "end-of-caption"),
        )
        free_from = first + 2
        shown = _Sending(first, max(end, free_from), words)
    if shown:
        last = _at((shown.end, shown.end + 1), "erase-displayed")
        yield replace(shown, words=(*shown.words, *last))


def _around(
    load: Sequence[int], free_from: int, first: int, erased: Sequence[int]
) -> list[tuple[int, int]]:
    """Words in the last frames before one, around those in which what is shown is taken away; a code and its repetition stay
    together, or they would be two."""
    taken = set(erased)
    while True:
        begins = max(free_from, first - len(load) - len(taken))
        slots = [slot for slot in range(begins, first) if slot not in taken][-len(load) :]
        before = sum(slot < erased[0] for slot in slots) if erased else 0
        run = 0
        while run < before and load[before - 1 - run] == load[before - 1]:
            run += 1
        is_parted = 0 < before < len(load) and load[before] == load[before - 1] and run % 2
        if not (is_parted and load[before] >> 12 == 1):
            return list(zip(slots, load, strict=True))
        taken.add(erased[-1] + 1)


def _at(frames: Iterable[int], code: str) -> list[tuple[int, int]]:
    return [(frame, CONTROL[code]) for frame in frames]


def _earliest(wanted: int, count: int, free_from: int, erased: Sequence[int]) -> int:
    """The first frame from a wanted one on before which so many words get through."""
    first = max(wanted, free_from + count)
    while True:
        within = [slot for slot in erased if free_from <= slot < first]
        # One more, so that no code is parted from its repetition.
        taken = len(within) + 1 if within and first - erased[0] >= 2 else 0
        if first - free_from - taken >= count:
            return first
        first += 1


def _load(caption: Caption) -> list[int]:
    """The words that load a caption."""
    rows = [row for line in _styled_lines(caption) for row in _wrapped(line)][:ROWS]
    place = caption.placement or Placement()
    words = [CONTROL["resume-loading"]] * 2 + [CONTROL["erase-loaded"]] * 2
    top = _first_row(len(rows), place.anchor)
    for number, row in enumerate(rows):
        words += _row_words(row, top + number, _column(row, place.align))
    return words


def _row_words(row: Sequence[Cell], number: int, column: int) -> list[int]:
    style = row[0][1]
    if column == 0:
        codes = [address_code(number, style=style)] * 2
    else:
        # A style begins in the place of the space before the words.
        at = column - (style != _PLAIN)
        codes = [address_code(number, indent=at // 4 * 4)] * 2
        codes += [tab_code(at % 4)] * 2 if at % 4 else []
        codes += [mid_row_code(style)] * 2 if style != _PLAIN else []
    pieces: list[int] = []
    for place, (text, own) in enumerate(row):
        if place:
            pieces += [mid_row_code(own)] if own != style else character_codes(" ")
        style = own
        for letter in text:
            pieces += character_codes(letter)
    return codes + list(_paired(pieces))


def _paired(pieces: Iterable[int]) -> Iterator[int]:
    """Characters two in a word; codes of two bytes have a word each, and are sent twice but for characters."""
    waiting: int | None = None
    for piece in pieces:
        if piece & 0xFF == 0:
            if waiting is None:
                waiting = piece
            else:
                yield waiting | piece >> 8
                waiting = None
            continue
        if waiting is not None:
            yield waiting
            waiting = None
        yield piece
        yield piece
    if waiting is not None:
        yield waiting


def write(document: Document, context: Context) -> bytes:
    """:raises FormatError: when a caption ends after the hours that a timecode counts"""
    rate = counted_rate(context.rate)
    drop = rate.counts_drop_frame
    begins = frame_at(parse_time(_counted(context.starts_at, rate), rate), rate)
    words = sorted(word for sending in _schedule(document.captions, rate) for word in sending.words)
    lines = [_HEAD, ""]
    for _, group in groupby(enumerate(words), lambda entry: entry[1][0] - entry[0]):
        sent = [word for _, word in group]
        at = start_of_frame(begins + sent[0][0], rate)
        told = " ".join(f"{with_parity(w >> 8):02x}{with_parity(w & 0xFF):02x}" for _, w in sent)
        lines += [f"{timecode(at, rate, drop_frame=drop)}\t{told}", ""]
    return "\n".join(lines).encode() + b"\n"


def _counted(text: str, rate: FrameRate) -> str:
    """A timecode of another rate, as far as it has whole seconds."""
    return text if int(text[-2:]) < rate.nominal else f"{text[:-2]}00"


# Reading.


def recognises(data: bytes, text: str) -> bool:
    return text.lstrip("\ufeff \r\n\t").startswith(_HEAD.split()[0])


def read(data: bytes, context: Context) -> tuple[Document, list[Oddity]]:
    """Captions of the first channel, whether they pop on, roll up or are painted on."""
    text, oddities = decoded(data, context)
    rate = counted_rate(context.rate)
    screen = _Screen()
    others = 0
    for number, line in enumerate(text.split("\n"), 1):
        stripped = line.strip()
        if not stripped or stripped.startswith(_HEAD.split()[0]):
            continue
        found = _LINE.fullmatch(stripped)
        if found is None:
            oddities.append(Oddity(number, message("oddities.no-time", text=stripped[:60])))
            continue
        try:
            frame = frame_at(parse_time(re.sub(r"[.](\d+)$", r";\1", found[1]), rate), rate)
        except BadInput as error:
            oddities.append(Oddity(number, message("oddities.left-out", reason=error.message)))
            continue
        for offset, word in enumerate(found[2].split()):
            code = int(word, 16) & 0x7F7F
            others += not screen.take(code, frame + offset, number)
    captions = screen.captions(rate)
    if not captions and not text.lstrip("\ufeff").startswith(_HEAD.split()[0]):
        raise FormatError(message("formats.no-scc"), 1)
    if others:
        oddities.append(Oddity(1, message("oddities.other-channel", count=others)))
    if (
        captions
        and captions[0].in_ms >= _HOUR_MS - 60_000
        and context.starts_at == Context().starts_at
    ):
        # Programmes begin on the hour; what is a little before it is their first.
        hour = (captions[0].in_ms + 60_000) // _HOUR_MS
        start = f"{hour:02}:00:00{';' if rate.counts_drop_frame else ':'}00"
        begins = parse_time(start, rate)
        oddities.append(Oddity(1, message("oddities.programme-start", time=start)))
        captions = [
            replace(c, in_ms=max(c.in_ms - begins, 0), out_ms=max(c.out_ms - begins, 1))
            for c in captions
        ]
    return Document(tuple(captions)), oddities


@dataclass
class _Shown:
    first: int
    end: int | None
    rows: dict[int, dict[int, Cell]]


@dataclass
class _Screen:
    """A decoder: what is loaded, what is shown, and what was."""

    mode: str = "none"
    row: int = ROWS
    column: int = 0
    style: Style = _PLAIN
    loaded: dict[int, dict[int, Cell]] = field(default_factory=dict)
    shown: list[_Shown] = field(default_factory=list)
    last: int | None = None
    channel: int = 1

    def take(self, code: int, frame: int, line: int) -> bool:
        """Takes a word in; False of what is for another channel."""
        lead = code >> 8
        if code == 0:
            return True
        if 0x10 <= lead <= 0x1F:
            # Codes are sent twice, so that one gets through.
            again, self.last = code == self.last, None if code == self.last else code
            self.channel = 2 if lead >= 0x18 else 1
            if self.channel == 1 and not again:
                self._code(code, frame)
            return self.channel == 1
        self.last = None
        if self.channel != 1:
            return False
        for byte in (lead, code & 0xFF):
            if byte >= 0x20:
                self._put(basic_character(byte), frame)
        return True

    def _code(self, code: int, frame: int) -> None:
        if (found := read_character(code)) is not None:
            character, replaces = found
            if replaces:
                self._back()
            self._put(character, frame)
        elif (style := read_mid_row(code)) is not None:
            self.style = style
            self._put(" ", frame)
        elif code >> 8 == 0x17 and 0x21 <= code & 0xFF <= 0x23:
            self.column = min(self.column + (code & 3), COLUMNS - 1)
        elif (address := read_address(code)) is not None:
            row, self.column, self.style = address
            self.row = ROWS if self.mode.startswith("roll") else row
        else:
            # The second field has its codes one higher.
            self._control(code & ~0x0100 if code >> 8 == 0x15 else code, frame)

    def _control(self, code: int, frame: int) -> None:
        if code == CONTROL["resume-loading"]:
            self.mode = "pop"
        elif code == CONTROL["erase-loaded"]:
            self.loaded = {}
        elif code == CONTROL["end-of-caption"]:
            self._end(frame)
            if self.loaded:
                self.shown.append(_Shown(frame, None, self.loaded))
            self.loaded, self.mode = {}, "pop"
        elif code == CONTROL["erase-displayed"]:
            self._end(frame)
        elif code == CONTROL["resume-direct"]:
            self.mode = "paint"
        elif CONTROL["roll-up-2"] <= code <= CONTROL["roll-up-4"]:
            self.mode, self.row, self.column, self.style = "roll", ROWS, 0, _PLAIN
        elif code == CONTROL["return"] and self.mode == "roll":
            self._end(frame)
            self.column, self.style = 0, _PLAIN
        elif code == CONTROL["backspace"]:
            self._back()
        elif code == CONTROL["delete-to-end"]:
            row = self._rows().get(self.row, {})
            for column in [column for column in row if column >= self.column]:
                del row[column]
        elif code in (CONTROL["text-restart"], CONTROL["text-resume"]):
            self.mode = "none"

    def _rows(self) -> dict[int, dict[int, Cell]]:
        """Where characters go: what is loaded or, as they are seen at once, what is shown."""
        if self.mode in ("pop", "none") or not self.shown or self.shown[-1].end is not None:
            return self.loaded
        return self.shown[-1].rows

    def _put(self, character: str, frame: int) -> None:
        if self.mode == "none":
            return
        if self.mode in ("roll", "paint") and (not self.shown or self.shown[-1].end is not None):
            if not character.strip():
                return
            self.shown.append(_Shown(frame, None, {}))
        # What goes beyond the last column is written over it; behind it the next is written.
        self._rows().setdefault(self.row, {})[min(self.column, COLUMNS - 1)] = (
            character,
            self.style,
        )
        self.column = min(self.column + 1, COLUMNS)

    def _back(self) -> None:
        self.column = max(self.column - 1, 0)
        self._rows().get(self.row, {}).pop(self.column, None)

    def _end(self, frame: int) -> None:
        if self.shown and self.shown[-1].end is None:
            self.shown[-1].end = frame

    def captions(self, rate: FrameRate) -> list[Caption]:
        """What was shown; what nothing takes away stays for a few seconds."""
        made: list[Caption] = []
        for shown in self.shown:
            rows = {number: cells for number, cells in sorted(shown.rows.items()) if _words(cells)}
            if not rows:
                continue
            end = shown.first + rate.nominal * _LAST_SECONDS if shown.end is None else shown.end
            words = [_words(cells) for cells in rows.values()]
            made.append(
                Caption(
                    numbered(len(made)), start_of_frame(shown.first, rate),
                    start_of_frame(max(end, shown.first + 1), rate), _spans_of(words),
                    placement=_place(rows),
                )
            )  # fmt: skip
        return made


_LAST_SECONDS = 4


def _words(cells: dict[int, Cell]) -> list[Cell]:
    """The words of a row, with the style each begins in."""
    words: list[Cell] = []
    before = -2
    for column, (character, style) in sorted(cells.items()):
        if not character.strip():
            continue
        if before == column - 1 and words:
            words[-1] = (words[-1][0] + character, words[-1][1])
        else:
            words.append((character, style))
        before = column
    return words


def _place(rows: dict[int, dict[int, Cell]]) -> Placement | None:
    """Where rows stand, as one of nine places."""
    numbers, words = list(rows), [_words(cells) for cells in rows.values()]
    columns = [min(c for c, (text, _) in cells.items() if text.strip()) for cells in rows.values()]
    count, first, last = len(numbers), numbers[0], numbers[-1]
    if last == ROWS:
        anchor = "bottom"
    elif first == 1:
        anchor = "top"
    elif first == _first_row(count, "middle"):
        anchor = "middle"
    else:
        anchor = "bottom" if first > ROWS * 2 // 3 else "top" if last <= ROWS // 3 else "middle"

    def off(align: str) -> int:
        return sum(
            abs(column - _column(row, align)) for column, row in zip(columns, words, strict=True)
        )

    align = min(("center", "left", "right"), key=off)
    found = Placement(anchor=anchor, align=align)  # type: ignore[arg-type]
    return None if found == Placement() else found


HOLDS = Holds(
    frozenset({"italic", "underline", "colours", "alignment", "lines"}),
    precision="frames",
    frame_rate=counted_rate,
    palette=PALETTE,
    lost_characters=_lost,
    spelled_characters=_spelled,
    fitted=fitted,
)
