import re
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from schemathesis.specs.openapi.checks import (
    response_schema_conformance,
    status_code_conformance,
)

from dunlin.api import create_app
from dunlin.settings import Settings
from tests.conftest import THOROUGH
from tests.faces import cut


@pytest.mark.parametrize(
    "host",
    ["films.example", "testserver@films.example", "testserverx", "[testserver]", "[127.0.0.1", "[::1",
     "testserver:port", "testserver:80:80", "127.0.0.1 ", ""],
)  # fmt: skip
def test_other_hosts_are_not_served(client: TestClient, host: str) -> None:
    answer = client.get("/api/projects", headers={"Host": host})
    assert (answer.status_code, answer.json()["code"]) == (400, "request.other-host")


@pytest.mark.parametrize("host", ["127.0.0.1:8600", "LOCALHOST", "[::1]:8600", "films.example"])
def test_a_request_from_elsewhere_does_not_pass_as_one_of_this_machine(
    data_settings: Settings, host: str
) -> None:
    names = ("127.0.0.1", "localhost", "[::1]", "films.example")
    app = create_app(data_settings.model_copy(update={"allowed_hosts": names}))

    def status(came_to: str) -> int:
        """Of a request to one of the machine's addresses."""

        async def arriving(scope, receive, send) -> None:
            if scope["type"] == "http":
                scope["server"] = (came_to, 8600)
            await app(scope, receive, send)

        with TestClient(arriving) as client:
            return client.get("/api/projects", headers={"Host": host}).status_code

    assert status("127.0.0.1") == 200
    assert status("::1") == 200
    assert status("192.0.2.7") == (200 if host == "films.example" else 400)


def test_changes_from_other_origins_are_refused(client: TestClient, new_project) -> None:
    address = f"/api/projects/{new_project()['id']}"
    for origin in ("https://films.example", "https://testserver", "http://testserver:81", "null"):
        refused = client.delete(address, headers={"Origin": origin})
        assert (refused.status_code, refused.json()["code"]) == (403, "request.other-origin")
    assert client.delete(address, headers={"Origin": "http://testserver"}).status_code == 204


@pytest.mark.usefixtures("shelf")
def test_no_address_changes_anything_by_get(client: TestClient, new_project) -> None:
    project = new_project()
    (font,) = client.post("/api/fonts", content=cut()).json()
    here = {
        "project_id": project["id"],
        "track_id": project["tracks"][0]["id"],
        "film_id": project["film"]["id"],
        "job_id": project["jobs"][0]["id"],
        "spec_id": "streaming",
        "name": "1f514",
        "level": "0",
        "scope": "project",
        "kind": "csv",
        "caption_id": "a",
        "delivery_id": "d",
        "connection_id": "none",
        "item_id": "i",
        "list_id": "l",
        "file": font["files"][0].rpartition("/")[2],
    }
    said = [{"id": "a", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Ring it"}]}]
    edit = {
        "base_revision": 0,
        "gesture": "g",
        "operation": {"kind": "insert-captions", "captions": said},
    }
    assert client.post(f"/api/tracks/{here['track_id']}/edits", json=edit).status_code == 200
    delivery = f"/api/projects/{here['project_id']}/deliveries/d"
    thing = {"kind": "captions", "format": "srt", "track": here["track_id"]}
    client.put(delivery, json={"delivery": {"name": "Ternholm"}})
    assert (
        client.put(f"{delivery}/items", json={"items": {"i": {"thing": thing}}}).status_code == 200
    )
    asked = {"project_id": here["project_id"], "delivery_id": "d"}
    assert client.put("/api/packing-lists/l", params=asked).status_code == 200
    answered = 0
    for path, methods in client.get("/api/openapi.json").json()["paths"].items():
        if "get" not in methods or path.endswith("/events"):
            continue
        before = kept(client)
        query = {"after_ms": 0, "length_ms": 2000, "format": "srt", "first": 0, "count": 1}
        answered += client.get(path.format(**here), params=query).status_code < 400
        assert kept(client) == before, path
    # Some have nothing to give before a worker has worked.
    assert answered > 12


def kept(client: TestClient) -> tuple[list[str], list[str]]:
    """All rows of the data folder's database, and its files."""
    data: Path = client.app.state.services.settings.data  # type: ignore[attr-defined]
    with closing(sqlite3.connect(data / "dunlin.db")) as database:
        rows = list(database.iterdump())
    return rows, sorted(str(path) for path in data.rglob("*") if not path.name.endswith("-shm"))


def test_every_answer_carries_the_rules_for_the_page(client: TestClient) -> None:
    headers = client.get("/api/projects").headers
    assert "default-src 'self'" in headers["content-security-policy"]
    assert headers["cross-origin-opener-policy"] == "same-origin"
    assert headers["cross-origin-embedder-policy"] == "require-corp"
    assert headers["x-content-type-options"] == "nosniff"


@pytest.mark.parametrize(("asks", "encoding"), [("127.0.0.1", None), ("192.0.2.9", "gzip")])
def test_what_goes_over_a_network_is_compressed(
    client: TestClient, new_project, asks: str, encoding: str | None
) -> None:
    project = new_project()

    async def arriving(scope, receive, send) -> None:
        await client.app(scope | {"client": (asks, 50_000)}, receive, send)

    # Within the life of the application's own client.
    other = TestClient(arriving)
    listed = other.get("/api/projects")
    assert listed.headers.get("content-encoding") == encoding
    assert [p["id"] for p in listed.json()] == [project["id"]]
    # A film is compressed already, and a part of it is asked for by its bytes.
    film = f"/api/films/{project['film']['id']}/file"
    part = other.get(film, headers={"Range": "bytes=0-99"})
    assert (part.status_code, len(part.content)) == (206, 100)
    assert "content-encoding" not in part.headers


def test_fonts_and_page_are_served_by_plain_names_only(client: TestClient) -> None:
    assert client.get("/fonts/NotoSans-Bold.ttf").status_code == 200
    assert client.get("/fonts/..%2Fcli.py").status_code == 404
    assert "<title>Dunlin</title>" in client.get("/..%2F..%2Fcli.py").text


@pytest.mark.parametrize("path", ["/api/nope", "/api/projects/a/b/c", "/api", "/" + "a" * 5000])
def test_what_there_is_not_is_told_as_such(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert (answer.status_code, answer.json()["code"]) == (404, "request.refused")


def test_what_does_not_fit_is_told_by_its_field(client: TestClient, new_project) -> None:
    track = new_project()["tracks"][0]["id"]
    edit = {"base_revision": 0, "gesture": "g", "operation": {"kind": "delete-captions"}}
    answer = client.post(f"/api/tracks/{track}/edits", json=edit)
    problem = answer.json()
    assert (answer.status_code, problem["code"]) == (422, "request.wrong")
    assert problem["values"]["field"].endswith("captions")
    assert problem["detail"] == f"{problem['values']['field']}: {problem['values']['reason']}"
    wrong = client.post(f"/api/tracks/{track}/edits", content=b"{")
    assert (wrong.status_code, wrong.json()["code"]) == (422, "request.wrong")


@pytest.mark.parametrize("told", [True, False])
def test_a_body_is_refused_before_it_is_all_there(client: TestClient, new_project, told) -> None:
    track = new_project()["tracks"][0]["id"]
    sent = 0

    def endless() -> Iterator[bytes]:
        nonlocal sent
        while sent < 2**30:
            sent += 2**20
            yield b" " * 2**20

    headers = {"Content-Length": str(2**30)} if told else {}
    answer = client.post(f"/api/tracks/{track}/edits", content=endless(), headers=headers)
    assert (answer.status_code, answer.json()["code"]) == (413, "request.too-large")


def test_no_request_makes_the_server_fail(tmp_path) -> None:
    """Whatever fits the schema, or nearly does, is answered without a 5xx, and with no status and no
    shape that the schema does not tell of."""
    app = create_app(Settings(data=tmp_path, allowed_hosts=("localhost", "testserver")))
    with TestClient(app):
        schema = schemathesis.openapi.from_asgi("/api/openapi.json", app)
        for result in schema.exclude(path_regex="events").get_all_operations():
            _never_fails(result.ok())


def _never_fails(operation) -> None:
    @settings(
        max_examples=60 if THOROUGH else 5, suppress_health_check=list(HealthCheck), database=None
    )
    @given(operation.as_strategy())
    def answered(case) -> None:
        answer = case.call()
        assert answer.status_code < 500
        case.validate_response(
            answer, checks=[status_code_conformance, response_schema_conformance]
        )

    answered()


def test_files_whose_names_tell_their_content_are_asked_for_once(client: TestClient) -> None:
    page = client.get("/")
    assert page.headers["cache-control"] == "no-cache"
    [script] = re.findall(r'<script [^>]*src="(/assets/[^"]+)"', page.text)
    assert client.get(script).headers["cache-control"] == "public, max-age=31536000, immutable"
