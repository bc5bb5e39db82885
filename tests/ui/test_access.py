"""Every main view read by axe, by day and by night, and in a small window."""

from collections.abc import Sequence
from pathlib import Path

import pytest

from tests.ui.conftest import resize
from tests.ui.page import Page
from tests.ui.test_transcript import put_words, spoken

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
DEMO = "/project/the-fog-bell-at-quillan-point"
VIEWS = {
    "projects": ("/", ".row"),
    "transcribe": (f"{DEMO}/transcribe", ".transcribe"),
    "time": (f"{DEMO}/time", ".card"),
    "style": (f"{DEMO}/style", "[data-style-panel] .rows"),
    "short": ("/project/low-water/style?view=short", "[data-look-specimens][data-drawn]"),
    "translate": (f"{DEMO}/translate", ".begin, [data-across]"),
    "check": (f"{DEMO}/check", ".place"),
    "spec": (f"{DEMO}/spec", "[data-limit]"),
    "bring-in": (f"{DEMO}/bring-in", ".bring-in"),
    "script": (f"{DEMO}/script", "[data-script-text]"),
    "by-ear": (f"{DEMO}/transcribe?view=ear", "[data-ear-begin]"),
    "all-captions": (f"{DEMO}/transcribe?view=page", "[data-writing] p"),
    "make": (f"{DEMO}/transcribe?view=make", ".make"),
    "deliver": (f"{DEMO}/deliver", "[data-format]"),
}

PANELS = {
    "cue": ("time", "c", ".panel"),
    "retime": ("time", "t", ".panel"),
    "fit": ("time", "T", ".panel"),
    "drafts": ("translate", "Shift+a", "[data-engine]"),
    "memory": ("translate", "Shift+r", "[data-memory-look]"),
    "terms": ("translate", "Shift+e", "[data-listed]"),
    "hand-over": ("translate", "Shift+x", "[data-hand-over]"),
}


OF_COLOURS = ("color-contrast", "link-in-text-block")
"""The rules of axe that colours can break."""
OVERHANG = """
const done = arguments[0], d = document.documentElement
const told = () => done([d.scrollWidth - d.clientWidth, d.scrollHeight - d.clientHeight])
requestAnimationFrame(() => requestAnimationFrame(told))
"""
CHOOSE_LIGHT = """
const told = { key: 'dunlin.light', newValue: arguments[0], storageArea: localStorage }
localStorage.setItem(told.key, told.newValue)
dispatchEvent(new StorageEvent('storage', told))
"""


@pytest.mark.parametrize("view", [*sorted(VIEWS), *PANELS])
def test_axe_finds_nothing_serious(page: Page, view: str) -> None:
    behind, key, panel = PANELS.get(view, (view, "", ""))
    address, ready = VIEWS[behind]
    page.open(address)
    page.find(ready)
    if panel:
        page.wait_saved()
        page.press("ARROW_DOWN", key)
        page.find(panel)
    if view == "time":
        page.press("ARROW_DOWN", "ENTER")
        page.find("textarea")
    assert violations_by_day_and_night(page) == []


def choose_light(page: Page, light: str) -> None:
    """Day or night comes over the view that is open, as when another window chooses it."""
    page.script(CHOOSE_LIGHT, light)
    page.find(f"html[data-light={light}]")


@pytest.mark.parametrize("light", ["day", "night"])
def test_axe_finds_nothing_serious_in_a_transcript(page: Page, films, light: str) -> None:
    project = page.new_project(films["short"])
    address = f"/api/projects/{project['id']}"
    put_words(page, project, [word | {"speaker": "Ilse"} for word in spoken()])
    speakers = [{"name": "Ilse", "colour": "#2f6f8f"}, {"name": "Tomas", "colour": "#8a5a14"}]
    page.server.http.put(f"{address}/speakers", json={"speakers": speakers})
    resize(page.browser, 1024, 768)
    page.open_project(project, "transcribe")
    choose_light(page, light)
    page.find("[data-transcript] p").click()
    page.press("Ctrl+f")
    page.find("[data-find]").send_keys("the")
    page.wait_text(".find [role=status]", "3 found")
    width = "const d = document.documentElement; return d.scrollWidth - d.clientWidth"
    assert page.script(width) == 0
    assert violations(page) == []
    page.press("ESCAPE", "ESCAPE", "m")
    page.find("[data-would-be]")
    page.find("[data-accept-captions]")
    assert page.script(width) == 0
    assert violations(page) == []
    resize(page.browser, 1280, 800)


def violations_by_day_and_night(page: Page) -> list:
    """What axe finds on the page in either light: by night all is what it is by day, in other colours."""
    choose_light(page, "day")
    found = violations(page)
    choose_light(page, "night")
    return found + violations(page, OF_COLOURS)


def violations(page: Page, rules: Sequence[str] = ()) -> list:
    """What axe finds on the page that is serious, with the places: by all of its rules, or by some."""
    if not page.script("return 'axe' in window"):
        page.script(AXE.read_text())
    found: list = page.browser.execute_async_script(
        "const [rules, done] = arguments;"
        "axe.run(document, {resultTypes: ['violations'], ...(rules.length && {runOnly: rules})}).then((r) =>"
        " done(r.violations.filter((v) => ['serious', 'critical'].includes(v.impact))"
        ".map((v) => [v.id, v.nodes.map((n) => n.target.join(' ') + ' ' + n.failureSummary)])))",
        rules,
    )
    return found


SIZES = [(1024, 768), (1280, 800), (1920, 1080)]


@pytest.mark.parametrize("view", VIEWS)
def test_a_view_logs_no_errors_and_nothing_of_it_runs_out_of_the_window(
    page: Page, view: str
) -> None:
    # What is still being worked out is not there yet, and the browser says so.
    page.server.wait_idle()
    page.browser.get_log("browser")
    address, ready = VIEWS[view]
    page.open(address)
    page.find(ready)
    severe = [
        entry["message"] for entry in page.browser.get_log("browser") if entry["level"] == "SEVERE"
    ]
    assert severe == []
    for size in SIZES:
        resize(page.browser, *size)
        # By two frames later all that follows the window's size did.
        width, height = page.browser.execute_async_script(OVERHANG)
        # A list of projects is as long as it is.
        assert (width, 0 if view == "projects" else height) == (0, 0), size
    resize(page.browser, 1280, 800)
