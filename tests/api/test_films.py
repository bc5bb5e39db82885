"""Projects without a film, with one that came later, and with another in its place."""

from dataclasses import asdict
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dunlin.api import create_app
from dunlin.core.messages import NotNow, message
from dunlin.jobs.context import FilmReplaced, JobContext
from dunlin.jobs.recognition import one_at_a_time, recognise
from dunlin.jobs.shot_finding import find_shots
from dunlin.media.ffmpeg import Cancelled
from dunlin.media.probe import probe
from dunlin.media.speech import find_speech
from dunlin.settings import Settings
from dunlin.store.films import Film
from dunlin.work.folder import open_folder
from dunlin.work.shots import set_shots
from tests.conftest import DEMO, FILM, WINDOW

SRT = b"1\n00:00:01,000 --> 00:00:02,500\nThe lamp is out.\n\n2\n00:00:03,000 --> 00:00:04,000\nAgain?\n"


@pytest.fixture
def project(client: TestClient) -> dict:
    """One whose film is still to come."""
    answer = client.post(
        "/api/projects/without-film", json={"title": "lamp.en.srt", "language": "en", "fps": "24"}
    )
    assert answer.status_code == 201, answer.text
    return answer.json()


def take_in(client: TestClient, project: dict, data: bytes = SRT) -> dict:
    answer = client.post(
        f"/api/tracks/{project['tracks'][0]['id']}/captions-file",
        params={"name": "lamp.srt", "gesture": "taken"}, content=data,
    )  # fmt: skip
    assert answer.status_code == 200, answer.text
    return answer.json()


def bring(client: TestClient, project: dict, film: Path, **headers: str):
    return client.post(
        f"/api/projects/{project['id']}/films", params={"name": film.name},
        content=film.read_bytes(), headers=headers,
    )  # fmt: skip


def times(client: TestClient, project: dict) -> list[tuple[int, int]]:
    captions = client.get(f"/api/tracks/{project['tracks'][0]['id']}").json()["captions"]
    return [(caption["in_ms"], caption["out_ms"]) for caption in captions]


def step(client: TestClient, project: dict, which: str):
    return client.post(f"/api/projects/{project['id']}/{which}", json={"targets": ["project"]})


def shown(client: TestClient, project: dict) -> str:
    return client.get(f"/api/projects/{project['id']}").json()["film"]["label"]


def test_captions_come_before_their_film(client: TestClient, project: dict, films) -> None:
    assert (project["title"], project["film"]["id"]) == ("lamp.en", "")
    assert project["film"]["frame_rate"] == {"numerator": 24, "denominator": 1}
    assert project["jobs"] == []
    assert project["shots"] is None
    take_in(client, project)
    before = times(client, project)
    answer = bring(client, project, films["short"])
    assert answer.status_code == 201, answer.text
    assert answer.json()["film"]["label"] == "short.mp4"
    assert {job["kind"] for job in answer.json()["jobs"]} == {"peaks", "speech", "shots"}
    assert {job["film_id"] for job in answer.json()["jobs"]} == {answer.json()["film"]["id"]}
    assert times(client, project) == before == [(1000, 2500), (3000, 4000)]


def test_what_needs_a_film_says_that_there_is_none(client: TestClient, project: dict) -> None:
    take_in(client, project)
    track, heard = project["tracks"][0]["id"], {"engine": "whisper", "language": "en"}
    for address, body in (
        (f"projects/{project['id']}/recognise", heard),
        (f"projects/{project['id']}/speech", None),
        (f"tracks/{track}/sync", None),
        (f"tracks/{track}/fit", {}),
        (f"tracks/{track}/burn", {}),
    ):
        answer = client.post(f"/api/{address}", json=body)
        assert (answer.status_code, answer.json()["code"]) == (409, "film.none-yet"), address


def test_captions_are_written_checked_and_delivered_without_a_film(
    client: TestClient, project: dict
) -> None:
    track = project["tracks"][0]["id"]
    written = client.post(
        f"/api/tracks/{track}/page",
        json={"base_revision": 0, "gesture": "g", "captions": [], "texts": ["The lamp is out.", "Again?"], "after": None},
    )  # fmt: skip
    assert written.status_code == 200, written.text
    stood = times(client, project)
    assert len(stood) == 2
    assert 0 <= stood[0][0] < stood[0][1] <= stood[1][0] < stood[1][1]
    assert client.get(f"/api/tracks/{track}/file", params={"format": "srt"}).status_code == 200
    report = client.get(f"/api/tracks/{track}/report", params={"format": "srt"})
    assert "Not there yet" in report.text


def test_another_film_comes_in_place_and_the_first_comes_back(
    client: TestClient, new_project, films, data_settings: Settings
) -> None:
    project = new_project("short")
    first = project["film"]["id"]
    take_in(client, project)
    second = bring(client, project, films["ntsc"]).json()["film"]
    assert second["label"] == "ntsc.mp4"
    assert times(client, project) == [(1000, 2500), (3000, 4000)]
    listed = client.get(f"/api/projects/{project['id']}/films").json()
    assert {film["id"] for film in listed} == {first, second["id"]}
    assert step(client, project, "undo").status_code == 200
    assert shown(client, project) == "short.mp4"
    assert step(client, project, "redo").status_code == 200
    assert shown(client, project) == "ntsc.mp4"
    again = client.put(f"/api/projects/{project['id']}/film", json={"film_id": first})
    assert again.json()["film"]["id"] == first
    # The one that is shown stays on the disk; the other goes when one says so.
    refused = client.delete(f"/api/films/{first}")
    assert (refused.status_code, refused.json()["code"]) == (409, "film.shown")
    assert client.delete(f"/api/films/{second['id']}").status_code == 204
    assert [path.name for path in data_settings.films.iterdir()] == [first]
    assert client.get(f"/api/films/{second['id']}/file").status_code == 404
    # Going back to what is gone shows that no film is there, and loses nothing.
    assert step(client, project, "undo").status_code == 200
    assert client.get(f"/api/projects/{project['id']}").json()["film"]["id"] == ""
    assert times(client, project) == [(1000, 2500), (3000, 4000)]
    assert step(client, project, "redo").status_code == 200
    assert shown(client, project) == "short.mp4"


def test_a_lost_answer_brings_no_second_edit(client: TestClient, project: dict, films) -> None:
    for _ in range(2):
        answer = bring(client, project, films["silent"], **{"Idempotency-Key": "once"})
        assert answer.json()["film"]["label"] == "silent.mp4"
    assert len(client.get(f"/api/projects/{project['id']}/films").json()) == 1
    assert step(client, project, "undo").status_code == 200
    assert shown(client, project) == ""


def test_what_is_no_film_leaves_the_film_and_nothing_else(
    client: TestClient, new_project, data_settings: Settings
) -> None:
    project = new_project("short")
    answer = client.post(
        f"/api/projects/{project['id']}/films", params={"name": "x.mp4"}, content=b"no film"
    )
    assert answer.status_code == 422
    assert shown(client, project) == "short.mp4"
    assert [path.name for path in data_settings.films.iterdir()] == [project["film"]["id"]]
    other = new_project("silent")
    choice = {"film_id": other["film"]["id"]}
    assert client.put(f"/api/projects/{project['id']}/film", json=choice).status_code == 422


def test_a_project_that_is_removed_takes_all_its_films_along(
    client: TestClient, new_project, films, data_settings: Settings
) -> None:
    project = new_project("short")
    bring(client, project, films["silent"])
    assert len(list(data_settings.films.iterdir())) == 2
    assert client.delete(f"/api/projects/{project['id']}").status_code == 204
    assert list(data_settings.films.iterdir()) == []


def test_shots_belong_to_the_film_they_were_found_in(
    client: TestClient, new_project, films, data_settings: Settings
) -> None:
    project = new_project("short")
    folder = open_folder(data_settings)
    asked = next(job for job in folder.jobs.of_project(project["id"]) if job.kind == "shots")
    bring(client, project, films["silent"])
    # The job goes on with the film that it was asked about, whatever is shown by now.
    find_shots(JobContext(asked, folder))
    address = f"/api/projects/{project['id']}"
    assert client.get(address).json()["shots"] is None
    set_shots(
        folder,
        folder.films.get(asked.film_id or ""),
        [1000, 2000],
        JobContext(asked, folder).author,
    )
    step(client, project, "undo")
    assert client.get(address).json()["shots"] == [1000, 2000]


def test_words_that_were_heard_in_another_film_are_not_put_in(
    client: TestClient, new_project, films, data_settings: Settings, monkeypatch: pytest.MonkeyPatch
) -> None:
    project = new_project("short")
    asked = {"engine": "pocketsphinx", "language": "en"}
    job = client.post(f"/api/projects/{project['id']}/recognise", json=asked).json()
    bring(client, project, films["silent"])
    folder = open_folder(data_settings)
    monkeypatch.setattr("dunlin.jobs.recognition._hear", lambda *_, **__: [])
    with pytest.raises(FilmReplaced):
        recognise(JobContext(folder.jobs.get(job["id"]), folder))
    assert client.get(f"/api/projects/{project['id']}").json()["word_count"] == 0


def test_of_several_files_the_one_for_this_film_agrees_most(data_settings: Settings) -> None:
    folder = open_folder(data_settings)
    film = Film(FILM.name, FILM.stat().st_size, asdict(probe(FILM)), id="f")
    project = folder.projects.add("Fog", film)
    folder.film_folder(project.film).mkdir()
    right = (DEMO / "fog-bell.en.json").read_bytes()
    # As it would be for another film: the same texts at times that have nothing to do with the sound.
    other = b"".join(
        b"%d\n00:%02d:%02d,%03d --> 00:%02d:%02d,%03d\nLine\n\n"
        % (n, ms // 60000, ms // 1000 % 60, ms % 1000, (ms + 900) // 60000, (ms + 900) // 1000 % 60, (ms + 900) % 1000)
        for n, ms in enumerate((1700 * k * k % 120_000 for k in range(1, 40)), 1)
    )  # fmt: skip
    address = f"/api/projects/{project.id}/captions-file/agreement"
    with TestClient(create_app(data_settings), headers=WINDOW) as client:
        early = client.post(address, params={"name": "fog.json"}, content=right)
        assert (early.status_code, early.json()["code"]) == (409, "sound.speech-not-found-yet")
        find_speech(FILM, folder.film_folder(project.film), 128_000)
        fits = client.post(address, params={"name": "fog.json"}, content=right).json()
        wrong = client.post(address, params={"name": "fog.srt"}, content=other).json()
    assert fits["as_it_is"] > 80
    assert fits["sure"] > 0.9
    assert [abs(ms) < 150 for ms in fits["offsets_ms"]] == [True]
    assert wrong["sure"] < 0.3
    assert wrong["in_place"] < fits["in_place"]


def test_words_move_in_time_with_the_captions_and_back_with_them(
    client: TestClient, new_project, data_settings: Settings
) -> None:
    project = new_project("short")
    take_in(client, project)
    track, address = project["tracks"][0]["id"], f"/api/projects/{project['id']}"
    said = [{"text": text, "start_ms": ms, "end_ms": ms + 400} for text, ms in (("The", 1000), ("lamp", 3000))]  # fmt: skip
    client.post(
        f"{address}/transcript/edits",
        json={"base_revision": 0, "first": 0, "count": 0, "words": said},
    )
    revision = client.get(f"{address}/words").json()["revision"]
    moved = {
        "kind": "change-captions", "changes": [
            {"caption": c["id"], "in_ms": c["in_ms"] + 500, "out_ms": c["out_ms"] + 500}
            for c in client.get(f"/api/tracks/{track}").json()["captions"]
        ],
    }  # fmt: skip
    now = client.get(f"/api/tracks/{track}").json()["revision"]
    edit = {"base_revision": now, "gesture": "moved", "operation": moved}
    assert client.post(f"/api/tracks/{track}/edits", json=edit).status_code == 200
    pieces = [
        {"from_ms": 0, "to_ms": 2000, "offset_ms": 500},
        {"from_ms": 2000, "to_ms": None, "offset_ms": 900},
    ]
    body = {"base_revision": revision, "pieces": pieces, "gesture": "moved"}
    elsewhere = {"Dunlin-Person": "tobit", "Dunlin-Window": "his"}
    stale = client.post(
        f"{address}/transcript/retiming", json=body | {"base_revision": 0}, headers=elsewhere
    )
    assert stale.status_code == 409
    answer = client.post(f"{address}/transcript/retiming", json=body)
    assert [word["start_ms"] for word in answer.json()["words"]] == [1500, 3900]
    back = client.post(f"{address}/undo", json={"targets": [f"tracks/{track}/captions"]})
    assert back.status_code == 200
    words = client.get(f"{address}/words").json()["words"]
    assert [word["start_ms"] for word in words] == [1000, 3000]
    assert times(client, project) == [(1000, 2500), (3000, 4000)]


def test_films_are_heard_one_at_a_time_and_waiting_is_called_off(
    client: TestClient, new_project, data_settings: Settings
) -> None:
    folder = open_folder(data_settings)
    asked = {"engine": "pocketsphinx", "language": "en"}
    first, second = (
        JobContext(
            folder.jobs.get(
                client.post(f"/api/projects/{new_project()['id']}/recognise", json=asked).json()[
                    "id"
                ]
            ),
            folder,
        )
        for _ in range(2)
    )
    with one_at_a_time(first):
        folder.jobs.change(second.job.id, cancel_asked=True)
        with pytest.raises(Cancelled), one_at_a_time(second):
            raise AssertionError("both are heard")
    with one_at_a_time(second):
        assert folder.jobs.get(second.job.id).step == "waiting-for-another"


def test_a_film_that_cannot_be_shown_leaves_nothing(
    client: TestClient, new_project, films, data_settings: Settings, monkeypatch: pytest.MonkeyPatch
) -> None:
    project = new_project("short")

    def refused(*_: object, **__: object) -> None:
        raise NotNow(message("film.none-yet"))

    monkeypatch.setattr("dunlin.work.films.show_film", refused)
    assert bring(client, project, films["silent"]).status_code == 409
    assert [path.name for path in data_settings.films.iterdir()] == [project["film"]["id"]]
    assert len(client.get(f"/api/projects/{project['id']}/films").json()) == 1
