"""A real browser on a real server and worker, as a person would use them."""

import contextlib
import tempfile
from collections.abc import Iterator
from itertools import count
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.chrome.service import Service

from tests.conftest import Films
from tests.server import Server
from tests.ui.page import Page, captions_every

FAILURES = Path(__file__).parent / "failures"
HEADLESS = Path(__file__).parent / "headless"
WITH_WINDOWS = Path("/usr/bin/chromium")
"""The browser that can tell things outside of a page, which the other cannot."""
FLAGS = (
    "--headless=new", "--no-sandbox", "--disable-gpu-sandbox", "--enable-unsafe-swiftshader",
    "--disable-dev-shm-usage", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--hide-scrollbars", "--lang=en-GB",
    "--autoplay-policy=no-user-gesture-required", "--force-device-scale-factor=1",
    # What grows or glides while it opens is not where it was when a click was aimed at it.
    "--force-prefers-reduced-motion",
)  # fmt: skip


def open_browser(
    downloads: Path, width: int = 1280, height: int = 800, *, binary: Path = HEADLESS
) -> webdriver.Chrome:
    options = webdriver.ChromeOptions()
    options.binary_location = str(binary)
    for flag in (*FLAGS, f"--user-data-dir={tempfile.mkdtemp(prefix='dunlin-browser-')}"):
        options.add_argument(flag)
    options.add_experimental_option("prefs", {"download.default_directory": str(downloads)})
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options, Service("/usr/bin/chromedriver"))
    resize(driver, width, height)
    return driver


def resize(driver: webdriver.Chrome, width: int, height: int) -> None:
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    server = Server(tmp_path_factory.mktemp("data"), "--demo")
    yield server
    server.stop()


@pytest.fixture(scope="session")
def downloads(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("downloads")


class Browser:
    """The browser of the tests, or the one that took its place."""

    def __init__(self, downloads: Path) -> None:
        self._downloads = downloads
        self.driver = open_browser(downloads)

    def begin_anew(self) -> None:
        self.quit()
        self.driver = open_browser(self._downloads)

    def quit(self) -> None:
        with contextlib.suppress(WebDriverException):
            self.driver.quit()


@pytest.fixture(scope="session")
def browser(downloads: Path) -> Iterator[Browser]:
    browser = Browser(downloads)
    yield browser
    browser.quit()


# A tab is a process: a new one has all of the page to compile anew, and one that goes through some sixty pages has no
# room left for the memory that each gave its caption renderer.
_TESTS_A_TAB = 8


@pytest.fixture(scope="session")
def tests_begun() -> Iterator[int]:
    return count()


def _leave_page(driver: webdriver.Chrome, server: Server, in_new_tab: bool) -> None:
    """Goes from the page of the test before to a picture, which remembers nothing."""
    if in_new_tab:
        driver.switch_to.new_window("tab")
    for other in set(driver.window_handles) - {tab := driver.current_window_handle}:
        driver.switch_to.window(other)
        driver.close()
    driver.switch_to.window(tab)
    resize(driver, 1280, 800)
    driver.get(f"{server.url}/dunlin.svg")
    driver.execute_script("localStorage.clear(); sessionStorage.clear()")


@pytest.fixture
def page(
    request: pytest.FixtureRequest,
    browser: Browser,
    server: Server,
    tests_begun: Iterator[int],
) -> Iterator[Page]:
    """A window that remembers nothing; on a failure its picture is kept."""
    try:
        _leave_page(browser.driver, server, next(tests_begun) % _TESTS_A_TAB == 0)
    except WebDriverException as gone:
        # Tabs end when the machine takes memory back, and then new ones of the same browser do, too. Between two tests
        # neither is to blame; a tab that ends within one still fails it.
        if "tab crashed" not in str(gone):
            raise
        browser.begin_anew()
        _leave_page(browser.driver, server, in_new_tab=False)
    page = Page(browser.driver, server)
    yield page
    report = getattr(request.node, "report", None)
    if report is not None and report.failed:
        FAILURES.mkdir(exist_ok=True)
        browser.driver.save_screenshot(str(FAILURES / f"{request.node.name}.png"))
    # A page that has something unsaved would ask before it lets go; one that ended asks nothing.
    with contextlib.suppress(WebDriverException):
        browser.driver.execute_script("window.onbeforeunload = null")


@pytest.fixture
def project(page: Page, films: Films) -> dict[str, Any]:
    """The short film with four captions, open in Time."""
    project = page.new_project(films["short"], captions_every(2000, 4))
    page.open_project(project)
    page.card(1)
    return project


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    outcome = yield
    report = outcome.get_result()  # type: ignore[attr-defined]
    if report.when == "call":
        item.report = report  # type: ignore[attr-defined]
