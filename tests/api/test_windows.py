"""Windows of several people on one track, made of the page's own modules, on the real server."""

import json
import os
import signal
import sqlite3
import subprocess
import threading
import time
from contextlib import closing
from pathlib import Path

import pytest

from tests.server import Server, wait_for

FRONTEND = Path(__file__).parents[2] / "frontend"
CAPTIONS = [
    {"id": f"c{n}", "in_ms": n * 2000, "out_ms": n * 2000 + 1500, "spans": [{"text": f"line {n}"}]}
    for n in range(12)
]


def acknowledged(said: Path) -> set[str]:
    """Words that a window was told are stored."""
    lines = [json.loads(line) for line in said.read_text().splitlines()]
    return {line["acknowledged"] for line in lines if "acknowledged" in line}


def logged(data: Path) -> str:
    """All that the log of the data folder says."""
    with closing(sqlite3.connect(data / "dunlin.db")) as database:
        return " ".join(row[0] for row in database.execute("SELECT operation FROM log"))


def check_links(server: Server, source: str, target: str) -> None:
    """Every caption of a translation has a link, of sources that are there and shown in its time; no link is of one that
    is gone."""
    said, became = (
        {caption["id"]: caption for caption in server.get(f"/api/tracks/{track}")["captions"]}
        for track in (source, target)
    )
    links = server.get(f"/api/tracks/{target}/translation")["links"]
    assert set(links) <= set(became)
    assert any(link["sources"] for link in links.values())
    for link in links.values():
        assert set(link["sources"]) <= set(said)
        assert len(set(link["sources"])) == len(link["sources"])


@pytest.mark.parametrize(
    ("seed", "steps", "faults"),
    [(1, 20, None), (3, 20, "killed"), (5, 6, "fails"), (9, 8, "dies"), (11, 20, "translated")],
)
def test_windows_end_equal_and_no_acknowledged_word_is_missing(
    tmp_path: Path,
    films: dict[str, Path],
    monkeypatch: pytest.MonkeyPatch,
    seed: int,
    steps: int,
    faults: str | None,
) -> None:
    """Under a server that is killed twice, or whose storage fails or which dies at any write; and on a source and its
    translation, whose links stay right whatever was done to either."""
    data, said = tmp_path / "data", tmp_path / "said"
    said.touch()
    server = Server(data)
    project = server.upload(films["silent"])
    track = project["tracks"][0]["id"]
    operation = {"kind": "insert-captions", "captions": CAPTIONS}
    server.post(
        f"/api/tracks/{track}/edits",
        json={"base_revision": 0, "gesture": "made", "operation": operation},
    )
    tracks = [track]
    if faults == "translated":
        asked = {"source": track, "language": "de"}
        tracks.append(server.post(f"/api/projects/{project['id']}/translations", json=asked)["id"])
    program = "tests.api.faulty_server" if faults in ("fails", "dies") else "dunlin"
    if program != "dunlin":
        monkeypatch.setenv("DUNLIN_FAULTS", str(faults))
        monkeypatch.setenv("DUNLIN_SEED", str(seed))
        server.stop()
        server = Server(data, port=server.port, program=program)
    environment = os.environ | {
        "DUNLIN_URL": server.url, "DUNLIN_PROJECT": project["id"], "DUNLIN_TRACKS": " ".join(tracks),
        "DUNLIN_SEED": str(seed), "DUNLIN_SAID": str(said), "DUNLIN_STEPS": str(steps),
    }  # fmt: skip
    windows = subprocess.Popen(
        ["npx", "vitest", "run", "--config", "vitest.live.config.ts"],
        cwd=FRONTEND, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
    )  # fmt: skip
    told: list[bytes] = []
    reading = threading.Thread(target=lambda: told.append(windows.communicate()[0]))
    reading.start()
    deaths = 0
    try:
        for n in range(2 if faults == "killed" else 0):
            # While they work: so many more words are stored since the last time.
            wait_for(
                lambda n=n: len(acknowledged(said)) > 4 * (n + 1) or windows.poll() is not None,
                "words to be stored",
            )
            os.kill(server.process.pid, signal.SIGKILL)
            server.process.join()
            server = Server(data, port=server.port)
        while faults == "dies" and windows.poll() is None:
            if server.has_ended:
                deaths += 1
                server = Server(data, port=server.port, program=program)
            time.sleep(0.05)
        reading.join(240)
        assert windows.poll() == 0, told[0].decode() if told else "the windows did not end"
        if faults == "translated":
            check_links(server, *tracks)
    finally:
        windows.kill()
        server.stop()
    assert deaths or faults != "dies"
    words = acknowledged(said)
    # How many there are goes by what failed when; without any, nothing was tried.
    assert words
    log = logged(data)
    assert [word for word in words if f'"{word}"' not in log] == []
