"""EBU STL, byte by byte as Tech 3264 has it."""

import json

import pytest

from dunlin.core.captions import Caption, Placement, Span, spans_of
from dunlin.core.formats import (
    FORMATS,
    Context,
    Document,
    FormatError,
    losses,
    read_file,
    reduced,
    written,
)
from dunlin.core.timecode import FrameRate

PAL = Context(FrameRate(25))


def gsi(
    *, dsc: bytes = b"1", cct: bytes = b"00", start: bytes = b"00000000", dfc: bytes = b"STL25.01"
) -> bytes:
    head = bytearray(b" " * 1024)
    for at, value in (
        (0, b"850"),
        (3, dfc),
        (11, dsc),
        (12, cct),
        (14, b"09"),
        (253, b"23"),
        (256, start),
    ):
        head[at : at + len(value)] = value
    return bytes(head)


def tti(
    text: bytes, *, number: int = 1, block: int = 0xFF, comment: int = 0, row: int = 20,
    times: bytes = bytes([0, 0, 1, 0, 0, 0, 2, 12]),
) -> bytes:  # fmt: skip
    head = bytes([0, number, 0, block, 0]) + times + bytes([row, 2, comment])
    return head + text.ljust(112, b"\x8f")


def read(data: bytes, context: Context = PAL):
    reading = read_file(data, "a.stl", context)
    return reading.document, [
        message for _, message in ((o.line, str(o.message)) for o in reading.oddities)
    ]


def test_teletext_is_read_with_its_colours_rows_and_heights() -> None:
    text = b"\x0d\x07\x0b\x0bRead the\x03Marigold\x0a\x0a\x8a\x8a\x0d\x0b\x0bnow.\x0a\x0a"
    document, oddities = read(gsi() + tti(text))
    caption = document.captions[0]
    assert oddities == []
    assert (caption.in_ms, caption.out_ms, caption.text) == (1000, 2480, "Read the Marigold\nnow.")
    assert Span("Marigold\n", colour="#FFFF00") in caption.spans
    assert caption.placement is None
    assert document.language == "en"


def test_open_subtitles_are_read_with_italics_and_boxes() -> None:
    document, _ = read(gsi(dsc=b"0") + tti(b"\x80Marigold\x81 \x84boxed\x85", row=1))
    assert document.captions[0].spans == (
        Span("Marigold", italic=True),
        Span(" "),
        Span("boxed", background="#000000"),
    )
    assert document.captions[0].placement == Placement("top")


@pytest.mark.parametrize(
    ("cct", "said"),
    [
        (b"00", "Größe, naïve Çà: ½ £5 $6 “so” œuvre ł"),
        (b"01", "Колокол, 1906"),
        (b"03", "Η καμπάνα"),
        (b"04", "הפעמון"),
    ],
)
def test_every_character_table_is_written_and_read(cct: bytes, said: str) -> None:
    document = Document((Caption("a", 1000, 2000, spans_of(said)),))
    data = written(document, FORMATS["stl"], PAL)
    assert data[12:14] == cct
    assert read(data)[0].captions[0].text == said


def test_what_no_table_has_is_told_and_replaced() -> None:
    document = Document((Caption("a", 1000, 2000, spans_of("The 鐘 rang")),))
    assert [(loss.what, loss.done) for loss in losses(document, FORMATS["stl"], PAL.rate)] == [
        ("characters", "replace")
    ]
    assert read(written(document, FORMATS["stl"], PAL))[0].captions[0].text == "The ? rang"


def test_a_programme_that_starts_at_ten_comes_back_there() -> None:
    times = bytes([10, 0, 1, 0, 10, 0, 2, 0])
    data = gsi(start=b"10000000") + tti(b"Hark", times=times)
    document, oddities = read(data)
    assert (document.captions[0].in_ms, document.captions[0].out_ms) == (1000, 2000)
    assert oddities == ["the programme starts at 10:00:00:00; times are counted from there"]
    again = written(document, FORMATS["stl"], PAL)
    assert again[1024 + 5 : 1024 + 13] == times
    assert again[256:264] == b"10000000"


def test_long_text_goes_over_several_blocks() -> None:
    said = "\n".join(["It was cast in one evening, in this harbour"] * 4)
    data = written(Document((Caption("a", 0, 5000, spans_of(said)),)), FORMATS["stl"], PAL)
    assert len(data) == 1024 + 2 * 128
    assert [data[1024 + n * 128 + 3] for n in (0, 1)] == [0, 0xFF]
    assert read(data)[0].captions[0].text == said


def test_comments_broken_ends_and_impossible_times_are_told() -> None:
    data = (
        gsi() + tti(b"a note", comment=1) + tti(b"one", times=bytes([0, 0, 1, 40, 0, 0, 2, 0]))
        + tti(b"two", number=2, block=0, times=bytes([0, 0, 3, 0, 0, 0, 4, 0])) + b"rest"
    )  # fmt: skip
    document, oddities = read(data)
    assert [caption.text for caption in document.captions] == ["one", "two"]
    assert oddities[0] == "1 comment block left out"
    assert "its in is not a valid time: 0:0:1:40; changed to one" in oddities
    assert "the last subtitle has no last block" in oddities
    assert "the last 4 bytes are not a whole block; left out" in oddities


def test_drop_frame_times_keep_up_with_the_clock() -> None:
    context = Context(FrameRate(30000, 1001))
    document = Document((Caption("a", 3_600_000, 3_601_001, spans_of("Hark")),))
    data = written(document, FORMATS["stl"], context)
    assert data[3:11] == b"STL30.01"
    assert data[1024 + 5 : 1024 + 9] == bytes([1, 0, 0, 1])
    assert abs(read(data, context)[0].captions[0].in_ms - 3_600_000) < 34


def test_more_than_a_day_is_refused() -> None:
    document = Document((Caption("a", 86_400_000, 86_401_000, spans_of("late")),))
    with pytest.raises(FormatError, match="24 hours"):
        written(document, FORMATS["stl"], PAL)


@pytest.mark.parametrize(
    ("tag", "code"), [("sk", b"25"), ("he", b"6C"), ("uk", b"49"), ("nb", b"1E"), ("tlh", b"00")]
)
def test_languages_have_the_codes_of_the_standard(tag: str, code: bytes) -> None:
    data = written(Document((), tag), FORMATS["stl"], PAL)
    assert data[14:16] == code
    assert read(data)[0].language == {"nb": "no", "tlh": None}.get(tag, tag)


def test_what_the_latin_table_lacks_is_written_otherwise_and_said() -> None:
    document = Document((Caption("a", 1000, 2000, spans_of("Well… 5–6 € — so")),))
    assert [(loss.what, loss.done) for loss in losses(document, FORMATS["stl"], PAL.rate)] == [
        ("spellings", "spell")
    ]
    again = read(written(document, FORMATS["stl"], PAL))[0]
    assert again.captions[0].text == "Well... 5-6 EUR — so"


def test_a_film_at_another_rate_is_counted_in_25_and_told() -> None:
    film = FrameRate(24000, 1001)
    document = Document((Caption("a", 1001, 2002, spans_of("Hark")),))
    data = written(document, FORMATS["stl"], Context(film))
    assert data[3:11] == b"STL25.01"
    assert [loss.what for loss in losses(document, FORMATS["stl"], film)] == ["milliseconds"]
    assert abs(read(data, Context(film))[0].captions[0].in_ms - 1001) <= 40


def test_rows_near_the_bottom_stay_there_in_formats_without_heights() -> None:
    for row, place in ((2, b"{\\an8}"), (14, b""), (20, b"")):
        document, _ = read(gsi() + tti(b"Hark", row=row))
        reduced_ = reduced(document, FORMATS["srt"], PAL.rate)
        text = written(reduced_, FORMATS["srt"], PAL)
        assert (b"{" in text) is bool(place), row
        stl = written(document, FORMATS["stl-teletext"], PAL)
        assert stl[1024 + 13] == row


def test_colours_are_teletext_s_and_italics_open_subtitling_s() -> None:
    spans = (Span("Read "), Span("it", italic=True, colour="#FFFF00"))
    document = Document((Caption("a", 1000, 2000, spans),))
    for name, dsc, lost in (("stl", b"0", "colours"), ("stl-teletext", b"1", "italic")):
        data = written(reduced(document, FORMATS[name], PAL.rate), FORMATS[name], PAL)
        assert data[11:12] == dsc
        assert [loss.what for loss in losses(document, FORMATS[name], PAL.rate)] == [lost]
        span = read(data)[0].captions[0].spans[-1]
        assert (span.italic, span.colour) == ((True, None) if dsc == b"0" else (False, "#FFFF00"))


def test_the_head_says_what_was_asked_for() -> None:
    asked = {
        "title": "The Fog Bell", "country": "TRN", "publisher": "Ternholm", "created": "260301",
        "programme_start": "10:00:00:00", "teletext_level": "2",
    }  # fmt: skip
    document = Document(
        (Caption("a", 1000, 2000, spans_of("Hark")),), "en", (("stl:head", json.dumps(asked)),)
    )
    data = written(document, FORMATS["stl-teletext"], PAL)
    assert data[11:12] == b"2"
    assert data[16:48].rstrip() == b"The Fog Bell"
    assert data[224:230] == b"260301"
    assert data[274:277] == b"TRN"
    assert data[277:309].rstrip() == b"Ternholm"
    assert data[256:264] == b"10000000"
    assert data[1024 + 5 : 1024 + 9] == bytes([10, 0, 1, 0])
    assert read(data)[0].captions[0].in_ms == 1000
