"""Full, locked and read-only storage: told in words, nothing half done, nothing acknowledged lost."""

import errno
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.exc import OperationalError

from dunlin.api import create_app
from dunlin.jobs import queue as jobs
from dunlin.settings import Settings
from dunlin.store import database
from dunlin.store.faults import storage_fault
from dunlin.store.log import Author
from dunlin.work.speaking import add_speakers
from tests.api.faults import failing_write, full_disk, locked_database, read_only
from tests.api.test_tracks import Editor, caption
from tests.conftest import WINDOW

LONG = "Twenty lines of this are more than what is free in the pages there are. " * 20


@pytest.fixture
def client(data_settings: Settings, monkeypatch: pytest.MonkeyPatch) -> Iterator[TestClient]:
    """The application that waits for a lock no longer than a moment."""
    monkeypatch.setattr(database, "BUSY_SECONDS", 0.1)
    with TestClient(create_app(data_settings), headers=WINDOW) as client:
        yield client


@pytest.fixture
def project(new_project: Callable[..., dict]) -> dict:
    return new_project()


def send(client: TestClient, track: str, base: int, key: str, *captions: dict) -> Any:
    return client.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": base, "gesture": key,
              "operation": {"kind": "insert-captions", "captions": captions}},
        headers={"Idempotency-Key": key},
    )  # fmt: skip


def captions_of(client: TestClient, track: str) -> list[str]:
    return [c["id"] for c in client.get(f"/api/tracks/{track}").json()["captions"]]


def pages_of(client: TestClient, project: dict) -> list[str]:
    """What the page reads of a project."""
    track = project["tracks"][0]["id"]
    return [
        "/api/projects", f"/api/projects/{project['id']}", f"/api/tracks/{track}",
        f"/api/projects/{project['id']}/words", f"/api/projects/{project['id']}/films",
        f"/api/tracks/{track}/formats", "/api/specs", "/api/engines", "/api/people",
        f"/api/films/{project['film']['id']}/file", f"/api/tracks/{track}/report?format=json",
    ]  # fmt: skip


def statuses(client: TestClient, project: dict) -> dict[str, int]:
    return {page: client.get(page).status_code for page in pages_of(client, project)}


def test_an_edit_that_finds_the_disk_full_is_told_and_stored_once_when_there_is_room(
    client: TestClient, project: dict
) -> None:
    track = project["tracks"][0]["id"]
    many = [caption(f"c{n}", n * 2000, n * 2000 + 1500, LONG) for n in range(40)]
    with full_disk(client.app.state.services.engine):
        refused = send(client, track, 0, "k", *many)
        assert (refused.status_code, refused.json()["code"]) == (507, "storage.full")
        assert "full" in refused.json()["detail"]
        assert captions_of(client, track) == []
        assert set(statuses(client, project).values()) == {200}
    for _ in range(2):
        assert send(client, track, 0, "k", *many).status_code == 200
    assert len(captions_of(client, track)) == 40


def test_reading_goes_on_while_another_program_holds_the_database(
    client: TestClient, project: dict, data_settings: Settings
) -> None:
    track = project["tracks"][0]["id"]
    send(client, track, 0, "first", caption("a", 0, 1000, "one"))
    with locked_database(data_settings.data):
        refused = send(client, track, 1, "k", caption("b", 2000, 3000, "two"))
        assert (refused.status_code, refused.json()["code"]) == (503, "storage.busy")
        assert int(refused.headers["Retry-After"]) > 0
        assert set(statuses(client, project).values()) == {200}
    assert send(client, track, 1, "k", caption("b", 2000, 3000, "two")).status_code == 200
    assert captions_of(client, track) == ["a", "b"]


def test_a_folder_that_cannot_be_written_to_is_read(client: TestClient, project: dict) -> None:
    track = project["tracks"][0]["id"]
    with read_only(client.app.state.services.engine):
        refused = send(client, track, 0, "k", caption("a", 0, 1000, "one"))
        assert (refused.status_code, refused.json()["code"]) == (503, "storage-fault.read-only")
        assert set(statuses(client, project).values()) == {200}


def test_whichever_write_of_an_edit_fails_all_of_it_or_nothing_is_stored(
    client: TestClient, project: dict
) -> None:
    track = project["tracks"][0]["id"]
    editor = Editor(client, track)
    editor.insert(caption("a", 0, 1000, "one"))
    engine = client.app.state.services.engine
    reached = 0
    for number in range(60):
        before, revision = captions_of(client, track), editor.revision
        key, new = f"k{number}", caption(f"n{number}", 5000 + number * 2000, 6000 + number * 2000)
        with failing_write(engine, number) as written:
            answer = send(client, track, revision, key, new)
        if answer.status_code == 200:
            assert len(written) <= number
            break
        reached += 1
        assert (answer.status_code, answer.json()["code"]) == (507, "storage.full")
        assert captions_of(client, track) == before
        again = send(client, track, revision, key, new)
        assert again.status_code == 200
        editor.revision = again.json()["revision"]
        assert captions_of(client, track) == [*before, new["id"]]
    assert 1 < reached < 60


def test_a_job_whose_end_cannot_be_written_is_taken_up_again(
    client: TestClient, project: dict, monkeypatch: pytest.MonkeyPatch
) -> None:
    services = client.app.state.services
    job = services.queue.add(project["id"], "guess-speakers", {})
    done = {"count": 0}

    def work(_: object) -> dict[str, int]:
        done["count"] += 1
        return done

    monkeypatch.setitem(jobs.KINDS, "guess-speakers", work)
    with failing_write(services.engine, 1), pytest.raises(OperationalError):
        # It could say that it began, but not that it ended.
        services.queue._run(job.id)
    assert services.jobs.get(job.id).state == "running"
    monkeypatch.setattr(jobs, "_SILENT_MS", -1)
    services.queue._take_up_silent()
    assert services.jobs.get(job.id).state == "waiting"
    services.queue._run(job.id)
    assert (services.jobs.get(job.id).state, done["count"]) == ("done", 2)


def test_a_job_that_finds_the_disk_full_says_so(
    client: TestClient, project: dict, monkeypatch: pytest.MonkeyPatch
) -> None:
    services = client.app.state.services
    job = services.queue.add(project["id"], "guess-speakers", {})

    def work(_: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setitem(jobs.KINDS, "guess-speakers", work)
    services.queue._run(job.id)
    assert services.jobs.get(job.id).error["code"] == "storage.full"


@pytest.mark.parametrize(("broken", "words"), [("damaged", "damaged"), ("file", "cannot be")])
def test_a_data_folder_that_is_none_is_told_in_a_line(
    tmp_path: Path, broken: str, words: str
) -> None:
    data = tmp_path / "data"
    if broken == "damaged":
        data.mkdir()
        (data / "dunlin.db").write_bytes(b"no database at all, but some other file" * 100)
    else:
        (data / "dunlin.db").mkdir(parents=True)
    command = [sys.executable, "-m", "dunlin", "serve", "--port", "0", "--data", str(data)]
    run = subprocess.run(command, capture_output=True, text=True, timeout=120)
    assert run.returncode == 2
    (line,) = run.stderr.strip().splitlines()
    assert line.startswith("dunlin: ")
    assert words in line


def test_a_name_that_came_in_too_long_hides_no_project(client: TestClient, project: dict) -> None:
    services = client.app.state.services
    long = add_speakers(services.projects.get(project["id"]), ["I" * 300])
    services.log.edit(project["id"], [long], Author("older"))
    listed = client.get("/api/projects")
    assert listed.status_code == 200
    assert [len(s["name"]) for s in listed.json()[0]["speakers"]] == [300]


def test_what_is_no_fault_of_the_storage_is_none() -> None:
    assert storage_fault(ValueError("x")) is None
    assert storage_fault(FileNotFoundError(errno.ENOENT, "gone")) is None
    full = storage_fault(OSError(errno.ENOSPC, "No space left on device"))
    assert full is not None
    assert full.is_full
