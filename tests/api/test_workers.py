"""Workers that are killed, stopped and started again: no job is lost, and none is done for ever."""

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
from collections.abc import Iterator, Mapping
from pathlib import Path

import pytest
import redis

from tests.conftest import DEMO
from tests.server import Server, wait_for


@pytest.fixture
def server(tmp_path: Path) -> Iterator[Server]:
    server = Server(tmp_path / "data")
    yield server
    server.stop()


def worker_of(server: Server) -> int:
    """Process id of the server's worker."""
    children = Path(f"/proc/{server.process.pid}/task").glob("*/children")
    found = " ".join(path.read_text() for path in children).split()
    return int(found[0]) if found else 0


def test_a_killed_worker_s_job_is_taken_up_again_and_given_up_the_second_time(
    server: Server, films: Mapping[str, Path], tmp_path: Path
) -> None:
    project = server.upload(films["plain"])
    track = project["tracks"][0]["id"]
    server.post(f"/api/tracks/{track}/burn", json={"encoding": {"crf": 18, "height": 480}})
    server.wait_for_job(project["id"], "burn", "running")
    first = worker_of(server)
    os.kill(first, signal.SIGKILL)
    wait_for(lambda: server.job(project["id"], "burn")["attempts"] == 2, "a second attempt")
    assert wait_for(lambda: worker_of(server), "a new worker") != first
    os.kill(worker_of(server), signal.SIGKILL)
    failed = server.wait_for_job(project["id"], "burn", "failed")
    assert failed["error"] == {"code": "jobs.worker-stopped", "values": {"count": 2}}
    assert list((tmp_path / "data" / "results").iterdir()) == []
    server.post(f"/api/jobs/{failed['id']}/retry")
    server.wait_for_job(project["id"], "burn", "running")
    server.post(f"/api/jobs/{failed['id']}/cancel")
    server.wait_for_job(project["id"], "burn", "cancelled")
    assert server.http.get(f"/api/jobs/{failed['id']}/file").status_code == 404


def test_ordinary_restarts_are_no_failed_attempts(
    tmp_path: Path, films: Mapping[str, Path]
) -> None:
    server = Server(tmp_path / "data")
    project = server.upload(films["plain"])
    address = f"/api/tracks/{project['tracks'][0]['id']}/burn"
    server.post(address, json={"encoding": {"crf": 18, "height": 480}})
    for _ in range(2):
        server.wait_for_job(project["id"], "burn", "running")
        server.stop()
        server = Server(tmp_path / "data")
    job = server.wait_for_job(project["id"], "burn", "running", "done")
    assert job["attempts"] <= 1
    server.post(f"/api/jobs/{job['id']}/cancel")
    server.stop()


@pytest.fixture
def redis_url(tmp_path: Path) -> Iterator[str]:
    """A Redis of the test's own."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = ["redis-server", "--port", str(port), "--bind", "127.0.0.1", "--save", "", "--dir", str(tmp_path)]  # fmt: skip
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    client = redis.Redis(port=port)

    def answers() -> bool:
        with contextlib.suppress(redis.ConnectionError):
            return bool(client.ping())
        return False

    wait_for(answers, "Redis")
    yield f"redis://127.0.0.1:{port}"
    process.terminate()
    process.wait()


def test_through_redis_a_second_worker_takes_over_from_one_that_is_killed(
    tmp_path: Path, films: Mapping[str, Path], redis_url: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("DUNLIN_QUEUE_URL", redis_url)
    data = tmp_path / "data"
    server = Server(data)
    second = subprocess.Popen([sys.executable, "-m", "dunlin", "worker", "--data", str(data)])
    try:
        project = server.upload(films["plain"])
        track = project["tracks"][0]["id"]
        server.post(f"/api/tracks/{track}/burn", json={"encoding": {"crf": 40, "height": 180}})
        server.wait_for_job(project["id"], "burn", "running")
        # Whichever of the two does it: the server's is killed, and a new one comes in its place.
        os.kill(worker_of(server), signal.SIGKILL)
        done = server.wait_for_job(project["id"], "burn", "done", "failed")
        assert (done["state"], done["attempts"] <= 2) == ("done", True)
        assert not (data / "queue.db").exists()
    finally:
        second.kill()
        second.wait()
        server.stop()


def test_hearing_goes_on_where_a_killed_worker_stopped(
    server: Server, films: Mapping[str, Path]
) -> None:
    project = server.upload(films["half"])
    address = f"/api/projects/{project['id']}"

    def texts() -> list[str]:
        return [word["text"] for word in server.get(f"{address}/words")["words"]]

    engine = server.get("/api/engines")[0]["name"]
    server.post(f"{address}/recognise", json={"engine": engine, "language": "en", "quick": True})
    wait_for(lambda: len(texts()) >= 40, "forty words")
    os.kill(worker_of(server), signal.SIGKILL)
    before = texts()
    seen: list[list[str]] = []

    def done() -> bool:
        seen.append(texts())
        job = server.job(project["id"], "recognise")
        return job["attempts"] == 2 and job["state"] in ("done", "failed")

    wait_for(done, "the words to be heard to their end")
    # What was heard up to the last pause was never given up, and nothing was heard twice.
    kept = min(map(len, seen))
    assert kept > 25
    assert all(words[:25] == before[:25] for words in seen)
    words = json.loads((DEMO / "fog-bell.words.json").read_text())["words"]
    spoken = [word for word in words if word["end_ms"] < 36_000]
    assert len(seen[-1]) == pytest.approx(len(spoken), rel=0.06)


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_the_worker_ends_with_its_server(tmp_path: Path, how: signal.Signals) -> None:
    server = Server(tmp_path / "data")
    worker = wait_for(lambda: worker_of(server), "the worker")
    os.kill(server.process.pid, how)
    server.process.join(20)
    wait_for(lambda: not Path(f"/proc/{worker}").exists(), "the worker to end")
    server.stop()
