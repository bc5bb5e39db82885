"""A long track must feel like a short one: the main thread is never busy for more than 50 ms.

The limit holds for the machine of docs/performance.md; on a slower one it is as much longer as a
fixed piece of work takes longer there.
"""

from collections.abc import Callable

import pytest
from selenium.webdriver import Keys

from tests.conftest import ffmpeg
from tests.server import wait_for
from tests.ui.page import Page, captions_every
from tests.ui.test_transcript import put_words
from tests.ui.tracing import main_thread_tasks

pytestmark = pytest.mark.quiet

LONGEST_TASK_MS = 50
YARDSTICK_MS = 130
ROUNDS = 5

SCROLL = """
const done = arguments[0]
const page = document.querySelector('.page')
const end = page.scrollHeight - page.clientHeight
let step = 0
function next() {
  page.scrollTop = step < 90 ? step * 60 : (end * (step - 90)) / 60
  if (++step <= 150) requestAnimationFrame(next)
  else done(page.scrollTop / end)
}
next()
"""
YARDSTICK = """
const ground = document.body.appendChild(document.createElement('div'))
for (let n = 0; n < 4000; n++) {
  const line = ground.appendChild(document.createElement('p'))
  line.textContent = `Line ${n}`
  line.style.paddingLeft = `${n % 7}px`
}
const height = ground.offsetHeight
ground.remove()
return height
"""


@pytest.fixture(scope="session")
def long_sound(tmp_path_factory: pytest.TempPathFactory):
    sound = tmp_path_factory.mktemp("long") / "long.m4a"
    ffmpeg(
        "-f", "lavfi", "-i", "anoisesrc=r=16000:a=0.1:d=2401,tremolo=f=1", "-b:a", "24k", str(sound)
    )
    return sound


@pytest.fixture(scope="session", params=[2000, 10_000])
def long_project(request, server, long_sound):
    """Captions all through forty minutes of sound; of ten thousand, most stand behind its end."""
    project = server.upload(long_sound)
    server.post(
        f"/api/tracks/{project['tracks'][0]['id']}/edits",
        json={"base_revision": 0, "gesture": "made",
              "operation": {"kind": "insert-captions", "captions": captions_every(1200, request.param, 1000)}},
    )  # fmt: skip
    server.wait_idle()
    return project, request.param


def test_thousands_of_captions_scroll_and_play_without_a_long_task(
    page: Page, long_project
) -> None:
    project, count = long_project
    open_long(page, project)

    def scroll_and_play() -> None:
        assert page.browser.execute_async_script(SCROLL) > 0.99
        page.card(count)
        page.press("HOME", "SPACE")
        wait_for(lambda: page.clock() > "00:00:04.000", "four seconds of play")
        page.press("k")

    assert_quick(page, scroll_and_play)


def test_thousands_of_captions_are_dragged_and_zoomed_without_a_long_task(
    page: Page, long_project
) -> None:
    project, _ = long_project
    open_long(page, project)

    def drag_and_zoom() -> None:
        page.press("HOME")
        page.drag(page.card(3), 30, at_y=0)
        page.wait_saved()
        page.press("+", "+", "-", "-", "Ctrl+z")
        page.wait_saved()

    assert_quick(page, drag_and_zoom)


def test_all_later_captions_are_dragged_along_without_a_long_task(page: Page, long_project) -> None:
    project, _ = long_project
    open_long(page, project)

    def drag_all() -> None:
        page.press("HOME")
        page.drag(page.card(3), 30, held=Keys.SHIFT)
        page.wait_saved()
        page.press("Ctrl+z")
        page.wait_saved()

    assert_quick(page, drag_all)


def test_two_columns_scroll_play_and_are_written_in_without_a_long_task(
    page: Page, long_project
) -> None:
    project, _ = long_project
    tracks = page.server.get(f"/api/projects/{project['id']}")["tracks"]
    if not any(track["translates"] for track in tracks):
        asked = {"source": tracks[0]["id"], "language": "de"}
        page.server.post(f"/api/projects/{project['id']}/translations", json=asked)
    page.open_project(project, "translate")
    page.find("[data-across]")
    page.wait_saved()

    def scroll_play_and_write() -> None:
        assert page.browser.execute_async_script(SCROLL) > 0.99
        page.press("HOME", "q")
        page.type("Zwei Zeilen davon")
        page.press("Ctrl+ENTER")
        page.type("Und noch eine")
        page.press("ESCAPE")
        page.wait_saved()

    assert_quick(page, scroll_play_and_write)


def test_an_hour_of_words_is_typed_in_without_a_long_task(page: Page, films) -> None:
    project = page.new_project(films["short"])
    words = [
        {"text": f"word{n}", "start_ms": n * 360, "end_ms": n * 360 + 300, "begins": n % 40 == 0}
        for n in range(10_000)
    ]
    put_words(page, project, words)
    page.open_project(project, "transcribe")
    page.find("[data-transcript] p").click()

    def write() -> None:
        page.type("Somebody says something else. ")
        page.press("ENTER", "BACKSPACE")
        page.wait_saved()

    assert_quick(page, write)


def test_thousands_of_captions_are_written_as_text_without_a_long_task(
    page: Page, long_project
) -> None:
    project, _ = long_project
    page.open_project(project, "transcribe")
    page.press("c")
    page.wait_text("[data-writing] p", "Caption 1 says")
    page.press("ENTER")
    wait_for(lambda: page.script("return document.activeElement.isContentEditable"), "the cursor")

    def write() -> None:
        page.place_cursor("HOME")
        page.type("Somebody says something else. ")
        page.press("ENTER", "ENTER", "BACKSPACE")
        page.wait_saved()
        page.press("Ctrl+z")
        page.wait_saved()

    assert_quick(page, write)


def open_long(page: Page, project) -> None:
    page.open_project(project)
    page.card(1)
    page.find("[data-overlay='0']")


def assert_quick(page: Page, act: Callable[[], None]) -> None:
    rounds: list[list[float]] = []
    limit = longest_task_allowed(page)
    # Memory is tidied whenever the browser finds time; one clean round shows what the page itself does.
    while len(rounds) < ROUNDS and [] not in rounds:
        with main_thread_tasks(page.browser) as tasks:
            act()
        assert tasks, "nothing was traced"
        rounds.append([ms for ms in tasks if ms > limit])
    assert [] in rounds, f"longest task allowed here: {limit:.0f} ms"


def longest_task_allowed(page: Page) -> float:
    with main_thread_tasks(page.browser) as tasks:
        for _ in range(5):
            page.script(YARDSTICK)
    quickest = sorted(tasks)[-5]
    return LONGEST_TASK_MS * max(1, quickest / YARDSTICK_MS)


FRAMES = """
const done = arguments[0]
let frames = 0
const until = performance.now() + 2000
const next = (now) => (++frames, now < until ? requestAnimationFrame(next) : done(frames))
requestAnimationFrame(next)
"""


def played_frame_ms(page: Page) -> float:
    """Processor time of the page's main thread for a frame, while the film plays.

    The least of three passages, for what else the browser does now and then is not the frame's.
    """
    passages = []
    for _ in range(3):
        # It is at its end by now, if reading the trace took long.
        page.press("HOME")
        if page.script("return document.querySelector('video').paused"):
            page.press("SPACE")
        with main_thread_tasks(page.browser) as tasks:
            frames = page.browser.execute_async_script(FRAMES)
            assert page.script("return !document.querySelector('video').paused")
        passages.append(sum(tasks) / frames)
    return min(passages)


def test_lighting_what_is_spoken_costs_under_two_milliseconds_a_frame(page: Page, films) -> None:
    costs = {}
    # The same page, once with words that are spoken now and once with words of later.
    for lit, begin_ms in ((True, 0), (False, 60_000)):
        project = page.new_project(films["short"])
        words = [
            {"text": f"word{n}", "start_ms": start, "end_ms": start + 300, "begins": n % 40 == 0}
            for n, start in enumerate(range(begin_ms, begin_ms + 3_600_000, 360))
        ]
        put_words(page, project, words)
        page.open_project(project, "transcribe")
        page.find("[data-transcript] p")
        page.press("SPACE")
        wait_for(lambda: page.clock() > "00:00:00.500", "the film to play")
        assert bool(page.script("return CSS.highlights.get('spoken').size")) == lit
        costs[lit] = played_frame_ms(page)
    print(f"{costs[True]:.2f} ms a frame with the word lit, {costs[False]:.2f} without")
    allowed = 2 * longest_task_allowed(page) / LONGEST_TASK_MS
    assert costs[True] - costs[False] < allowed
