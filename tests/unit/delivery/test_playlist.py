"""Captions for streams: in every segment during which they are shown, as a reader of playlists finds them."""

from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dunlin.core.captions import Caption, spans_of
from dunlin.core.delivery.playlist import playlist_files
from dunlin.core.formats import Context, Document, read_file
from dunlin.core.timecode import FrameRate
from tests.conftest import ffmpeg

RATE = FrameRate(25)


def segments(files: dict[str, bytes], folder: str = "en") -> list[bytes]:
    return [
        data
        for name, data in sorted(files.items())
        if name.startswith(folder) and name.endswith(".vtt")
    ]


@given(
    times=st.lists(st.tuples(st.integers(0, 60_000), st.integers(1, 20_000)), max_size=8),
    segment=st.integers(1, 20),
)
def test_a_caption_is_in_each_segment_during_which_it_is_shown(
    times: list[tuple[int, int]], segment: int
) -> None:
    captions = tuple(
        Caption(f"c{n}", at, at + length, spans_of(f"Text {n}"))
        for n, (at, length) in enumerate(sorted(times))
    )
    length = 81_000
    files = playlist_files([("", Document(captions, "en"))], length, segment * 1000, RATE)
    found = segments(files)
    assert len(found) == -(-length // (segment * 1000))
    for number, data in enumerate(found):
        begins, ends = number * segment * 1000, (number + 1) * segment * 1000
        assert data.split(b"\n")[1].startswith(b"X-TIMESTAMP-MAP=")
        shown = {c.text for c in read_file(data, "x.vtt", Context(RATE)).document.captions}
        assert shown == {c.text for c in captions if c.in_ms < ends and c.out_ms > begins}
    playlist = files["en/captions.m3u8"].decode()
    lengths = [float(line[8:-1]) for line in playlist.split("\n") if line.startswith("#EXTINF:")]
    assert abs(sum(lengths) - length / 1000) < 0.01
    assert max(lengths) <= segment


def test_two_tracks_of_one_language_have_folders_of_their_own() -> None:
    document = Document((Caption("a", 0, 900, spans_of("Fog")),), "en")
    files = playlist_files([("", document), ('The "hard" one', document)], 900, 6000, RATE)
    assert {name.split("/")[0] for name in files} == {"captions.m3u8", "en", "en-2"}
    told = files["captions.m3u8"].decode()
    assert "NAME=\"English, The 'hard' one\"" in told
    assert told.count("DEFAULT=YES") == 1


def test_ffmpeg_reads_the_playlist(tmp_path: Path) -> None:
    captions = (
        Caption("a", 1000, 7500, spans_of("Low water")),
        Caption("b", 8000, 9000, spans_of("The fog\nbell")),
    )
    files = playlist_files([("", Document(captions, "en"))], 14_000, 6000, RATE)
    for name, data in files.items():
        path = tmp_path / name
        path.parent.mkdir(exist_ok=True)
        path.write_bytes(data)
    output = tmp_path / "x.srt"
    ffmpeg("-allowed_extensions", "ALL", "-i", str(tmp_path / "en/captions.m3u8"), str(output))
    read = read_file(output.read_bytes(), "x.srt", Context(RATE)).document.captions
    assert {(c.in_ms, c.out_ms, c.text) for c in read} == {
        (1000, 7500, "Low water"), (8000, 9000, "The fog\nbell"),
    }  # fmt: skip
