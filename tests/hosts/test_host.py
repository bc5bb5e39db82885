"""The host as viewers and its page see it."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from dunlin.core.formats import Context, read_file
from dunlin.core.speech import Word
from dunlin.stand_ins.video_host import create_host
from dunlin.stand_ins.video_host.machine import cut_by_time
from dunlin.stand_ins.video_host.shelf import Shelf
from tests.conftest import Films

PAGE = {"Strandline-Page": "1"}
WORDS = b"WEBVTT\n\n00:01.000 --> 00:02.000\nFog\n"


@pytest.fixture
def host(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_host(tmp_path, asks_a_minute=30), base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture
def film(host: TestClient, films: Films) -> str:
    """The id of the short film on the shelf."""
    shelf: Shelf = host.app.state.host.shelf  # type: ignore[attr-defined]
    shelf.film_file("fog").write_bytes(films["short"].read_bytes())
    return shelf.add_film(
        id="fog", collection=shelf.collection_called("Point"), title="Fog", about="", language="en",
        name="fog.mp4", size_bytes=films["short"].stat().st_size, sha256="0" * 64, duration_ms=8000,
    )  # fmt: skip


def test_viewers_see_what_is_open_and_drafts_by_their_address_alone(
    host: TestClient, film: str
) -> None:
    track = host.put(f"/api/films/{film}/tracks/de", content=WORDS, headers=PAGE).json()
    address = f"/watch/films/{film}/tracks/de"
    assert host.get(address).status_code == 404
    proof = track["page"].split("proof=")[1]
    assert host.get(address, params={"proof": proof}).content == WORDS
    assert host.get(address, params={"proof": "x" * 43}).status_code == 404
    host.patch(f"/api/films/{film}/tracks/de", json={"is_open": True}, headers=PAGE)
    assert host.get(address).headers["content-type"].startswith("text/vtt")
    part = host.get(f"/watch/films/{film}/file", headers={"Range": "bytes=0-9"})
    assert (part.status_code, len(part.content)) == (206, 10)


def test_a_track_that_was_taken_away_keeps_its_history_and_never_a_version_twice(
    host: TestClient, film: str
) -> None:
    address = f"/api/films/{film}/tracks/de"
    first = host.put(address, content=WORDS, headers=PAGE).json()["version"]
    assert host.delete(address, headers=PAGE).status_code == 204
    second = host.put(address, content=WORDS, headers=PAGE).json()["version"]
    assert second > first
    told = [one["version"] for one in host.get(f"{address}/history", headers=PAGE).json()]
    assert told == [second, first]
    assert host.get(address, params={"version": first}, headers=PAGE).content == WORDS


def test_programs_get_no_tokens_and_no_faults_and_ask_so_often(host: TestClient) -> None:
    token = host.post(
        "/api/tokens", json={"name": "x", "scopes": ["films:read"]}, headers=PAGE
    ).json()["token"]
    bearer = {"Authorization": f"Bearer {token}"}
    for headers in (bearer, bearer | PAGE, {}):
        assert host.get("/api/tokens", headers=headers).status_code == 403
        assert host.put("/api/faults", json={}, headers=headers).status_code == 403
    answers = [host.get("/api/films", headers=bearer) for _ in range(31)]
    assert [one.status_code for one in answers] == [200] * 30 + [429]
    assert 0 < int(answers[-1].headers["retry-after"]) <= 61
    assert token not in host.get("/api/tokens", headers=PAGE).text


def test_pages_from_elsewhere_do_nothing_here(host: TestClient, film: str) -> None:
    elsewhere = PAGE | {"Origin": "http://elsewhere.example"}
    assert host.delete(f"/api/films/{film}", headers=elsewhere).status_code == 403
    asked = {"Origin": "http://elsewhere.example", "Access-Control-Request-Method": "GET"}
    assert "access-control-allow-origin" not in host.options("/api/films", headers=asked).headers


def test_captions_by_machine_are_poor_and_never_over_those_of_people(
    host: TestClient, film: str
) -> None:
    address = f"/api/films/{film}/machine-captions"
    host.post(address, headers=PAGE)
    [track] = host.get(f"/api/films/{film}", headers=PAGE).json()["tracks"]
    assert (track["by_machine"], track["is_open"], track["language"]) == (True, True, "en")
    words = host.get(f"/watch/films/{film}/tracks/en").content
    captions = read_file(words, "x.vtt", Context(), "webvtt").document.captions
    assert captions
    assert all(one.text == one.text.lower() and "\n" not in one.text for one in captions)
    version = {"If-Match": f'"{track["version"]}"'} | PAGE
    host.put(f"/api/films/{film}/tracks/en?is_open=true", content=WORDS, headers=version)
    host.post(address, headers=PAGE)
    assert host.get(f"/watch/films/{film}/tracks/en").content == WORDS


def test_machine_captions_are_cut_where_time_is_up() -> None:
    words = [Word(f"Word{n}.", n * 900, n * 900 + 500) for n in range(10)]
    captions = list(cut_by_time(words))
    assert " ".join(one.text for one in captions) == " ".join(f"word{n}" for n in range(10))
    assert all(one.out_ms - one.in_ms <= 4000 for one in captions)
