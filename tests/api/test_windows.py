"""Windows of several people on one track, made of the page's own modules, on the real server."""

import json
import os
import signal
import sqlite3
import subprocess
import threading
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


@pytest.mark.parametrize(("seed", "killed"), [(1, 0), (3, 2)])
def test_windows_end_equal_and_no_acknowledged_word_is_missing(
    tmp_path: Path, films: dict[str, Path], seed: int, killed: int
) -> None:
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
    environment = os.environ | {
        "DUNLIN_URL": server.url, "DUNLIN_PROJECT": project["id"], "DUNLIN_TRACK": track,
        "DUNLIN_SEED": str(seed), "DUNLIN_SAID": str(said), "DUNLIN_STEPS": "30",
    }  # fmt: skip
    windows = subprocess.Popen(
        ["npx", "vitest", "run", "--config", "vitest.live.config.ts"],
        cwd=FRONTEND, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
    )  # fmt: skip
    told: list[bytes] = []
    reading = threading.Thread(target=lambda: told.append(windows.communicate()[0]))
    reading.start()
    try:
        for n in range(killed):
            # While they work: so many more words are stored since the last time.
            wait_for(
                lambda n=n: len(acknowledged(said)) > 4 * (n + 1) or windows.poll() is not None,
                "words to be stored",
            )
            os.kill(server.process.pid, signal.SIGKILL)
            server.process.wait()
            server = Server(data, port=server.port)
        reading.join(240)
        assert windows.poll() == 0, told[0].decode() if told else "the windows did not end"
    finally:
        windows.kill()
        server.stop()
    words = acknowledged(said)
    assert len(words) > 10
    log = logged(data)
    assert [word for word in words if f'"{word}"' not in log] == []
