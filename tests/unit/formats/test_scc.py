"""SCC: words of line 21 captions at their frames; roll-up and paint-on; what does not fit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Placement, Span, spans_of
from dunlin.core.formats import FORMATS, Context, Document, losses, read_file, reduced, written
from dunlin.core.formats.cea608 import HELD, with_parity
from dunlin.core.timecode import FrameRate
from tests.conftest import ffmpeg

NTSC = FrameRate(30000, 1001)
SCC = FORMATS["scc"]


def lines(*words: tuple[str, str]) -> bytes:
    """A file of words without parity, behind their timecodes."""
    told = [
        f"{at}\t{' '.join(f'{with_parity(int(w[:2], 16)):02x}{with_parity(int(w[2:], 16)):02x}' for w in sent.split())}"
        for at, sent in words
    ]
    return "\n\n".join(["Scenarist_SCC V1.0", *told]).encode()


def read(data: bytes, rate: FrameRate = NTSC):
    return read_file(data, "x.scc", Context(rate))


def shown(data: bytes) -> list[tuple[int, int, str]]:
    return [(c.in_ms, c.out_ms, c.text) for c in read(data).document.captions]


def test_a_caption_pops_on_at_the_frame_of_its_code_and_goes_at_that_of_its_end() -> None:
    data = lines(
        ("00:00:01:00", "1420 1420 142E 142E 1470 1470 466F 6700 142F 142F"),
        ("00:00:03:00", "142C 142C"),
    )
    # Eight words after 00:00:01:00, and frame 90: 38 and 90 frames of 1001/30000 s.
    assert shown(data) == [(1268, 3003, "Fog")]


def test_codes_that_are_sent_once_are_enough_and_twice_is_once() -> None:
    once = lines(("00:00:01:00", "1420 142E 1470 6100 1331 142F"), ("00:00:03:00", "142C"))
    twice = lines(("00:00:01:00", "1420 1420 142E 142E 1470 1470 6100 1331 1331 142F 142F"))
    assert [text for _, _, text in shown(once)] == ["ä"]
    assert [text for _, _, text in shown(twice)] == ["ä"]


def test_rows_that_roll_up_are_captions_of_their_own() -> None:
    data = lines(
        ("00:00:01:00", "1425 1425 142D 142D 1470 1470 4F6E 6500"),
        ("00:00:03:00", "142D 142D 1470 1470 5477 6F00"),
        ("00:00:05:00", "142C 142C"),
    )
    found = shown(data)
    assert [text for _, _, text in found] == ["One", "Two"]
    assert found[0][1] == 3003
    assert found[1][1] == 5005


def test_what_is_painted_on_is_seen_as_it_comes() -> None:
    data = lines(("00:00:01:00", "1429 1429 1150 1150 4869 2100"), ("00:00:02:00", "142C 142C"))
    [caption] = read(data).document.captions
    assert (caption.text, caption.placement) == ("Hi!", Placement(anchor="top", align="left"))


def test_the_other_channel_is_left_out_and_told() -> None:
    data = lines(
        ("00:00:01:00", "1420 1420 1470 1470 4600 142F 142F"),
        ("00:00:02:00", "1C20 1C20 1C70 1C70 4E00 1C2F 1C2F 142C 142C"),
    )
    reading = read(data)
    assert [c.text for c in reading.document.captions] == ["F"]
    assert [o.message.code for o in reading.oddities] == ["oddities.other-channel"]


def test_styles_and_colours_of_words_are_read_and_written() -> None:
    spans = (Span("The "), Span("fog", italic=True), Span(" "), Span("bell", colour="#FFFF00"))
    document = Document((Caption("a", 2002, 4004, spans),))
    [caption] = read(written(document, SCC, Context(NTSC))).document.captions
    assert caption.spans == spans


@pytest.mark.parametrize("place", [None, *(
    Placement(anchor=anchor, align=align)
    for anchor in ("top", "middle", "bottom") for align in ("left", "center", "right")
)])  # fmt: skip
def test_nine_places_are_kept(place: Placement | None) -> None:
    document = Document((Caption("a", 2002, 4004, spans_of("Fog\nand the bell"), placement=place),))
    [caption] = read(written(document, SCC, Context(NTSC))).document.captions
    assert caption.placement == (None if place == Placement() else place)


def test_what_does_not_fit_is_told_and_brought_to_the_grid() -> None:
    long = Caption("a", 10_010, 12_012, spans_of("This line is longer than thirty-two letters are"))
    dense = [
        Caption(
            f"d{n}", 20_020 + n * 200, 20_220 + n * 200, spans_of("Quick as fog\n" * 2 + "and on")
        )
        for n in range(4)
    ]
    odd = Caption("o", 40_040, 42_042, spans_of("鐘 and …"))
    document = Document((long, *dense, odd))
    told = {loss.what: (loss.done, loss.captions) for loss in losses(document, SCC, NTSC)}
    assert told["grid"][0] == "fit"
    assert "a" in told["grid"][1]
    assert set(told["sending"][1]) <= {"d0", "d1", "d2", "d3"}
    assert "d1" in told["sending"][1]
    assert told["characters"] == ("replace", ("o",))
    assert told["spellings"] == ("spell", ("o",))
    kept = reduced(document, SCC, NTSC).captions
    assert all(len(line) <= 32 for caption in kept for line in caption.text.split("\n"))


@st.composite
def dense_documents(draw: st.DrawFn) -> Document:
    letters = st.sampled_from(sorted(HELD - {"\N{NO-BREAK SPACE}"}))
    at, captions = 0, []
    for n in range(draw(st.integers(1, 8))):
        at += draw(st.integers(0, 3000))
        length = draw(st.integers(20, 4000))
        text = draw(st.text(letters, min_size=1, max_size=90))
        captions.append(Caption(f"c{n}", at, at + length, spans_of(text)))
        at += length
    return Document(tuple(captions))


@given(
    document=dense_documents(),
    rate=st.sampled_from([FrameRate(25), NTSC, FrameRate(30), FrameRate(24)]),
)
def test_however_dense_no_two_words_are_sent_in_one_frame(
    document: Document, rate: FrameRate
) -> None:
    data = written(document, SCC, Context(rate))
    kept = reduced(document, SCC, rate)
    assert [(c.in_ms, c.out_ms, c.text) for c in read(data, rate).document.captions] == [
        (c.in_ms, c.out_ms, c.text) for c in kept.captions
    ]
    # None comes too soon.
    shown_at = {c.id: c.in_ms for c in kept.captions}
    counted = SCC.HOLDS.frame_rate(rate)
    frame = 1000 * counted.denominator / counted.numerator
    for caption in document.captions:
        # Those that fall on one frame are shown as one.
        if caption.id in shown_at:
            assert shown_at[caption.id] >= caption.in_ms - 1
    ends = [word for line in data.decode().split("\n\n")[1:] for word in line.split("\t")[1:]]
    assert (
        sum(len(sent.split()) for sent in ends) * frame <= kept.captions[-1].out_ms + 3 * frame
        if kept.captions
        else True
    )


def test_ffmpeg_reads_the_words_that_were_written(tmp_path) -> None:
    texts = ["The fog bell rings.\nÉté, ¿sí? Ñandú", "Low water"]
    document = Document(tuple(
        Caption(f"c{n}", 3003 + n * 4004, 6006 + n * 4004, spans_of(text)) for n, text in enumerate(texts)
    ))  # fmt: skip
    path = tmp_path / "x.scc"
    path.write_bytes(written(document, SCC, Context(NTSC)))
    ffmpeg("-i", str(path), str(tmp_path / "x.vtt"))
    # It tells where letters stand by spaces that do not break.
    judged = (tmp_path / "x.vtt").read_text().replace("\N{NO-BREAK SPACE}", " ")
    for text in texts:
        for line in text.split("\n"):
            assert line in judged


def test_a_programme_that_begins_on_the_hour_is_counted_from_there() -> None:
    document = Document((Caption("a", 4004, 6006, spans_of("Fog")),))
    data = written(document, SCC, Context(NTSC, starts_at="01:00:00;00"))
    assert b"01:00:0" in data
    reading = read(data)
    assert [(c.in_ms, c.out_ms) for c in reading.document.captions] == [(4004, 6006)]
    assert [o.message.code for o in reading.oddities] == ["oddities.programme-start"]
