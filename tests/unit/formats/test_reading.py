"""Reading anything, writing exactly, and an outside judge for both."""

import subprocess
from pathlib import Path

import imageio_ffmpeg
import pytest
from hypothesis import given, settings

from dunlin.core.captions import Caption, Placement, Span, Track, spans_of
from dunlin.core.formats import (
    FORMATS,
    Context,
    Document,
    FormatError,
    format_called,
    format_of_ending,
    losses,
    read_file,
    reduced,
    written,
)
from dunlin.core.formats.letters import latin_page
from dunlin.core.timecode import FrameRate
from tests.strategies import tracks

CONTEXT = Context()
RATE = FrameRate(25)


def read(name: str, text: str | bytes):
    data = text if isinstance(text, bytes) else text.encode()
    document, oddities = format_called(name).read(data, CONTEXT)
    return document.captions, [(oddity.line, str(oddity.message)) for oddity in oddities]


def plain(captions) -> list[tuple[int, int, str]]:
    return [(c.in_ms, c.out_ms, c.text) for c in captions]


ODD_SRT = """\
1
00:00:01,000 --> 00:00:02,500
First <i>leaning

1
0:00:03.5 -> 0:00:04,25
No blank line after
7
00:00:06,000 --> 00:00:05,000
{\\an8}Ends before it starts

00:00:08,000 --> 00:00:08,000 X1:10
Zero long</b>

9
00:00:07,000 --> 00:00:07,500
Out of order
and two lines
"""


def test_odd_srt_is_read_whole_and_every_oddity_is_told() -> None:
    captions, oddities = read("srt", ODD_SRT)
    assert plain(captions) == [
        (1000, 2500, "First leaning"),
        (3500, 4250, "No blank line after"),
        (5000, 6000, "Ends before it starts"),
        (7000, 7500, "Out of order\nand two lines"),
        (8000, 8001, "Zero long"),
    ]
    assert captions[0].spans == (Span("First "), Span("leaning", italic=True))
    assert captions[2].placement == Placement("top", "center")
    assert oddities == [
        (2, "<i> is not closed; taken to end with the caption"),
        (6, "number 1 is used twice"),
        (6, "no blank line after it"),
        (6, "the arrow between its times is not -->"),
        (6, "its times have dots for commas"),
        (9, "ends before it starts; in and out swapped"),
        (12, "has no number"),
        (12, "</b> closes nothing; left out"),
        (12, "text after the times left out: X1:10"),
        (12, "has no duration; given one millisecond"),
        (16, "starts before the one before it; sorted by time"),
    ]


ODD_VTT = """\
WEBVTT - a title

STYLE
::cue { color: red }

NOTE said once
over two lines

intro
00:01.000 --> 00:02.500 align:start
<v Ilse Varga>Fish &amp; <c.loud>chips</c> <00:02.000><b>now</b>

00:00:03.000 --> 00:00:04.000
second
"""


def test_webvtt_is_read_with_its_voices_and_entities() -> None:
    captions, oddities = read("webvtt", ODD_VTT)
    assert plain(captions) == [(1000, 2500, "Fish & chips now"), (3000, 4000, "second")]
    assert captions[0].speaker == "Ilse Varga"
    assert captions[0].spans == (
        Span("Fish & "),
        Span("chips", extras=(("webvtt:class", "loud"),)),
        Span(" "),
        Span("now", bold=True, extras=(("webvtt:time", "00:02.000"),)),
    )
    assert captions[0].placement == Placement(align="left")
    assert oddities == []


def test_what_only_webvtt_knows_comes_back_as_it_was() -> None:
    module = format_called("webvtt")
    document, _ = module.read(ODD_VTT.encode(), CONTEXT)
    assert module.write(document, CONTEXT).decode() == ODD_VTT.replace(
        "00:01.000 --> 00:02.500", "00:00:01.000 --> 00:00:02.500"
    ).replace("said once\nover two lines\n\nintro", "said once\nover two lines\n\nintro")


@pytest.mark.parametrize(
    ("encoding", "note"),
    [("utf-8", None), ("utf-8-sig", None), ("utf-16", None), ("utf-16-le", "utf-16-le"),
     ("utf-16-be", "utf-16-be"), ("cp1252", "not UTF-8")],
)  # fmt: skip
def test_text_is_read_in_the_encoding_it_was_written_in(encoding: str, note: str | None) -> None:
    said = "Über Größe, Ängste und schöne Grüße aus Österreich, sagte die Bürgermeisterin."
    captions, oddities = read("srt", f"1\n00:00:01,000 --> 00:00:02,000\n{said}\n".encode(encoding))
    assert plain(captions) == [(1000, 2000, said)]
    assert [note in message for _, message in oddities] == ([True] if note else [])


@pytest.mark.parametrize(
    ("page", "said"),
    [
        ("cp1252", "Un café, s'il vous plaît"), ("cp1252", "Mañana será otro día"),
        ("cp1252", "Grüße"), ("cp1252", "På en ø i Østersøen"), ("cp1250", "Příliš žluťoučký kůň"),
        ("cp1250", "Zażółć gęślą jaźń"), ("cp1250", "Árvíztűrő tükörfúrógép"),
        ("cp1257", "Šį rytą ūkanota"),
    ],
)  # fmt: skip
def test_a_few_letters_tell_the_code_page(page: str, said: str) -> None:
    data = f"1\n00:00:01,000 --> 00:00:02,000\n{said}\n".encode(page)
    captions, _ = read("srt", data)
    assert plain(captions) == [(1000, 2000, said)]


def test_the_tracks_language_decides_where_letters_leave_it_open() -> None:
    # The same bytes are Danish in one page and nothing in the other.
    data = "é".encode("cp1252")
    assert latin_page(data) == "cp1252"
    assert latin_page(data, "cs") == "cp1250"


@pytest.mark.parametrize("ends", ["\r\n", "\r"])
def test_line_ends_of_any_kind_are_read(ends: str) -> None:
    captions, _ = read("srt", "1\n00:00:01,000 --> 00:00:02,000\na\nb\n".replace("\n", ends))
    assert plain(captions) == [(1000, 2000, "a\nb")]


def test_mixed_line_ends_are_told() -> None:
    _, oddities = read("srt", "1\r\n00:00:01,000 --> 00:00:02,000\na\n")
    assert oddities == [(1, "mixed line ends; all read as line ends")]


def test_hours_past_ninety_nine_stay() -> None:
    captions, _ = read("srt", "1\n100:00:00,000 --> 100:00:01,000\nlate\n")
    assert plain(captions) == [(360_000_000, 360_001_000, "late")]


def test_a_negative_time_starts_at_zero() -> None:
    captions, oddities = read("srt", "1\n-00:00:01,000 --> 00:00:01,000\nearly\n")
    assert plain(captions) == [(0, 1000, "early")]
    assert oddities == [(2, "starts before the film; set to start at zero")]


def test_a_line_without_end_takes_no_time() -> None:
    data = "1\n00:00:01,000 --> 00:00:02,000\n" + "x" * 5_000_000 + "-->" * 100_000
    captions, _ = read("srt", data)
    assert len(captions) == 1


@pytest.mark.parametrize("name", ["srt", "webvtt", "ass", "imsc", "stl", "lrc", "csv", "json"])
@pytest.mark.parametrize("data", [b"", b"   \n", b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR", b"hello"])
def test_what_is_no_caption_file_is_refused(name: str, data: bytes) -> None:
    with pytest.raises(FormatError):
        format_called(name).read(data, CONTEXT)


@pytest.mark.parametrize(
    ("text", "place"),
    [
        ('{"dunlin": "captions", "version": 2, "captions": []}', "version"),
        ('{"dunlin": "captions", "version": 1, "captions": [{"id": "a"}]}', "captions.0.in_ms"),
        (
            '{"dunlin": "captions", "version": 1, "captions": [{"id": "a", "in_ms": 5, "out_ms": 5}]}',
            "a ends",
        ),
    ],
)
def test_json_that_is_not_as_it_should_be_says_where(text: str, place: str) -> None:
    with pytest.raises(FormatError, match=place):
        read("json", text)


def test_a_format_is_told_by_its_ending() -> None:
    assert format_of_ending("a/B.SRT").NAME == "srt"
    assert format_of_ending("b.vtt").NAME == "webvtt"
    with pytest.raises(FormatError, match=r"known: \.srt"):
        format_of_ending("b.doc")


def test_losses_name_what_a_format_cannot_hold() -> None:
    document = Document(
        (
            Caption("a", 0, 1001, (Span("x", colour="#FF0101"),), "Ilse"),
            Caption("b", 1000, 2000, spans_of("two\nlines"), None, Placement(y=0.3)),
        )
    )
    found = {
        name: {loss.what: (loss.captions, loss.done) for loss in losses(document, module, RATE)}
        for name, module in FORMATS.items()
    }
    assert found["json"] == {}
    assert found["webvtt"] == {}
    assert found["srt"] == {"speakers": (("a",), "drop"), "heights": (("b",), "drop")}
    assert found["stl-teletext"]["exact-colours"] == (("a",), "nearest")
    assert found["stl"]["colours"] == (("a",), "drop")
    assert found["stl"]["milliseconds"] == (("a",), "round")
    assert found["lrc"]["overlap"] == (("a", "b"), "flatten")
    assert found["lrc"]["lines"] == (("b",), "join")


def ffmpeg(source: Path, target: Path) -> None:
    command = [imageio_ffmpeg.get_ffmpeg_exe(), "-v", "error", "-y", "-i", str(source), str(target)]
    assert subprocess.run(command, capture_output=True, check=True).stderr == b""


SAMPLE = Document(
    (
        Caption("c1", 1000, 2500, (Span("Read the "), Span("Marigold", italic=True))),
        Caption("c2", 2600, 4000, spans_of("two lines\nfor <two> & more")),
        Caption("c3", 360_000, 361_040, (Span("loud", bold=True),)),
    )
)


@pytest.mark.parametrize(
    ("written", "judged"),
    [("srt", "webvtt"), ("webvtt", "srt"), ("ass", "srt"), ("srt", "ass")],
)
def test_ffmpeg_reads_what_is_written_and_writes_what_is_read(
    tmp_path: Path, written, judged
) -> None:
    module, other = format_called(written), format_called(judged)
    source, target = tmp_path / f"a{module.ENDINGS[0]}", tmp_path / f"b{other.ENDINGS[0]}"
    sample = reduced(SAMPLE, module, RATE)
    source.write_bytes(module.write(sample, CONTEXT))
    ffmpeg(source, target)
    captions, oddities = other.read(target.read_bytes(), CONTEXT)
    assert oddities == []
    assert plain(captions.captions)[0::2] == plain(sample.captions)[0::2]
    assert captions.captions[0].spans == sample.captions[0].spans


def test_ffmpeg_and_lrc_agree_on_when_lines_begin(tmp_path: Path) -> None:
    ours, srt, theirs = tmp_path / "a.lrc", tmp_path / "b.srt", tmp_path / "c.lrc"
    module = format_called("lrc")
    # A tag in plain words, which the other two would take for one, is left to the tests above.
    sample = reduced(Document((SAMPLE.captions[0], SAMPLE.captions[2])), module, RATE)
    ours.write_bytes(module.write(sample, CONTEXT))
    ffmpeg(ours, srt)
    ffmpeg(srt, theirs)
    wanted = [(caption.in_ms, caption.text) for caption in sample.captions]
    for name, path in (("srt", srt), ("lrc", theirs)):
        captions = format_called(name).read(path.read_bytes(), CONTEXT)[0].captions
        assert [(c.in_ms, c.text) for c in captions if c.text.strip()] == wanted


@settings(max_examples=20)
@given(tracks())
def test_webvtt_is_what_the_standard_says(track: Track) -> None:
    blocks = format_called("webvtt").write(Document(tuple(track)), CONTEXT).decode().split("\n\n")
    assert blocks[0].split("\n")[0] == "WEBVTT"
    assert all("-->" not in line for block in blocks[1:] for line in block.split("\n")[1:])


def test_a_style_block_is_written_only_where_something_needs_it() -> None:
    head = "WEBVTT\n\nSTYLE\n::cue(.loud) { font-weight: bold }\n\n"
    used = f"{head}00:01.000 --> 00:02.000\n<c.loud>Hark</c>\n"
    unused = f"{head}00:01.000 --> 00:02.000\nHark\n"
    everywhere = "WEBVTT\n\nSTYLE\n::cue { color: red }\n\n00:01.000 --> 00:02.000\nHark\n"
    for text, kept in ((used, True), (unused, False), (everywhere, True)):
        document = read_file(text.encode(), "x.vtt", Context()).document
        assert (b"STYLE" in written(document, FORMATS["webvtt"], Context())) is kept
