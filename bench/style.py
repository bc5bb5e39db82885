"""Style in a browser: a caption dragged on the picture, and styles drawn side by side."""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np

from bench.page import insert
from dunlin.media.following import followed
from dunlin.media.probe import probe
from tests.conftest import FILM
from tests.server import Server
from tests.signs import SIZE, film_of_a_sign, mark_at, place_at
from tests.ui.conftest import open_browser
from tests.ui.page import Page

__all__ = ["dragging", "following", "specimens"]

_CAPTIONS, _STYLES, _MOVES = 2000, 20, 80
_SETTLED_SECONDS = 1.5

# Each move is told when its frame and its letters are drawn.
_DRAG = """
const [moves, done] = arguments
const surface = document.querySelector('[data-surface]')
const canvas = document.querySelector('.frame canvas')
const box = document.querySelector('[data-frame].current').getBoundingClientRect()
const at = (type, dx, dy) => surface.dispatchEvent(new PointerEvent(type, {
  bubbles: true, button: 0, pointerId: 1, clientX: box.x + box.width / 2 + dx, clientY: box.y + box.height / 2 + dy,
}))
surface.setPointerCapture = () => undefined
const drawn = () => new Promise((resolve) => new MutationObserver((_, watch) => { watch.disconnect(); resolve() }).observe(canvas, { attributeFilter: ['data-drawn'] }))
const run = async () => {
  const took = []
  at('pointerdown', 0, 0)
  for (let n = 1; n <= moves; n++) {
    const next = drawn()
    const from = performance.now()
    at('pointermove', 10 + n, -10 - n)
    await next
    took.push(performance.now() - from)
    await new Promise(requestAnimationFrame)
  }
  at('pointerup', 0, 0)
  done(took)
}
run()
"""
_SPECIMENS = """
const [count, done] = arguments
const opener = document.querySelector('[data-stage=style]')
const open = () => {
  const from = performance.now()
  const look = () => document.querySelector('[data-specimens]')?.dataset.drawn === String(count) ? done(performance.now() - from) : setTimeout(look, 4)
  look()
  opener.click()
}
opener.dispatchEvent(new PointerEvent('pointerenter'))
setTimeout(open, 250)
"""


def following(folder: Path) -> tuple[float, float]:
    """Frames a second at which a sign in a picture of 720 lines is followed, and by how many pixels it is off on the mean."""
    film = folder / "sign.mp4"
    film_of_a_sign(film)
    facts = probe(film)
    began = time.perf_counter()
    path = followed(film, facts, [mark_at(60)])
    taken = time.perf_counter() - began
    off = [
        np.hypot(seen.x * SIZE[0] - x, seen.y * SIZE[1] - y)
        for seen in path.seen
        for x, y in [place_at(seen.frame)[:2]]
    ]
    return len(path.seen) / taken, float(np.mean(off))


def dragging(folder: Path) -> float:
    """Milliseconds from a move of the pointer until frame and letters are drawn there: 95 of 100 are no later, in the best
    of three drags."""
    times = []
    with _opened(folder / "dragged") as page:
        project = _project(page.server)
        for _ in range(3):
            page.open(f"/project/{project['id']}/style")
            page.find("[data-frame].current")
            page.find("[data-style-panel] .rows")
            took = page.browser.execute_async_script(_DRAG, _MOVES)
            times.append(float(np.percentile(took[5:], 95)))
    return min(times)


def specimens(folder: Path) -> float:
    """Milliseconds from the press that opens the stage until twenty styles are drawn, the median of nine. The project has been
    open for a while, and the pointer came to the button a quarter of a second before."""
    with _opened(folder / "specimens") as page:
        project = _project(page.server)
        for n in range(_STYLES):
            look = {"colour": f"#F0{n:02X}40", "size": 0.05 + n / 1000, "outline": n / 4000}
            page.server.http.put(
                f"/api/projects/{project['id']}/styles/Style {n}", json={"look": look}
            )
        times = []
        for _ in range(9):
            page.open_project(project)
            time.sleep(_SETTLED_SECONDS)
            times.append(float(page.browser.execute_async_script(_SPECIMENS, _STYLES)))
        return float(np.median(times))


@contextmanager
def _opened(folder: Path) -> Iterator[Page]:
    """A window and its server, for as long as they are needed."""
    folder.mkdir()
    server, browser = Server(folder / "data"), open_browser(folder)
    try:
        yield Page(browser, server)
    finally:
        browser.quit()
        server.stop()


def _project(server: Server) -> dict:
    """The demo film with many captions, of which the film shows one at a time."""
    project = server.upload(FILM)
    insert(server, project, _CAPTIONS, 3000)
    server.wait_idle()
    return dict(project)
