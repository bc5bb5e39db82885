"""Caption tracks that films bring along: listed with what they say of themselves, and read."""

from pathlib import Path

import pytest

from dunlin.core.captions import Caption, spans_of
from dunlin.core.formats import FORMATS, Context, Document, read_file, written
from dunlin.core.messages import Told
from dunlin.core.timecode import FrameRate
from dunlin.jobs.context import JobContext
from dunlin.jobs.tracks_inside import take_tracks_out
from dunlin.media.muxing import CodedTrack, Container, caption_format, write_with_tracks
from dunlin.media.probe import probe
from dunlin.media.tracks_inside import TrackInside, tracks_inside, write_track_inside
from dunlin.work.folder import open_folder

TEXTS = {"en": "Low water", "de": "Niedrigwasser\nam Kai"}


def with_tracks(film: Path, container: Container, folder: Path) -> Path:
    """A film with a track in each language; the second is forced."""
    format_ = FORMATS[caption_format(container)]
    coded = []
    for language, text in TEXTS.items():
        document = Document((Caption("a", 1000, 2000, spans_of(text)),), language)
        data = written(document, format_, Context(FrameRate(25)))
        is_default = language == "en"
        coded.append(
            CodedTrack(data, format_.ENDINGS[0], language, "Harbour", is_default, not is_default)
        )
    output = folder / f"film.{container}"
    write_with_tracks(film, probe(film), coded, output)
    return output


@pytest.mark.parametrize("container", ["mp4", "mkv"])
def test_tracks_that_were_put_in_are_read_out(container: Container, films, tmp_path: Path) -> None:
    film = with_tracks(films["short"], container, tmp_path)
    tracks = tracks_inside(film)
    assert [track.language for track in tracks] == ["en", "de"]
    assert [track.is_default for track in tracks] == [True, False]
    assert [track.is_forced for track in tracks] == [False, True]
    for track, text in zip(tracks, TEXTS.values(), strict=True):
        path = write_track_inside(film, track, 4000, tmp_path)
        reading = read_file(path.read_bytes(), path.name, Context(FrameRate(25)))
        [caption] = reading.document.captions
        assert (caption.in_ms, caption.out_ms, caption.text) == (1000, 2000, text)


def test_a_film_without_tracks_has_none(films) -> None:
    assert tracks_inside(films["short"]) == []


def test_pictures_of_letters_say_that_they_cannot_be_read(films, tmp_path: Path) -> None:
    track = TrackInside(0, "hdmv_pgs_subtitle", "en", "", False, False, None)
    with pytest.raises(Told, match="pictures of letters"):
        write_track_inside(films["short"], track, 4000, tmp_path)


def test_they_become_tracks_of_the_project_and_none_twice(
    client, new_project, films, tmp_path: Path, data_settings, monkeypatch
) -> None:
    film = with_tracks(films["short"], "mkv", tmp_path)
    answer = client.post("/api/projects", params={"name": "film.mkv"}, content=film.read_bytes())
    project = answer.json()
    listed = client.get(f"/api/films/{project['film']['id']}/tracks-inside").json()
    assert [track["title"] for track in listed] == ["Harbour", "Harbour"]
    job = client.post(f"/api/projects/{project['id']}/tracks-out", json={"streams": [0, 1]}).json()
    folder = open_folder(data_settings)
    for _ in range(2):
        # Taken up again after its worker was killed, it takes nothing a second time.
        take_tracks_out(JobContext(folder.jobs.get(job["id"]), folder))
    tracks = client.get(f"/api/projects/{project['id']}").json()["tracks"]
    assert [track["language"] for track in tracks[1:]] == ["en", "de"]
    [caption] = client.get(f"/api/tracks/{tracks[2]['id']}").json()["captions"]
    assert "".join(span["text"] for span in caption["spans"]) == TEXTS["de"]
    folder.engine.dispose()
