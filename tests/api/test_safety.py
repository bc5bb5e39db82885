import sqlite3
from contextlib import closing
from pathlib import Path

import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings

from dunlin.api import create_app
from dunlin.settings import Settings


def test_other_hosts_are_not_served(client: TestClient) -> None:
    assert client.get("/api/projects", headers={"Host": "films.example"}).status_code == 400


def test_changes_from_other_origins_are_refused(client: TestClient, new_project) -> None:
    address = f"/api/projects/{new_project()['id']}"
    assert client.delete(address, headers={"Origin": "https://films.example"}).status_code == 403
    assert client.delete(address, headers={"Origin": "http://testserver"}).status_code == 204


def test_no_address_changes_anything_by_get(client: TestClient, new_project) -> None:
    project = new_project()
    here = {
        "project_id": project["id"],
        "track_id": project["tracks"][0]["id"],
        "film_id": project["film"]["id"],
        "job_id": project["jobs"][0]["id"],
        "spec_id": "streaming",
        "name": "1f514",
        "level": "0",
    }
    said = [{"id": "a", "in_ms": 0, "out_ms": 900, "spans": [{"text": "Ring it"}]}]
    edit = {
        "base_revision": 0,
        "gesture": "g",
        "operation": {"kind": "insert-captions", "captions": said},
    }
    assert client.post(f"/api/tracks/{here['track_id']}/edits", json=edit).status_code == 200
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


def test_fonts_and_page_are_served_by_plain_names_only(client: TestClient) -> None:
    assert client.get("/fonts/NotoSans-Bold.ttf").status_code == 200
    assert client.get("/fonts/..%2Fcli.py").status_code == 404
    assert "<title>Dunlin</title>" in client.get("/..%2F..%2Fcli.py").text


def test_no_request_makes_the_server_fail(tmp_path) -> None:
    """Whatever fits the schema, or nearly does, is answered without a 5xx."""
    app = create_app(Settings(data=tmp_path, allowed_hosts=("localhost", "testserver")))
    with TestClient(app):
        schema = schemathesis.openapi.from_asgi("/api/openapi.json", app)
        for result in schema.exclude(path_regex="events").get_all_operations():
            _never_fails(result.ok())


def _never_fails(operation) -> None:
    @settings(max_examples=12, suppress_health_check=list(HealthCheck), database=None)
    @given(operation.as_strategy())
    def answered(case) -> None:
        assert case.call().status_code < 500

    answered()
