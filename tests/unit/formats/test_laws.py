"""What holds for every format: what is written is read back, and any bytes are read or refused."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, Placement, Track
from dunlin.core.captions.model import joined
from dunlin.core.formats import (
    FORMATS,
    READABLE,
    Context,
    Document,
    FormatError,
    format_of_content,
    losses,
    read_file,
    reduced,
    written,
)
from dunlin.core.styles.model import STYLES, Style, look_of_caption, style_of_words, styled
from dunlin.core.timecode import FrameRate
from tests.strategies import rates, tracks

TIMED = sorted(set(READABLE) - {"text"})


def comparable(caption: Caption, name: str) -> tuple[object, ...]:
    """What must be the same: all but ids, what is kept for a format, and what it cannot tell."""
    spans = joined(
        replace(span, extras=(), voice=span.voice or caption.speaker) for span in caption.spans
    )
    place = caption.placement
    if name == "stl-teletext":
        # Where the style changes there is a space in any case.
        spans = joined([replace(span, text=span.text.replace(" ", "")) for span in spans])
    if name.startswith("stl"):
        # A line break is a code of its own there, in no style.
        spans = joined(
            [replace(span, text=part) for span in spans for part in span.text.split("\n") if part]
        )
        place = place and replace(place, anchor="bottom", y=None)
        place = None if place == Placement() else place
    if name in ("imsc", "ebu-tt-d") and place:
        place = replace(place, width=None)
    if name == "ass":
        # What all words look like is told once there, and in the script's own units.
        whole = styled(replace(STYLES["house"], weight=400), look_of_caption(caption))
        letters = [
            (letter, looks_like(style_of_words(whole, span)))
            for span in caption.spans
            for letter in span.text
        ]
        return caption.in_ms, caption.out_ms, letters, place
    return caption.in_ms, caption.out_ms, spans, place


def looks_like(style: Style) -> dict[str, object]:
    """What words look like, as nearly as a script tells it."""
    said = {name: value for name, value in vars(style).items() if name not in ("x", "y")}
    return {n: round(v, 2) if isinstance(v, float) else v for n, v in said.items()}


@pytest.mark.parametrize("name", TIMED)
@given(track=tracks(), rate=rates, language=st.sampled_from([None, "en", "de"]))
def test_what_is_written_is_read_back(
    name: str, track: Track, rate: FrameRate, language: str | None
) -> None:
    document, context = Document(tuple(track), language), Context(rate)
    if not document.captions and name in ("srt", "lrc"):
        return
    kept = reduced(document, FORMATS[name], rate)
    reading = read_file(written(document, FORMATS[name], context), "x", context, name)
    # What captions are is told of odd files, and stays in any.
    assert {oddity.message.code for oddity in reading.oddities} <= {
        "oddities.overlaps",
        "oddities.empty",
    }
    assert [comparable(caption, name) for caption in reading.document.captions] == [
        comparable(caption, name) for caption in kept.captions
    ]
    assert reading.document.language == kept.language


@pytest.mark.parametrize("name", TIMED)
@given(track=tracks(), rate=rates)
def test_what_is_reduced_loses_nothing_more(name: str, track: Track, rate: FrameRate) -> None:
    once = reduced(Document(tuple(track), "en"), FORMATS[name], rate)
    assert losses(once, FORMATS[name], rate) == []
    assert reduced(once, FORMATS[name], rate) == once


@pytest.mark.parametrize("name", sorted(set(TIMED) - {"json"}))
@given(track=tracks())
def test_a_file_is_told_by_its_content(name: str, track: Track) -> None:
    captions = tuple(replace(c, id=f"n{i}") for i, c in enumerate(track))
    if not captions and name in ("srt", "lrc"):
        return
    told = format_of_content(written(Document(captions), FORMATS[name], Context()))
    assert told is not None
    assert name == told.NAME


@given(
    st.binary(max_size=400) | st.text(max_size=300).map(str.encode),
    st.sampled_from(sorted(READABLE)),
)
def test_any_bytes_give_captions_or_one_clear_error(data: bytes, name: str) -> None:
    try:
        reading = read_file(data, "x", Context(), name)
    except FormatError:
        return
    assert all(caption.out_ms > caption.in_ms >= 0 for caption in reading.document.captions)
    ids = [caption.id for caption in reading.document.captions]
    assert len(set(ids)) == len(ids)


@pytest.mark.parametrize("name", sorted(READABLE))
@given(data=st.data())
def test_a_damaged_file_gives_captions_or_one_clear_error(name: str, data: st.DataObject) -> None:
    document = Document(tuple(data.draw(tracks())))
    file = bytearray(written(document, FORMATS[name], Context()))
    for _ in range(data.draw(st.integers(1, 4))):
        at = data.draw(st.integers(0, max(len(file) - 1, 0)))
        kind = data.draw(st.sampled_from(["cut", "byte", "twice"]))
        if kind == "cut":
            del file[at:]
        elif kind == "byte" and file:
            file[at] = data.draw(st.integers(0, 255))
        else:
            file[at:at] = file[at : at + 60]
    try:
        reading = read_file(bytes(file), "x", Context(), name)
    except FormatError:
        return
    assert all(caption.out_ms > caption.in_ms >= 0 for caption in reading.document.captions)
