"""The page in the words of its users."""

import base64
import contextlib
from collections.abc import Iterator
from typing import Any

from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver import ActionChains, Chrome, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement

from tests.server import Server, wait_for

__all__ = ["Page", "captions_every"]


def captions_every(step_ms: int, count: int, length_ms: int = 1600) -> list[dict[str, Any]]:
    """Captions one after the other, each with two lines."""
    return [
        {
            "id": f"c{n:05}",
            "in_ms": n * step_ms,
            "out_ms": n * step_ms + length_ms,
            "spans": [{"text": f"Caption {n + 1} says this\nand a little more"}],
        }
        for n in range(count)
    ]


class Page:
    """One window. Every look waits for what it looks for."""

    def __init__(self, browser: Chrome, server: Server) -> None:
        self.browser, self.server = browser, server

    def open(self, address: str) -> None:
        self.browser.get(self.server.url + address)

    def open_project(self, project: dict[str, Any], stage: str = "time") -> None:
        self.open(f"/project/{project['id']}/{stage}")
        self.wait_saved()

    def new_project(
        self, film: Any, captions: list[dict[str, Any]] | None = None
    ) -> dict[str, Any]:
        """A project made through the API, so that each test has its own."""
        project = self.server.upload(film)
        if captions:
            self.server.post(
                f"/api/tracks/{project['tracks'][0]['id']}/edits",
                json={"base_revision": 0, "gesture": "made",
                      "operation": {"kind": "insert-captions", "captions": captions}},
            )  # fmt: skip
        return project

    def stored(self, project: dict[str, Any]) -> list[tuple[int, int, str]]:
        """The captions that the server has."""
        track = self.server.get(f"/api/tracks/{project['tracks'][0]['id']}")
        return [
            (c["in_ms"], c["out_ms"], "".join(span["text"] for span in c["spans"]))
            for c in track["captions"]
        ]

    def find(self, css: str) -> WebElement:
        return wait_for(lambda: next(iter(self.all(css)), None), css)

    def all(self, css: str) -> list[WebElement]:
        return self.browser.find_elements(By.CSS_SELECTOR, css)

    def click(self, css: str) -> None:
        element = self.find(css)
        wait_for(lambda: element.is_enabled() and element.is_displayed(), f"{css} to be enabled")
        element.click()

    def press(self, *keys: str) -> None:
        """Keys one after the other; `Ctrl+Z` and the like are chords."""
        actions = ActionChains(self.browser)
        for key in keys:
            *held, last = key.split("+") if len(key) > 1 else [key]
            names = {"Ctrl": Keys.CONTROL, "Alt": Keys.ALT, "Shift": Keys.SHIFT}
            for name in held:
                actions.key_down(names[name])
            actions.send_keys(getattr(Keys, last, last) if len(last) > 1 else last)
            for name in reversed(held):
                actions.key_up(names[name])
        actions.perform()

    def place_cursor(self, *keys: str) -> None:
        """Presses keys that move the cursor in a document, and ends when the page knows of it: the
        browser tells where the cursor is a moment after the key."""
        self.press(*keys)
        self.wait_selection_known()

    def wait_selection_known(self) -> None:
        """Until a document in the page knows what is selected in it."""
        self.browser.execute_async_script(
            "requestAnimationFrame(() => setTimeout(arguments[arguments.length - 1]))"
        )

    def type(self, text: str) -> None:
        ActionChains(self.browser).send_keys(text).perform()

    def overwrite(self, field: WebElement, *text: str) -> None:
        """Types in the place of all that a field says, by keys: what is taken out of it in any other
        way the page may put back before the typing comes."""
        field.send_keys(Keys.CONTROL, "a", Keys.NULL, *text)

    @contextlib.contextmanager
    def offline(self) -> Iterator[None]:
        """The page's server is out of reach inside."""
        conditions = {"latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
        self.browser.execute_cdp_cmd("Network.enable", {})
        emulate = "Network.emulateNetworkConditions"
        self.browser.execute_cdp_cmd(emulate, conditions | {"offline": True})
        try:
            yield
        finally:
            self.browser.execute_cdp_cmd(emulate, conditions | {"offline": False})

    def drag(self, element: WebElement, by_y: int, *, at_y: int = 0, held: str = "") -> None:
        """Drags it in five moves; a key that is named is held from the press on."""
        actions = ActionChains(self.browser, duration=40)
        actions.move_to_element_with_offset(element, 0, at_y).click_and_hold()
        if held:
            actions.key_down(held)
        for _ in range(5):
            actions.move_by_offset(0, by_y // 5)
        actions.release()
        if held:
            actions.key_up(held)
        actions.perform()

    def card(self, number: int) -> WebElement:
        return self.find(f"[data-number='{number}']")

    def current(self) -> str | None:
        cards = self.all(".card.current")
        return cards[0].get_attribute("data-caption") if cards else None

    def notes(self) -> list[str]:
        return self.script(
            "return [...document.querySelectorAll('[data-finding] b')].map((b) => b.textContent)"
        )

    def clock(self) -> str:
        return self.find("[data-clock]").text

    def wait_saved(self) -> None:
        wait_for(
            lambda: self.find("[data-saved]").text == "✓ Saved" and self.loaded(), "all to be saved"
        )

    def loaded(self) -> bool:
        return bool(
            self.all(
                ".card, .begin, .none, .style, .short, .transcribe, .check, .deliver, .spec-page, .bring-in, .script"
            )
        )

    def still_picture(self, width: int, height: int, left: int = 0, top: int = 0) -> bytes:
        """A PNG of a part of the window, taken when film and overlay, drawn apart, stand still."""
        clip = {"x": left, "y": top, "width": width, "height": height, "scale": 1}
        seen: list[str] = []

        def still() -> bool:
            seen.append(
                self.browser.execute_cdp_cmd("Page.captureScreenshot", {"clip": clip})["data"]
            )
            return len(seen) > 2 and seen[-1] == seen[-2] == seen[-3]

        wait_for(still, "the picture to stand still")
        return base64.b64decode(seen[-1])

    def script(self, code: str, *arguments: Any) -> Any:
        return self.browser.execute_script(code, *arguments)

    def wait_text(self, css: str, part: str) -> WebElement:
        def said() -> WebElement | None:
            # What is drawn anew between being found and being read is looked for again.
            with contextlib.suppress(StaleElementReferenceException):
                return next((e for e in self.all(css) if part in e.text), None)
            return None

        return wait_for(said, f"{css} to say {part!r}")
