"""Edits through a server, and opening a project in a browser."""

import time
from pathlib import Path
from statistics import median

import httpx

from tests.conftest import FILM
from tests.server import Server
from tests.ui.conftest import open_browser

__all__ = ["edit", "edits", "frames_called", "insert", "opening"]


def edits(folder: Path) -> dict[str, float]:
    """Median milliseconds from request to answer, over one connection."""
    server = Server(folder / "data")
    try:
        tracks, seen = {}, {}
        for count in (100, 10_000):
            project = server.upload(FILM)
            track = project["tracks"][0]["id"]
            captions = [
                {
                    "id": f"c{n}",
                    "in_ms": n * 1200,
                    "out_ms": n * 1200 + 1000,
                    "spans": [{"text": "Two lines\nof it"}],
                }
                for n in range(count)
            ]
            operation = {"kind": "insert-captions", "captions": captions}
            seen[count] = edit(server.http, track, 0, operation)
            tracks[count] = track
        server.wait_idle()
        taken: dict[str, list[float]] = {"empty": [], "100": [], "10000": [], "page": []}
        for turn in range(300):
            for count, track in tracks.items():
                change = {"caption": f"c{count // 2}", "text": f"Words {turn}"}
                operation = {"kind": "change-captions", "changes": [change]}
                start = time.perf_counter()
                seen[count] = edit(server.http, track, seen[count], operation)
                taken[str(count)].append(time.perf_counter() - start)
            start = time.perf_counter()
            seen[10_000] = _write(server.http, tracks[10_000], seen[10_000], ["c40", "c41"], turn)
            taken["page"].append(time.perf_counter() - start)
            start = time.perf_counter()
            server.http.get("/api/specs")
            taken["empty"].append(time.perf_counter() - start)
        return {name: median(times) * 1000 for name, times in taken.items()}
    finally:
        server.stop()


def edit(http: httpx.Client, track: str, revision: int, operation: dict) -> int:
    """Makes an edit, and gives the revision it was told."""
    body = {
        "base_revision": revision,
        "gesture": f"g{revision}",
        "operation": operation,
    }
    answer = http.post(f"/api/tracks/{track}/edits", json=body).raise_for_status()
    return int(answer.json()["revision"])


def _write(http: httpx.Client, track: str, revision: int, ids: list[str], turn: int) -> int:
    texts = ["Two lines", f"of it\n{turn} two lines of it"]
    body = {"base_revision": revision, "gesture": f"p{revision}",
            "captions": ids, "texts": texts}  # fmt: skip
    answer = http.post(f"/api/tracks/{track}/page", json=body).raise_for_status()
    return int(answer.json()["revision"])


_PAINTED = """
const done = arguments[0]
const look = () => document.querySelector('.card') ? done(performance.now()) : requestAnimationFrame(look)
look()
"""
# Until the whole track is there: so what is measured next does not begin while this goes on.
_WHOLE = """
const [count, done] = arguments
const look = () => document.querySelector('.status').textContent.includes(`${count} captions`) ? done() : setTimeout(look, 50)
look()
"""


def insert(server: Server, project: dict, count: int, step_ms: int) -> None:
    """Puts captions of two lines into a project, one after the other."""
    captions = [
        {"id": f"c{n}", "in_ms": n * step_ms, "out_ms": n * step_ms + 1000, "spans": [{"text": "Two lines\nof it"}]}
        for n in range(count)
    ]  # fmt: skip
    operation = {"kind": "insert-captions", "captions": captions}
    edit(server.http, project["tracks"][0]["id"], 0, operation)


def opening(folder: Path) -> tuple[float, float]:
    """Milliseconds until the first caption is drawn: three hours with 10,000 captions, and the demo."""
    sound = folder / "three-hours.m4a"
    server = Server(folder / "opened", "--demo")
    browser = open_browser(folder)
    try:
        demo = server.get("/api/projects")[0]
        long = server.upload(sound)
        insert(server, long, 10_000, 1080)
        server.wait_idle()

        def painted(project: dict) -> float:
            browser.get(f"{server.url}/project/{project['id']}/time")
            took = float(browser.execute_async_script(_PAINTED))
            count = len(server.get(f"/api/tracks/{project['tracks'][0]['id']}")["captions"])
            browser.execute_async_script(_WHOLE, count)
            return took

        times = [(painted(long), painted(demo)) for _ in range(6)]
        return min(mine for mine, _ in times), min(theirs for _, theirs in times)
    finally:
        browser.quit()
        server.stop()


_PLAYED_MS = 5000
_SHOWN = """
const [played, done] = arguments
const video = document.querySelector('video')
const go = async () => {
  video.currentTime = 0.2
  video.muted = true
  await new Promise((resolve) => video.addEventListener('seeked', resolve, { once: true }))
  await video.play()
  let calls = 0
  const called = () => { calls++; video.requestVideoFrameCallback(called) }
  video.requestVideoFrameCallback(called)
  setTimeout(() => {
    video.pause()
    done(calls)
  }, played)
}
void go()
"""


def frames_called(folder: Path) -> tuple[str, tuple[float, float]]:
    """The look that is dearest to play, and frame callbacks of five seconds of the upright demo in it and of the bare film.

    720 by 1280 pixels, 30 frames a second; each the better of two, in turns.
    """
    server = Server(folder / "played", "--demo")
    browser = open_browser(folder)
    try:
        server.wait_idle()
        project = server.get("/api/projects/low-water")
        track = f"/api/tracks/{project['tracks'][0]['id']}"
        looks = [each["look"] for each in server.get("/api/looks")]
        best = {look["name"]: 0.0 for look in looks}
        bare = 0.0
        for _ in range(2):
            browser.get(f"{server.url}/api/films/{project['film']['id']}/file")
            calls = browser.execute_async_script(_SHOWN, _PLAYED_MS)
            bare = max(bare, calls)
            for look in looks:
                revision = server.get(track)["revision"]
                body = {"base_revision": revision, "gesture": look["name"], "look": look}
                server.http.post(f"{track}/short", json=body)
                browser.get(f"{server.url}/project/low-water/style?view=short")
                browser.execute_async_script(_DRAWN)
                calls = browser.execute_async_script(_SHOWN, _PLAYED_MS)
                best[look["name"]] = max(best[look["name"]], calls)
        dearest = min(best, key=best.__getitem__)
        return dearest, (best[dearest], bare)
    finally:
        browser.quit()
        server.stop()


_DRAWN = """
const done = arguments[0]
const look = () => {
  const canvas = document.querySelector('.film canvas[data-drawn]')
  canvas && canvas.dataset.drawn === canvas.dataset.asked ? done() : setTimeout(look, 50)
}
look()
"""
