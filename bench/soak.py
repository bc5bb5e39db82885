"""Load and length, measured on a running server for the table of docs/reliability.md: `make soak`."""

import asyncio
import statistics
import tempfile
import time
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any

import httpx

from tests.api.faults import locked_database
from tests.conftest import FILM, Films, ffmpeg
from tests.server import Server

__all__ = ["main"]

_STREAMS, _EDITS = 500, 30
_UPLOADS, _UPLOAD_SECONDS = 200, 20
_BURNS = 20
_HOURS = 5
_LOCKED_SECONDS = 10
_PATIENCE_SECONDS = 3600


def main() -> None:
    """Prints a row for each load. Takes a quarter of an hour."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        server = Server(folder / "data")
        try:
            film = Films(folder)["short"]
            project = server.upload(film)
            for load in (
                lambda: _locked(server, folder / "data", project),
                lambda: asyncio.run(_listening(server, project)),
                lambda: asyncio.run(_slow_uploads(server, film)),
                lambda: _burns(server, film),
                lambda: _long_film(server, folder),
            ):
                print(f"| {load()} |", flush=True)
        finally:
            server.stop()


def _memory_mb(server: Server) -> int:
    """Of the server process, the most it ever had."""
    status = Path(f"/proc/{server.process.pid}/status").read_text()
    (line,) = (line for line in status.splitlines() if line.startswith("VmHWM"))
    return int(line.split()[1]) // 1024


def _spread(seconds: list[float]) -> str:
    hundredths = statistics.quantiles(seconds, n=100)
    return f"half within {statistics.median(seconds) * 1000:.0f} ms, 95 % within {hundredths[94] * 1000:.0f} ms"


def _locked(server: Server, data: Path, project: dict[str, Any]) -> str:
    took = []
    with locked_database(data):
        ends = time.monotonic() + _LOCKED_SECONDS
        while time.monotonic() < ends:
            began = time.monotonic()
            server.get(f"/api/tracks/{project['tracks'][0]['id']}")
            took.append(time.monotonic() - began)
    return f"a track read while another program holds the write lock | {_spread(took)}"


async def _listening(server: Server, project: dict[str, Any]) -> str:
    """How long an edit takes to reach all of many windows."""
    address = f"/api/projects/{project['id']}/events"
    arrived: list[float] = []
    sent: list[float] = []
    async with _client(server) as client:

        async def listen(ready: asyncio.Semaphore) -> None:
            async with client.stream("GET", address) as answer:
                async for line in answer.aiter_lines():
                    if line == "event: ready":
                        ready.release()
                    if line == "event: changed":
                        arrived.append(time.monotonic() - sent[-1])

        ready = asyncio.Semaphore(0)
        listeners = [asyncio.create_task(listen(ready)) for _ in range(_STREAMS)]
        for _ in listeners:
            await ready.acquire()
        await _edit_each_second(client, project, sent)
        await asyncio.sleep(2)
        for listener in listeners:
            listener.cancel()
        await asyncio.gather(*listeners, return_exceptions=True)
    missed = _STREAMS * _EDITS - len(arrived)
    return (
        f"an edit a second, {_STREAMS} windows listening | {_spread(arrived)}; {missed} not told; "
        f"{_memory_mb(server)} MB"
    )


async def _edit_each_second(
    client: httpx.AsyncClient, project: dict[str, Any], sent: list[float]
) -> None:
    track = project["tracks"][0]["id"]
    for number in range(_EDITS):
        caption = {"id": f"s{number}", "in_ms": number * 2000, "out_ms": number * 2000 + 900,
                   "spans": [{"text": f"Sounding {number}"}]}  # fmt: skip
        edit = {"base_revision": 0, "gesture": f"s{number}",
                "operation": {"kind": "insert-captions", "captions": [caption]}}  # fmt: skip
        sent.append(time.monotonic())
        answer = await client.post(f"/api/tracks/{track}/edits", json=edit)
        answer.raise_for_status()
        await asyncio.sleep(1)


async def _slow_uploads(server: Server, film: Path) -> str:
    """How long reading takes while many films come in slowly."""
    data = film.read_bytes()
    pieces = [
        data[at : at + len(data) // 50 + 1] for at in range(0, len(data), len(data) // 50 + 1)
    ]

    async def slowly() -> AsyncIterator[bytes]:
        for piece in pieces:
            yield piece
            await asyncio.sleep(_UPLOAD_SECONDS / len(pieces))

    async with _client(server) as client:

        async def upload(number: int) -> str:
            answer = await client.post(
                "/api/projects", params={"name": f"{number}.mp4"}, content=slowly()
            )
            answer.raise_for_status()
            return str(answer.json()["id"])

        uploads = asyncio.gather(*(upload(number) for number in range(_UPLOADS)))
        took = await _meanwhile(uploads, lambda: client.get("/api/specs"))
        for id_ in await uploads:
            await client.delete(f"/api/projects/{id_}")
    return f"{_UPLOADS} films coming in over {_UPLOAD_SECONDS} s | {_spread(took)} for a request beside them; {_memory_mb(server)} MB"


@asynccontextmanager
async def _client(server: Server) -> AsyncIterator[httpx.AsyncClient]:
    limits = httpx.Limits(max_connections=None)
    async with httpx.AsyncClient(base_url=server.url, limits=limits, timeout=None) as client:
        yield client


async def _meanwhile(
    work: "asyncio.Future[Any]", ask: Callable[[], Awaitable[httpx.Response]]
) -> list[float]:
    """How long a request takes, asked again and again until some work is done."""
    took = []
    while not work.done():
        began = time.monotonic()
        (await ask()).raise_for_status()
        took.append(time.monotonic() - began)
        await asyncio.sleep(0.1)
    return took


def _burns(server: Server, film: Path) -> str:
    projects = [server.upload(film) for _ in range(_BURNS)]
    began = time.monotonic()
    for project in projects:
        server.post(f"/api/tracks/{project['tracks'][0]['id']}/burn", json={"height": 240})
    states = [_ended(server, project["id"], "burn")["state"] for project in projects]
    took = time.monotonic() - began
    return f"{_BURNS} burns queued | {states.count('done')} done in {took:.0f} s"


def _long_film(server: Server, folder: Path) -> str:
    path = folder / "long.mp4"
    seconds = str(_HOURS * 3600)
    ffmpeg("-f", "lavfi", "-i", "testsrc=size=160x90:rate=5", "-stream_loop", "-1", "-i", str(FILM), "-map", "0:v",
           "-map", "1:a", "-t", seconds, "-c:v", "libx264", "-preset", "ultrafast", "-crf", "40",
           "-c:a", "copy", str(path))  # fmt: skip
    began = time.monotonic()
    project = server.upload(path)
    came = time.monotonic() - began
    states = {
        kind: _ended(server, project["id"], kind)["state"] for kind in ("peaks", "speech", "shots")
    }
    took = time.monotonic() - began
    done = all(state == "done" for state in states.values())
    return (
        f"a film of {_HOURS} hours | there in {came:.0f} s; peaks, speech and shot changes "
        f"{'done' if done else states} after {took:.0f} s; {_memory_mb(server)} MB"
    )


def _ended(server: Server, project_id: str, kind: str) -> dict[str, Any]:
    ends = time.monotonic() + _PATIENCE_SECONDS
    while time.monotonic() < ends:
        job: dict[str, Any] = server.job(project_id, kind)
        if job["state"] not in ("running", "waiting"):
            return job
        time.sleep(1)
    raise TimeoutError(f"{kind} does not end")


if __name__ == "__main__":
    main()
