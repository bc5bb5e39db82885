"""Films taken from a host, captions and films sent to it, and what goes wrong on the way: the host is a program of its own."""

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import pytest
from fastapi.testclient import TestClient

from dunlin.core.messages import Told
from dunlin.jobs.context import JobContext
from dunlin.jobs.fetching import fetch_film
from dunlin.jobs.queue import JobQueue
from dunlin.media.ffmpeg import Cancelled
from dunlin.settings import Settings
from dunlin.work.folder import open_folder
from tests.api.test_packing import SMALL, Lists
from tests.api.translations import spoken_project
from tests.hosts.program import HostProgram

OTHER_WORDS = b"WEBVTT\n\n00:01.000 --> 00:02.000\nSomebody wrote this there\n"


@pytest.fixture(scope="module")
def host(tmp_path_factory: pytest.TempPathFactory) -> Iterator[HostProgram]:
    host = HostProgram(tmp_path_factory.mktemp("host"), "--demo")
    yield host
    host.stop()


@pytest.fixture(autouse=True)
def _no_faults(host: HostProgram) -> Iterator[None]:
    yield
    host.faults()


@pytest.fixture
def connection(client: TestClient, host: HostProgram) -> str:
    answer = client.post("/api/hosts", json={"address": host.url, "token": host.token()})
    assert answer.status_code == 201, answer.text
    return str(answer.json()["id"])


def film_called(host: HostProgram, title: str) -> dict[str, Any]:
    films = host.get("/api/films")["films"]
    return next(film for film in films if film["title"] == title)


def fetched(settings: Settings, project: str, cancelled: bool = False) -> dict[str, Any]:
    """What the job that brings a film told, done here."""
    folder = open_folder(settings)
    [job] = [one for one in folder.jobs.of_project(project) if one.kind == "fetch"]
    context = JobContext(job, folder, JobQueue(folder))
    if cancelled:
        context.cancelled = lambda: True  # type: ignore[method-assign]
    try:
        return fetch_film(context)
    finally:
        folder.engine.dispose()


def test_a_token_is_kept_from_everybody(
    client: TestClient, host: HostProgram, data_settings: Settings
) -> None:
    token = host.token("films:read")
    answer = client.post("/api/hosts", json={"address": host.url, "token": token})
    assert answer.json()["scopes"] == ["films:read"]
    assert token not in answer.text + client.get("/api/hosts").text
    file = data_settings.data / "hosts.json"
    assert file.stat().st_mode & 0o077 == 0
    others = [path for path in data_settings.data.rglob("*") if path.is_file() and path != file]
    assert not [path for path in others if token.encode() in path.read_bytes()]
    # A new token of the same name takes the place of the old one.
    client.post("/api/hosts", json={"address": host.url, "token": host.token()})
    [connection] = client.get("/api/hosts").json()
    assert len(connection["scopes"]) == 3
    assert client.delete(f"/api/hosts/{connection['id']}").status_code == 204
    assert client.get("/api/hosts").json() == []
    assert client.get(f"/api/hosts/{connection['id']}/films").status_code == 404


@pytest.mark.parametrize(
    ("address", "code"),
    [
        ("http://films.example", "hosts.not-enciphered"),
        ("http://127.0.0.1:9", "hosts.gone"),
        (" ", "hosts.no-address"),
    ],
)
def test_what_is_no_host_is_no_connection(client: TestClient, address: str, code: str) -> None:
    answer = client.post("/api/hosts", json={"address": address, "token": "x"})
    assert (answer.status_code, answer.json()["code"]) == (422, code)
    for token in ("\x80", "a b", "a\nb", "–"):
        wrong = client.post("/api/hosts", json={"address": "http://127.0.0.1:9", "token": token})
        assert wrong.json()["code"] == "hosts.no-token"
    assert client.get("/api/hosts").json() == []


def test_a_film_is_taken_as_a_project_with_the_captions_of_people(
    client: TestClient, host: HostProgram, connection: str, data_settings: Settings
) -> None:
    films = client.get(f"/api/hosts/{connection}/films", params={"search": "bell"}).json()["films"]
    assert [film["title"] for film in films] == ["The Fog Bell at Quillan Point"]
    project = client.post(f"/api/hosts/{connection}/take", json={"film": films[0]["id"]}).json()
    assert project["title"] == films[0]["title"]
    # The host fails: what is asked again later goes on.
    host.faults(refuse=500)
    with pytest.raises(Told, match="wrong on"):
        fetched(data_settings, project["id"])
    host.faults(break_after=1_000_000)
    assert fetched(data_settings, project["id"])["tracks"] == ["en"]
    read = client.get(f"/api/projects/{project['id']}").json()
    assert read["film"]["duration_ms"] > 120_000
    captions = client.get(f"/api/tracks/{read['tracks'][0]['id']}").json()["captions"]
    assert len(captions) == 41
    kinds = {job["kind"] for job in read["jobs"]}
    assert {"peaks", "speech", "shots"} <= kinds
    # Done once more, as after a worker that was killed, nothing is there twice.
    fetched(data_settings, project["id"])
    again = client.get(f"/api/projects/{project['id']}").json()
    assert len(again["tracks"]) == 1
    assert len(client.get(f"/api/tracks/{read['tracks'][0]['id']}").json()["captions"]) == 41
    assert not list(data_settings.results.glob("*.coming"))


def test_a_film_that_is_called_off_or_lied_about_leaves_nothing(
    client: TestClient, host: HostProgram, connection: str, data_settings: Settings
) -> None:
    film = film_called(host, "Low Water")
    project = client.post(f"/api/hosts/{connection}/take", json={"film": film["id"]}).json()
    with pytest.raises(Cancelled):
        fetched(data_settings, project["id"], cancelled=True)
    host.faults(lie_about_size=True)
    with pytest.raises(Told, match="told"):
        fetched(data_settings, project["id"])
    assert not list(data_settings.results.glob("*.coming"))
    assert client.post(f"/api/hosts/{connection}/take", json={"film": "none"}).status_code == 422


class Sending(Lists):
    """A list with captions of the source that go to a film on the host."""

    def __init__(
        self,
        client: TestClient,
        project: dict,
        settings: Settings,
        host: HostProgram,
        connection: str,
    ) -> None:
        super().__init__(client, project, settings)
        assert self.put().status_code == 200
        film = host.client().films().films[0]
        told = replace(film, title="Fog")
        self.host, self.connection, self.film = host, connection, told.id
        self.captions = {
            "thing": {"kind": "captions", "track": self.german, "format": "webvtt"},
            "destination": {"connection": connection, "film": self.film},
        }

    def tracks(self) -> dict[str, dict[str, Any]]:
        film = self.host.get(f"/api/films/{self.film}")
        return {track["language"]: track for track in film["tracks"]}

    def there(self) -> dict[str, Any]:
        answer = self.client.get(f"{self.address}/ternholm/there")
        assert answer.status_code == 200, answer.text
        return dict(answer.json())

    def write_german(self, text: str) -> None:
        captions = self.client.get(f"/api/tracks/{self.german}").json()["captions"]
        operation = {
            "kind": "change-captions",
            "changes": [{"caption": captions[0]["id"], "text": text}],
        }
        body = {"base_revision": 10_000, "gesture": text, "operation": operation}
        assert self.client.post(f"/api/tracks/{self.german}/edits", json=body).status_code == 200


@pytest.fixture
def sending(
    client: TestClient,
    new_project: Callable[..., dict],
    data_settings: Settings,
    host: HostProgram,
    connection: str,
) -> Iterator[Sending]:
    sending = Sending(client, spoken_project(client, new_project), data_settings, host, connection)
    sending.write_german("Nebelglocke")
    yield sending
    host.faults()
    host.http.delete(f"/api/films/{sending.film}/tracks/de")


def test_captions_are_sent_as_a_language_and_replaced_after_a_mend(sending: Sending) -> None:
    sending.items({"vtt": sending.captions})
    assert not sending.item("vtt")["is_sent"]
    assert sending.make()["failed"] == {}
    item, first = sending.item("vtt"), sending.tracks()["de"]
    assert (item["is_sent"], item["sent"]["page"], first["is_open"]) == (True, first["page"], False)
    assert sending.there() == {"vtt": {"state": "same", "problem": None}}
    address = f"/api/films/{sending.film}/tracks/de"
    assert sending.host.http.get(address).content == sending.file("vtt")
    sending.make()
    assert sending.tracks()["de"]["version"] == first["version"], "nothing goes twice"
    sending.write_german("Die Nebelglocke")
    assert sending.item("vtt")["changes"]
    sending.make()
    assert b"Die Nebelglocke" in sending.host.http.get(address).content
    # Open to viewers now: the words are there already.
    now = sending.captions | {"destination": sending.captions["destination"] | {"is_open": True}}
    sending.items({"vtt": now})
    assert (sending.item("vtt")["is_sent"], sending.item("vtt")["changes"]) == (False, [])
    sending.make()
    assert sending.tracks()["de"]["is_open"]


def test_what_was_changed_there_is_told_and_goes_over_it_only_when_asked_to(
    sending: Sending,
) -> None:
    sending.items({"vtt": sending.captions})
    sending.make()
    version = {"If-Match": f'"{sending.tracks()["de"]["version"]}"'}
    address = f"/api/films/{sending.film}/tracks/de"
    sending.host.http.put(address, content=OTHER_WORDS, headers=version).raise_for_status()
    assert sending.there()["vtt"]["state"] == "changed"
    sending.write_german("Am Abend")
    assert sending.make()["failed"]["vtt"]["code"] == "hosts.changed-there"
    assert sending.host.http.get(address).content == OTHER_WORDS
    assert not sending.item("vtt")["is_sent"]
    assert sending.make(anew=True)["failed"] == {}
    assert b"Am Abend" in sending.host.http.get(address).content
    sending.host.http.delete(address)
    assert sending.there()["vtt"]["state"] == "gone"


def test_an_answer_that_was_lost_makes_no_stranger_of_what_was_sent(sending: Sending) -> None:
    sending.items({"vtt": sending.captions})
    words = sending.client.get(f"{sending.address}/ternholm/items/vtt/text").content
    client = sending.host.client()
    version = client.send_track(sending.film, "de", words, is_open=False, over=None).version
    assert sending.make()["failed"] == {}
    assert sending.item("vtt")["is_sent"]
    assert str(sending.tracks()["de"]["version"]) == version


def test_a_burned_film_is_sent_and_captions_go_to_it(sending: Sending) -> None:
    [collection] = [one for one in sending.host.get("/api/collections") if one["name"] == "Shorts"]
    film = {
        "thing": {"kind": "burned", "track": sending.track, "encoding": SMALL},
        "destination": {"connection": sending.connection, "collection": collection["id"]},
    }
    captions = sending.captions | {"destination": {"connection": sending.connection}}
    sending.items({"vtt": captions})
    assert sending.make()["failed"]["vtt"]["code"] == "packing.no-film-there"
    sending.items({"film": film | {"place": 9}})
    sending.host.faults(refuse=500)
    failed = sending.make()["failed"]
    assert failed["film"]["code"] == "hosts.failing"
    made = sending.item("film")["made"]
    assert (bool(made), sending.item("film")["is_sent"]) == (True, False)
    sending.host.faults(break_after=20_000)
    assert sending.make()["failed"] == {}
    assert sending.item("film")["made"] == made, "it was burned once"
    there = film_called(sending.host, sending.project["title"])
    assert (there["sha256"], there["collection"]) == (made["sha256"], collection["id"])
    assert [track["language"] for track in there["tracks"]] == ["de"]
    sending.host.http.delete(f"/api/films/{there['id']}").raise_for_status()
    assert {one["state"] for one in sending.there().values()} == {"gone"}


def test_what_cannot_be_sent_says_why_before_it_is_made(sending: Sending) -> None:
    to = sending.captions["destination"]
    sending.items({
        "srt": {"thing": {"kind": "captions", "track": sending.german, "format": "srt"}, "destination": to},
        "report": {"thing": {"kind": "report", "track": sending.german}, "destination": to},
        "film": {"thing": {"kind": "burned", "track": sending.track, "encoding": SMALL}, "destination": to},
        "vtt": sending.captions,
    })  # fmt: skip
    missing = {item["id"]: item["missing"] for item in sending.read()["items"]}
    assert {id_: told and told["code"] for id_, told in missing.items()} == {
        "srt": "packing.host-takes-webvtt", "report": "packing.not-for-hosts",
        "film": "packing.no-collection", "vtt": None,
    }  # fmt: skip
    sending.client.delete(f"/api/hosts/{sending.connection}")
    assert sending.item("vtt")["missing"]["code"] == "hosts.no-connection"
    assert sending.make()["failed"]["vtt"]["code"] == "hosts.no-connection"
