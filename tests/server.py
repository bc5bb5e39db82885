"""A running `dunlin serve` for tests, with its worker."""

import contextlib
import os
import runpy
import socket
import sys
import time
from collections.abc import Callable, Mapping, Sequence
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import httpx

__all__ = ["Server", "wait_for"]

PATIENCE_SECONDS = 240
_STOPS_SECONDS = 15

# To load a server takes most of its start: it is loaded once, in a process that every other one is forked from.
_LOADED = get_context("forkserver")
_LOADED.set_forkserver_preload(["dunlin.serving", "dunlin.cli", "dunlin.stand_ins.video_host"])


def _run(program: str, arguments: Sequence[str], environment: Mapping[str, str]) -> None:
    """`python -m program` with its arguments, in an environment."""
    os.environ.clear()
    os.environ.update(environment)
    sys.argv[1:] = arguments
    with Path(os.devnull).open("w") as nowhere, contextlib.redirect_stdout(nowhere):
        runpy.run_module(program, run_name="__main__", alter_sys=True)


def wait_for(ready: Callable[[], Any], what: str) -> Any:
    """What `ready` gives as soon as it gives something true."""
    end = time.monotonic() + PATIENCE_SECONDS
    while time.monotonic() < end:
        if found := ready():
            return found
        time.sleep(0.05)
    raise AssertionError(f"waited in vain for {what}")


class Server:
    """`dunlin serve` on a free port; `http` talks to it. Another program, or another command, may stand in for it.

    :param answers: an address that is there once it can be talked to
    """

    def __init__(
        self,
        data: Path,
        *options: str,
        port: int | None = None,
        program: str = "dunlin",
        command: str = "serve",
        answers: str = "/api/specs",
        headers: dict[str, str] | None = None,
    ) -> None:
        if port is None:
            with socket.socket() as free:
                free.bind(("127.0.0.1", 0))
                port = free.getsockname()[1]
        self.port, self.data = port, data
        self._ready = answers
        line = [command, "--port", str(self.port), "--data", str(data), *options]
        self.process = _LOADED.Process(target=_run, args=(program, line, dict(os.environ)))
        self.process.start()
        self.url = f"http://127.0.0.1:{self.port}"
        # The server closes what was idle for five seconds; a request must not meet that moment.
        idle = httpx.Limits(keepalive_expiry=1)
        self.http = httpx.Client(base_url=self.url, timeout=30, limits=idle, headers=headers)
        # One that ended waits for nobody; what is asked of it then fails.
        wait_for(lambda: self._answers() or self.has_ended, "the server")

    @property
    def has_ended(self) -> bool:
        return not self.process.is_alive()

    def _answers(self) -> bool:
        with contextlib.suppress(httpx.TransportError):
            return self.http.get(self._ready).status_code == 200
        return False

    def get(self, address: str) -> Any:
        answer = self.http.get(address)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def post(self, address: str, **request: Any) -> Any:
        answer = self.http.post(address, **request)
        assert answer.status_code < 300, answer.text
        return answer.json()

    def upload(self, film: Path) -> Any:
        return self.post("/api/projects", params={"name": film.name}, content=film.read_bytes())

    def job(self, project_id: str, kind: str) -> Any:
        """The newest job of a kind, as soon as there is one."""

        def newest() -> Any:
            jobs = self.get(f"/api/projects/{project_id}")["jobs"]
            return next((job for job in jobs if job["kind"] == kind), None)

        return wait_for(newest, f"a job {kind}")

    def wait_for_job(self, project_id: str, kind: str, *states: str) -> Any:
        def reached() -> Any:
            job = self.job(project_id, kind)
            return job if job["state"] in states else None

        return wait_for(reached, f"{kind} to be {' or '.join(states)}")

    def wait_idle(self) -> None:
        """Until no job runs or waits: measures are not taken beside other work."""

        def idle() -> bool:
            jobs = [job for project in self.get("/api/projects") for job in project["jobs"]]
            return not any(job["state"] in ("running", "waiting") for job in jobs)

        wait_for(idle, "all jobs to end")

    def stop(self) -> None:
        self.http.close()
        self.process.terminate()
        self.process.join(_STOPS_SECONDS)
        self.process.kill()
        self.process.join()
