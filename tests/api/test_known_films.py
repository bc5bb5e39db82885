"""A film that is brought in again is not looked through again."""

import shutil
from collections.abc import Callable
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dunlin.jobs import playable_copy, shot_finding, sound_peaks, timing
from dunlin.jobs.context import JobContext
from dunlin.jobs.queue import KINDS
from dunlin.media.ffmpeg import MediaError
from dunlin.settings import Settings
from dunlin.work.folder import DataFolder, open_folder
from tests.api.test_films import bring

MADE = {
    "peaks": (sound_peaks, "write_peaks"),
    "speech": (timing, "find_speech"),
    "shots": (shot_finding, "shot_changes"),
    "copy": (playable_copy, "write_proxy"),
}


@pytest.fixture
def folder(client: TestClient, data_settings: Settings) -> DataFolder:
    return open_folder(data_settings)


def do_all(folder: DataFolder, project: dict) -> None:
    for job in folder.jobs.of_project(project["id"]):
        KINDS[job.kind](JobContext(job, folder))


def kept(folder: DataFolder, project: dict) -> dict[str, bytes]:
    """All that is beside a project's film."""
    place = folder.film_folder(folder.projects.get(project["id"]).film)
    return {path.name: path.read_bytes() for path in place.iterdir()}


def told(client: TestClient, project: dict) -> tuple[object, ...]:
    """What a project says of its film."""
    view = client.get(f"/api/projects/{project['id']}").json()
    film = {key: value for key, value in view["film"].items() if key not in ("id", "came_ms")}
    return view["shots"], film


@pytest.fixture
def nothing_is_made(monkeypatch: pytest.MonkeyPatch) -> Callable[[], None]:
    """From when it is called on, whatever looks through a film fails."""

    def no(*_: object, **__: object) -> None:
        raise AssertionError("a film was looked through again")

    def forbid() -> None:
        for module, name in MADE.values():
            monkeypatch.setattr(module, name, no)

    return forbid


@pytest.mark.parametrize("film", ["short", "old"])
def test_what_is_known_of_a_film_is_known_of_the_same_one(
    client: TestClient,
    new_project,
    folder: DataFolder,
    nothing_is_made: Callable[[], None],
    film: str,
) -> None:
    first = new_project(film)
    do_all(folder, first)
    nothing_is_made()
    second = new_project(film)
    do_all(folder, second)
    assert kept(folder, second) == kept(folder, first)
    assert told(client, second) == told(client, first)
    # Nothing of one hangs on the other.
    before = kept(folder, first)
    client.delete(f"/api/projects/{first['id']}")
    assert kept(folder, second) == before


def test_shots_that_people_changed_stay_where_they_changed_them(
    client: TestClient, new_project, folder: DataFolder, nothing_is_made: Callable[[], None]
) -> None:
    first = new_project("short")
    do_all(folder, first)
    found = told(client, first)[0]
    client.post(f"/api/projects/{first['id']}/shots/toggle", json={"at_ms": 3000})
    assert told(client, first)[0] != found
    nothing_is_made()
    second = new_project("short")
    do_all(folder, second)
    assert told(client, second)[0] == found


def test_another_film_of_the_same_size_is_another_film(
    client: TestClient, new_project, folder: DataFolder, films, tmp_path: Path
) -> None:
    do_all(folder, new_project("sound"))
    other = bytearray(films["sound"].read_bytes())
    half = len(other) // 2
    other[half:] = bytes(len(other) - half)
    (tmp_path / "quiet.wav").write_bytes(other)
    second = new_project("silent")
    bring(client, second, tmp_path / "quiet.wav")
    do_all(folder, second)
    both = [folder.projects.get(second["id"]).film, *folder.films.of_size(len(other))]
    peaks = {(folder.film_folder(film) / "peaks.0").read_bytes() for film in both}
    assert len(peaks) == 2


@pytest.mark.parametrize("gone", ["peaks.json", "peaks.2", "original"])
def test_what_is_not_all_there_is_made(new_project, folder: DataFolder, gone: str) -> None:
    """Also where a project is removed while things are taken over from it."""
    first = new_project("sound")
    do_all(folder, first)
    whole = kept(folder, first)
    (folder.film_folder(folder.projects.get(first["id"]).film) / gone).unlink()
    second = new_project("sound")
    do_all(folder, second)
    assert kept(folder, second) == whole


def test_where_there_are_no_links_it_is_copied(
    new_project,
    folder: DataFolder,
    nothing_is_made: Callable[[], None],
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    def no_links(*_: object) -> None:
        raise OSError(95, "links are not known here")

    first = new_project("sound")
    do_all(folder, first)
    nothing_is_made()
    monkeypatch.setattr("os.link", no_links)
    second = new_project("sound")
    do_all(folder, second)
    assert kept(folder, second) == kept(folder, first)


def test_a_full_disk_leaves_nothing_half_taken(
    new_project, folder: DataFolder, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    first = new_project("sound")
    do_all(folder, first)
    monkeypatch.setattr("os.link", full)
    monkeypatch.setattr(shutil, "copyfile", full)
    second = new_project("sound")
    with pytest.raises((OSError, MediaError)):
        do_all(folder, second)
    assert set(kept(folder, second)) == {"original", "original.sha256"}
