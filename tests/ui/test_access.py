"""Every main view read by axe, by day and by night, and in a small window."""

from pathlib import Path

import pytest

from tests.ui.conftest import resize
from tests.ui.page import Page

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
DEMO = "/project/the-fog-bell-at-quillan-point"
VIEWS = {
    "projects": ("/", ".row"),
    "transcribe": (f"{DEMO}/transcribe", ".transcribe"),
    "time": (f"{DEMO}/time", ".card"),
    "check": (f"{DEMO}/check", ".place"),
    "spec": (f"{DEMO}/spec", "[data-limit]"),
    "bring-in": (f"{DEMO}/bring-in", ".bring-in"),
    "deliver": (f"{DEMO}/deliver", "[data-format]"),
}


@pytest.mark.parametrize("light", ["day", "night"])
@pytest.mark.parametrize("view", sorted(VIEWS))
def test_axe_finds_nothing_serious(page: Page, view: str, light: str) -> None:
    page.script("localStorage.setItem('dunlin.light', arguments[0])", light)
    address, ready = VIEWS[view]
    page.open(address)
    page.find(ready)
    if view == "time":
        page.press("ARROW_DOWN", "ENTER")
        page.find("textarea")
    page.script(AXE.read_text())
    violations = page.browser.execute_async_script(
        "const done = arguments[0]; axe.run(document, {resultTypes: ['violations']}).then((r) =>"
        " done(r.violations.filter((v) => ['serious', 'critical'].includes(v.impact))"
        ".map((v) => [v.id, v.nodes.map((n) => n.target.join(' ') + ' ' + n.failureSummary)])))"
    )
    assert violations == []


@pytest.mark.parametrize("size", [(1024, 768), (1280, 800), (1920, 1080)])
@pytest.mark.parametrize("view", ["bring-in", "check", "deliver", "spec", "time", "transcribe"])
def test_nothing_runs_out_of_the_window(page: Page, view: str, size: tuple[int, int]) -> None:
    resize(page.browser, *size)
    address, ready = VIEWS[view]
    page.open(address)
    page.find(ready)
    width, height = page.script(
        "const d = document.documentElement; return [d.scrollWidth - d.clientWidth, d.scrollHeight - d.clientHeight]"
    )
    resize(page.browser, 1280, 800)
    assert (width, height) == (0, 0)


def test_the_page_logs_no_errors(page: Page) -> None:
    page.browser.get_log("browser")
    for address, ready in VIEWS.values():
        page.open(address)
        page.find(ready)
    severe = [
        entry["message"] for entry in page.browser.get_log("browser") if entry["level"] == "SEVERE"
    ]
    assert severe == []
