from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dunlin.settings import Settings


def upload(client: TestClient, data: bytes, name: str = "film.mp4"):
    return client.post("/api/projects", params={"name": name}, content=data)


def kept(settings: Settings) -> list[Path]:
    return list(settings.films.iterdir())


@pytest.mark.parametrize(
    "name",
    [
        "../../x.mp4",
        "a\"b'c.mp4",
        "new\nline.mp4",
        "🎬.mp4",
        "..",
        "/etc/passwd",
        "C:\\films\\x.mp4",
        "<b>.mp4",
    ],
)
def test_a_name_is_only_ever_a_label(client, films, data_settings, name: str) -> None:
    answer = upload(client, films["short"].read_bytes(), name)
    assert answer.status_code == 201
    project = answer.json()
    assert project["film"]["label"] == " ".join(name.split())
    assert project["title"]
    assert [path.name for path in kept(data_settings)] == [project["film"]["id"]]
    assert sorted(path.name for path in (data_settings.films / project["film"]["id"]).iterdir()) == [
        "original", "original.sha256",
    ]  # fmt: skip


@pytest.mark.parametrize("data", [b"", b"no film at all", b"RIFF\0\0\0\0AVI "])
def test_what_is_no_film_is_refused_and_nothing_stays(client, data_settings, data: bytes) -> None:
    answer = upload(client, data)
    assert answer.status_code == 422
    assert answer.json()["detail"]
    assert kept(data_settings) == []
    assert client.get("/api/projects").json() == []


@pytest.mark.parametrize("kind", ["hls", "concat", "dash", "sdp"])
def test_a_playlist_that_calls_itself_a_film_opens_nothing(
    client, films, data_settings, kind
) -> None:
    target = films["short"]
    playlist = {
        "hls": f"#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:8,\nfile://{target}\n#EXT-X-ENDLIST\n",
        "concat": f"ffconcat version 1.0\nfile '{target}'\n",
        "dash": '<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011"><Period/></MPD>',
        "sdp": "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nm=video 5004 RTP/AVP 96\n",
    }[kind]
    answer = upload(client, playlist.encode())
    assert answer.status_code == 422
    assert kept(data_settings) == []


def test_a_film_that_is_too_large_is_refused_and_nothing_stays(films, tmp_path) -> None:
    from dunlin.api import create_app

    small = Settings(data=tmp_path, upload_limit_gb=0.0001, allowed_hosts=("testserver",))
    with TestClient(create_app(small)) as client:
        answer = upload(client, films["short"].read_bytes())
        streamed = client.post(
            "/api/projects", params={"name": "x"}, content=iter([b"x" * 60_000, b"x" * 60_000])
        )
    assert answer.status_code == streamed.status_code == 413
    assert kept(small) == []


def test_what_a_film_is_made_of_is_told(new_project) -> None:
    film = new_project("ntsc")["film"]
    assert film["frame_rate"] == {"numerator": 30000, "denominator": 1001}
    assert (film["width"], film["height"], film["has_sound"], film["playable"]) == (
        1280,
        720,
        True,
        True,
    )
    rotated = new_project("rotated")["film"]
    assert (rotated["width"], rotated["height"]) == (720, 1280)
    silent = new_project("silent")["film"]
    assert (silent["has_picture"], silent["has_sound"]) == (True, False)
    sound = new_project("sound")["film"]
    assert (sound["has_picture"], sound["has_sound"], sound["playable"]) == (False, True, True)


def test_a_film_the_browser_cannot_play_gets_a_copy(new_project) -> None:
    project = new_project("old")
    assert not project["film"]["playable"]
    assert {job["kind"] for job in project["jobs"]} == {"peaks", "copy", "shots", "speech"}


def test_a_film_cut_off_before_its_index_is_refused(client, films) -> None:
    answer = upload(client, films["no-index"].read_bytes())
    assert answer.status_code == 422
    assert "cut off" in answer.json()["detail"]


def test_a_film_without_sound_is_not_recognised(client, new_project) -> None:
    project = new_project("silent")
    assert [job["kind"] for job in project["jobs"]] == ["shots"]
    answer = client.post(
        f"/api/projects/{project['id']}/recognise",
        json={"engine": "pocketsphinx", "language": "en"},
    )
    assert answer.status_code == 422
    assert "no sound" in answer.json()["detail"]


def test_a_language_without_a_model_says_where_to_put_one(client, new_project) -> None:
    answer = client.post(
        f"/api/projects/{new_project()['id']}/recognise",
        json={"engine": "pocketsphinx", "language": "fi"},
    )
    assert answer.status_code == 422
    assert "models" in answer.json()["detail"]


def test_the_film_is_served_in_ranges(client, films, new_project) -> None:
    project = new_project()
    answer = client.get(
        f"/api/films/{project['film']['id']}/file", headers={"Range": "bytes=100-199"}
    )
    assert answer.status_code == 206
    assert answer.content == films["short"].read_bytes()[100:200]
    assert answer.headers["content-type"] == "video/mp4"


def test_a_project_is_changed_and_removed(client, new_project, data_settings) -> None:
    project = new_project()
    address = f"/api/projects/{project['id']}"
    changed = client.patch(
        address, json={"title": "Bell", "spec_id": "web-video", "language": "de"}
    ).json()
    assert (changed["title"], changed["spec"]["id"]) == ("Bell", "web-video")
    assert changed["tracks"][0]["language"] == "de"
    assert client.patch(address, json={"spec_id": "none"}).status_code == 422
    assert client.patch(address, json={"titel": "x"}).status_code == 422
    assert client.delete(address).status_code == 204
    assert client.get(address).status_code == 404
    assert kept(data_settings) == []


def test_a_spec_is_added_and_used(client, new_project) -> None:
    from tests.conftest import DEMO

    added = client.post("/api/specs", content=(DEMO / "ternholm.spec.json").read_bytes())
    assert added.status_code == 201
    project = new_project()
    changed = client.patch(f"/api/projects/{project['id']}", json={"spec_id": "ternholm"}).json()
    assert changed["spec"]["characters_per_line"] == 38
    assert client.post("/api/specs", content=b"\xff{").status_code == 422


def test_a_film_comes_in_with_the_language_that_is_spoken(client: TestClient, films) -> None:
    query = {"name": "talk.mp4", "language": "de"}
    data = films["silent"].read_bytes()
    made = client.post("/api/projects", params=query, content=data).json()
    assert made["tracks"][0]["language"] == "de"
    wrong = client.post("/api/projects", params=query | {"language": "?"}, content=data)
    assert wrong.status_code == 422
