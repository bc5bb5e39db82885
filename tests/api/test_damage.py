"""A project whose stored values are no longer what they were: told, in nobody's way, and rescued."""

import io
import json
import sqlite3
import zipfile
from contextlib import closing

import pytest
from fastapi.testclient import TestClient

from dunlin.api import create_app
from dunlin.core.formats import Context, read_file


def damage(client: TestClient, statement: str, *values: str) -> None:
    """Changes the database behind Dunlin's back, as a failing disk or another program may."""
    data = client.app.state.services.settings.data  # type: ignore[attr-defined]
    with closing(sqlite3.connect(data / "dunlin.db")) as database, database:
        assert database.execute(statement, values).rowcount


def with_captions(client: TestClient, project: dict) -> dict:
    captions = [
        {"id": f"c{n}", "in_ms": n * 2000, "out_ms": n * 2000 + 1500, "spans": [{"text": f"Buoy {n}"}]}
        for n in range(3)
    ]  # fmt: skip
    edit = {"base_revision": 0, "gesture": "g",
            "operation": {"kind": "insert-captions", "captions": captions}}  # fmt: skip
    track = project["tracks"][0]["id"]
    assert client.post(f"/api/tracks/{track}/edits", json=edit).status_code == 200
    return project


RECORD = "UPDATE records SET value = ? WHERE project_id = ? AND address = ?"
DAMAGES = [
    (RECORD, "{not json", "project"),
    (RECORD, "[1, 2]", "tracks"),
    (RECORD, '{"colour": 1}', "tracks"),
    (RECORD, '{"id": "streaming", "lines": "many"}', "specs"),
]


@pytest.mark.parametrize("damaged", DAMAGES, ids=lambda d: f"{d[2]} {d[1]}")
def test_a_damaged_project_is_shown_as_such_and_hides_no_other(
    client: TestClient, new_project, damaged
) -> None:
    whole, broken = new_project(), with_captions(client, new_project())
    statement, value, address = damaged
    damage(client, statement, value, broken["id"], address)
    assert [project["id"] for project in client.get("/api/projects").json()] == [whole["id"]]
    listed = client.get("/api/damaged-projects").json()
    assert [project["id"] for project in listed] == [broken["id"]]
    opened = client.get(f"/api/projects/{broken['id']}")
    assert (opened.status_code, opened.json()["code"]) == (409, "projects.damaged")
    track = broken["tracks"][0]["id"]
    assert client.get(f"/api/tracks/{track}").status_code in (404, 409)
    with rescue(client, broken) as files:
        assert captions_in(files) == ["Buoy 0", "Buoy 1", "Buoy 2"]
    assert client.delete(f"/api/projects/{broken['id']}").status_code == 204
    assert client.get("/api/damaged-projects").json() == []


def test_of_damaged_captions_the_others_are_rescued(client: TestClient, new_project) -> None:
    project = with_captions(client, new_project())
    track = project["tracks"][0]["id"]
    damage(client, "UPDATE captions SET spans = ? WHERE id = ?", "[{]", "c1")
    # A server that was started since holds nothing of it in memory.
    settings = client.app.state.services.settings  # type: ignore[attr-defined]
    with TestClient(create_app(settings)) as later:
        assert later.get(f"/api/tracks/{track}").json()["code"] == "projects.damaged"
        assert [p["id"] for p in later.get("/api/damaged-projects").json()] == [project["id"]]
    with rescue(client, project) as files:
        assert captions_in(files) == ["Buoy 0", "Buoy 2"]
        stored = [json.loads(line) for line in files.read("stored.jsonl").splitlines()]
        assert "[{]" in [row["spans"] for row in stored if row["table"] == "captions"]


def test_the_rescue_of_a_whole_project_has_all_of_it(client: TestClient, new_project) -> None:
    project = with_captions(client, new_project())
    words = [{"text": word, "start_ms": n * 500, "end_ms": n * 500 + 400} for n, word in enumerate(("Mind", "the", "shoal"))]  # fmt: skip
    edit = {"base_revision": 0, "gesture": "w", "first": 0, "count": 0, "words": words}
    written = client.post(f"/api/projects/{project['id']}/transcript/edits", json=edit)
    assert written.status_code == 200, written.json()
    with rescue(client, project) as files:
        assert captions_in(files) == ["Buoy 0", "Buoy 1", "Buoy 2"]
        assert files.read("transcript.txt").decode() == "Mind the shoal"
    assert client.get("/api/projects/none/rescue").status_code == 404


def rescue(client: TestClient, project: dict) -> zipfile.ZipFile:
    answer = client.get(f"/api/projects/{project['id']}/rescue")
    assert answer.status_code == 200
    return zipfile.ZipFile(io.BytesIO(answer.content))


def captions_in(files: zipfile.ZipFile) -> list[str]:
    read = [
        read_file(files.read(f"captions-1{ending}"), f"x{ending}", Context()).document.captions
        for ending in (".srt", ".json")
    ]
    texts = [[caption.text for caption in captions] for captions in read]
    assert texts[0] == texts[1]
    return texts[0]
