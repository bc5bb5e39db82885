"""Scripts, tables, line times, transcripts: what is particular about each."""

import subprocess
from pathlib import Path

import imageio_ffmpeg
import pytest
from hypothesis import given

from dunlin.core.captions import Caption, Placement, Span, Track, spans_of
from dunlin.core.captions.flatten import flattened, overlapping
from dunlin.core.formats import FORMATS, Context, Document, FormatError, read_file, reduced, written
from dunlin.core.formats.told_by_words import told_by_words
from dunlin.core.styles import Script, render_script, sheet_with
from tests.strategies import tracks

CONTEXT = Context(title="The Fog Bell")

SCRIPT = """\
[Script Info]
; kept as it is
PlayResX: 1000
PlayResY: 500

[V4+ Styles]
Format: Name, Fontname, Fontsize, Bold, Italic, Underline, Alignment
Style: Default,Noto Sans,40,0,0,0,2
Style: Far,Noto Sans,40,0,-1,0,8

[Events]
Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text
Comment: 0,0:00:00.00,0:00:01.00,Default,,0,0,0,,a remark
Dialogue: 3,0:00:01.00,0:00:02.50,Default,Ilse,0,0,20,,{\\an7\\pos(100,250)\\fad(200,0)}Read {\\i1}the{\\i0} {\\fs60\\blur2}Marigold{\\r}\\Nnow
Dialogue: 0,0:00:03.00,0:00:04.00,Far,,0,0,0,,{\\k20}Far {\\c&H00FFFF&}away
Dialogue: 0,0:00:05.00,bad,Default,,0,0,0,,lost

[Fonts]
fontname: x.ttf
"""


def read(name: str, text: str | bytes):
    data = text if isinstance(text, bytes) else text.encode()
    reading = read_file(data, f"a{FORMATS[name].ENDINGS[0]}", CONTEXT)
    return reading.document, [(oddity.line, str(oddity.message)) for oddity in reading.oddities]


def test_a_script_is_read_with_its_styles_and_places() -> None:
    document, oddities = read("ass", SCRIPT)
    first, second = document.captions
    assert first.text == "Read the Marigold\nnow"
    assert Span("the", italic=True) in first.spans
    assert (first.speaker, first.placement) == ("Ilse", Placement("top", "left", x=0.1, y=0.5))
    assert second.style == "Far"
    assert (document.styles["Far"].anchor, document.styles["Far"].italic) == ("top", True)
    # Where there are no styles, words and captions say it themselves.
    told = told_by_words(document).captions[1]
    assert told.placement == Placement("top")
    assert told.spans[-1] == Span("away", italic=True, colour="#FFFF00")
    assert [line for line, _ in oddities] == [1, 16]
    assert oddities[0][1].startswith("\\k: Dunlin draws nothing of these")


def test_what_only_a_script_knows_comes_back() -> None:
    document, _ = read("ass", SCRIPT)
    again = written(document, FORMATS["ass"], CONTEXT).decode()
    for kept in ("; kept as it is", "Style: Far", "a remark", "fontname: x.ttf", "\\fad(200,0)",
                 "\\fs60\\blur2", "\\k20", "Dialogue: 3,", ",0,0,20,,"):  # fmt: skip
        assert kept in again
    assert read("ass", again)[0].captions == document.captions


def test_columns_are_found_by_their_names_and_times_in_any_notation() -> None:
    document, oddities = read(
        "csv",
        'No;Start;Duration;Name;Text\n1;62,5;1.5;Ilse;"two\nlines"\n2;00:01:05:10;1;;"say ""yes"""\n3;x;1;;lost\n',
    )
    assert [(c.in_ms, c.out_ms, c.speaker, c.text) for c in document.captions] == [
        (62500, 64000, "Ilse", "two\nlines"),
        (65400, 66400, None, 'say "yes"'),
    ]
    assert oddities == [(5, "'x' is not a time; left out")]


@pytest.mark.parametrize(
    "text", ["=2+5", "+1", "-2+3", "-cmd|x", "-SUM(A1)", "@SUM(A1)", "'quoted"]
)
def test_no_cell_is_a_formula(text: str) -> None:
    document = Document((Caption("a", 0, 1000, spans_of(text), "=Ilse"),))
    data = written(document, FORMATS["csv"], CONTEXT)
    assert all(
        not cell.strip('"').startswith(("=", "+", "-", "@"))
        for line in data.decode("utf-8-sig").split("\n")[1:]
        for cell in line.split(",")
    )
    again = read("csv", data)[0].captions[0]
    assert (again.text, again.speaker) == (text, "=Ilse")


def test_a_speaker_s_dash_is_no_formula() -> None:
    document = Document((Caption("a", 0, 1000, spans_of("- Yes.\n–No.")),))
    data = written(document, FORMATS["csv"], CONTEXT)
    assert b'"- Yes.\n' in data
    assert read("csv", data)[0].captions[0].text == "- Yes.\n–No."


def test_a_drawing_comes_back_as_a_drawing() -> None:
    text = (
        "[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
        "Dialogue: 0,0:00:01.00,0:00:02.00,Default,,0,0,0,,"
        r"{\pos(10,20)\p2}m 0 0 l 9 0 9 9{\p0}said{\p1}m 1 1 l 2 2{\p0}"
    )
    document, _ = read("ass", text)
    assert document.captions[0].text == "said"
    again = written(document, FORMATS["ass"], CONTEXT).decode()
    assert r"{\pos(10,20)\p2}m 0 0 l 9 0 9 9{\p0}said{\p1}m 1 1 l 2 2{\p0}" in again
    assert read("ass", again)[0].captions == document.captions
    srt = written(reduced(document, FORMATS["srt"], CONTEXT.rate), FORMATS["srt"], CONTEXT)
    assert b"m 0 0" not in srt


def test_the_colour_of_a_named_style_goes_where_there_are_colours_and_no_styles() -> None:
    head = (
        "[V4+ Styles]\nFormat: Name, PrimaryColour\nStyle: Default,&H00FFFFFF\nStyle: Sign,&H0000FFFF\n"
        "[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
    )
    event = "Dialogue: 0,0:00:01.00,0:00:02.00,Sign,,0,0,0,,Keep {\\c&HFFFFFF&}out{\\c}!\n"
    document, _ = read("ass", head + event)
    srt = written(reduced(document, FORMATS["srt"], CONTEXT.rate), FORMATS["srt"], CONTEXT)
    assert b'<font color="#FFFF00">Keep </font>' in srt
    assert event.strip() in written(document, FORMATS["ass"], CONTEXT).decode().replace("\r", "")


def test_line_times_of_songs_are_read_whole() -> None:
    document, oddities = read(
        "lrc",
        "[ti:Fog]\n[la:en]\n[offset:500]\n[00:02.00][00:06.00]Hark\n[00:04.00]<00:04.00>the <00:04.50>bell\n[00:08.00]\n",
    )
    assert [(c.in_ms, c.out_ms, c.text) for c in document.captions] == [
        (1500, 3500, "Hark"), (3500, 5500, "the bell"), (5500, 7500, "Hark"),
    ]  # fmt: skip
    assert document.language == "en"
    assert (5, "times of single words left out") in oddities


def test_plain_text_gets_times_one_after_the_other() -> None:
    document, oddities = read("text", "Hark\nthe bell\n\nIt rang.\n")
    assert [c.text for c in document.captions] == ["Hark\nthe bell", "It rang."]
    assert document.captions[1].in_ms > document.captions[0].out_ms
    assert oddities == [(1, "plain text has no times; captions placed one after the other")]


def test_a_transcript_escapes_what_it_shows() -> None:
    document = Document((Caption("a", 1000, 2000, (Span("<script>", italic=True),), "Ilse & co"),))
    page = written(document, FORMATS["html"], CONTEXT).decode()
    assert "&lt;script&gt;" in page
    assert "<script>" not in page
    assert "Ilse &amp; co" in page
    assert "http" not in page


def test_a_name_that_says_otherwise_is_told() -> None:
    reading = read_file(b"WEBVTT\n\n00:01.000 --> 00:02.000\nHark\n", "a.srt", CONTEXT)
    assert reading.format.NAME == "webvtt"
    assert str(reading.oddities[0].message) == "not SubRip as its name says; read as WebVTT"


def test_a_format_that_is_only_written_says_so() -> None:
    with pytest.raises(FormatError, match="can be written, not read"):
        read_file(b"<html>", "a.html", CONTEXT, "html")


@pytest.mark.parametrize("encoding", ["hex", "no-such", "rot13"])
def test_what_is_no_encoding_is_refused(encoding: str) -> None:
    with pytest.raises(FormatError, match="no encoding"):
        read_file(b"1\n00:00:01,000 --> 00:00:02,000\nHark\n", "a.srt", Context(encoding=encoding))


def test_an_east_asian_code_page_is_read_when_a_person_says_so() -> None:
    data = "1\n00:00:01,000 --> 00:00:02,000\n霧の鐘\n".encode("shift_jis")
    reading = read_file(data, "a.srt", Context(encoding="shift_jis"))
    assert (reading.encoding, reading.document.captions[0].text) == ("shift_jis", "霧の鐘")


@given(tracks())
def test_flattened_captions_show_the_same_words_at_the_same_times(track: Track) -> None:
    flat = flattened(track)
    assert overlapping(flat) == ()
    for moment in sorted({edge for c in track for edge in (c.in_ms, c.out_ms)}):
        shown = sorted(line for c in track if c.in_ms <= moment < c.out_ms for line in c.lines)
        now = sorted(line for c in flat if c.in_ms <= moment < c.out_ms for line in c.lines)
        assert now == shown


def test_ffmpeg_takes_every_script_that_is_written(tmp_path: Path) -> None:
    document, _ = read("ass", SCRIPT)
    source = tmp_path / "a.ass"
    source.write_bytes(written(document, FORMATS["ass"], CONTEXT))
    command = [imageio_ffmpeg.get_ffmpeg_exe(), "-v", "error", "-i", str(source), "-f", "srt", "-"]
    told = subprocess.run(command, capture_output=True, check=True)
    assert told.stderr == b""
    assert "Marigold" in told.stdout.decode()


HOSTILE = [
    r"{\fs99999999999999999999\fscx-400\fsp1e9}large",
    r"{\fs-40\bord-9\shad-3\blur99999}less than nothing",
    r"{\pos(1e400,-99999999)\move(1,2)\org(}nowhere",
    r"{\clip(" + "m 0 0 l 9 9 " * 25_000 + r")\iclip()}through 50,000 points",
    r"{\p9}" + "m 0 0 l 9 9 " * 25_000 + r"{\p0}drawn",
    r"{\t(\t(\t(\fs9)))\t}deep",
    r"{\c&Hzz&\alpha&H\1a&HFFFFFFFFFF&}no colour",
    r"{\i1{\b1}nested} and {\i unclosed",
    r"}{\\}\{\b\}{}{{}}",
    r"{\fn" + "x" * 500 + r"\rnone\an99\a77\fade(1,2)\fad(-1,99999999)}named",
    r"{\frz999999999\frx-inf\frynan}turned",
]


@pytest.mark.parametrize("text", HOSTILE)
def test_whatever_a_script_says_is_held_to_what_looks_can_be(text: str) -> None:
    head = SCRIPT[: SCRIPT.index("Comment:")]
    event = f"Dialogue: -9,0:00:01.00,0:00:02.00,Default,,-5,9999999,99999,x,{text}\n"
    document, _ = read("ass", head + event)
    # What was read is what can be stored, and drawn.
    stored = read_file(written(document, FORMATS["json"], CONTEXT), "a.json", CONTEXT).document
    assert stored.captions == document.captions
    again = written(document, FORMATS["ass"], CONTEXT).decode()
    assert again.count("Dialogue:") == 1
    assert read("ass", again)[0].captions[0].text == document.captions[0].text
    render_script(document.captions, sheet_with(document.styles), Script(640, 360), CONTEXT.rate)


def test_hostile_styles_are_held_to_what_looks_can_be() -> None:
    head = "[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV\n"
    lines = [
        "Style: a/b\\c,,0,x,0,0,0,0,3,-1,-1,0,-1,-1,-1",
        "Style: ,@{\\b1},1e99,&HFFFFFFFFF,99999999,-5,1e300,nan,7,9999999,inf,44,9e9,9e9,9e9",
        "Style: " + "n" * 3000 + ",x",
    ]
    event = "Dialogue: 0,0:00:01.00,0:00:02.00,a/b\\c,,0,0,0,,Bell\n"
    document, _ = read("ass", head + "\n".join(lines) + f"\n[Events]\n{event}")
    stored = read_file(written(document, FORMATS["json"], CONTEXT), "a.json", CONTEXT).document
    assert stored.styles == document.styles
    assert document.captions[0].style == "a-b-c"
    assert document.captions[0].style in document.styles
